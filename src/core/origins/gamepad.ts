import { wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import { type OriginKind, thousand } from "./originKind";

/** An axis or a button of a gamepad. */
const schema = z.strictObject({
  kind: z.literal("gamepad"),
  pad: wholeBetween(0, 3),
  part: z.enum(["axis", "button"]),
  index: wholeBetween(0, 31),
});

export const gamepad: OriginKind<typeof schema> = {
  schema,
  name: "Gamepad",
  begin: () => [{ origin: { kind: "gamepad", pad: 0, part: "axis", index: 0 }, range: thousand }],
  words: ({ pad, part, index }) => `pad ${pad + 1}, ${part} ${index}`,
  isSwitch: ({ part }) => part === "button",
};
