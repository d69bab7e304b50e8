import { figure } from "@core/numbers";
import { wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import type { EncodingKind } from "./encodingKind";
import { periodUsOf } from "./frame";
import { linearMaker } from "./maker";

/** A bus adapter hands whole tick positions to smart servos; it makes no pulses. Its channels are the devices' ids. */
const schema = z.strictObject({
  kind: z.literal("bus"),
  /** How fast the wire runs; all devices on it are set to the same. */
  bitsPerS: wholeBetween(1200, 20_000_000),
});

export const bus: EncodingKind<typeof schema> = {
  schema,
  name: "Bus adapter for smart servos",
  begin: () => ({ kind: "bus", bitsPerS: 230_400 }),
  maker: (_, frameHz) =>
    linearMaker({
      unit: "tick",
      countName: "tick",
      periodUs: periodUsOf(frameHz),
      gain: 1,
      offset: 0,
      // How far a tick may go is the family's matter, and the card's window's.
      lowestCount: -(2 ** 31),
      highestCount: 2 ** 31 - 1,
      rounding: "round",
    }),
  mostDigits: () => 0,
  working: (_, { setPoint }) => [`tick = ${figure(setPoint)}, rounded`],
};
