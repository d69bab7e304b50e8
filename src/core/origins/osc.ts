import { textUpTo, wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import { afarKeys, silence, taken } from "./afar";
import { type OriginKind, offOn } from "./originKind";

/** An address as the standard has it (OSC 1.0): printable letters without those that make a pattern. */
export const oscAddress = /^(\/[!"$-)+\-.0->@-Z\\^-z|~]+)+$/;

/** One argument of the messages that arrive under an OSC address. */
const schema = z.strictObject({
  kind: z.literal("osc"),
  address: textUpTo(120).check(z.regex(oscAddress)),
  argument: wholeBetween(0, 15),
  ...taken,
});

export const osc: OriginKind<typeof schema> = {
  schema,
  name: "Desk or tablet (OSC)",
  begin: () => [
    { origin: { kind: "osc", address: "/fader/1", argument: 0, isHand: true, silentAfterMs: null }, range: offOn },
  ],
  words: ({ address, argument }) => (argument === 0 ? address : `${address}, number ${argument + 1}`),
  isSteady: ({ isHand }) => !isHand,
  silentAfterMs: silence,
  afarKey: ({ address, argument }) => afarKeys.osc(address, argument),
};
