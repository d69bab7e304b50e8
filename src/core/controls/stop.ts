import * as z from "zod/mini";
import { type ControlKind, common } from "./controlKind";

/** Ends what plays; its joints stay where they are. */
const schema = z.strictObject({ kind: z.literal("stop"), ...common });

export const stop: ControlKind<typeof schema> = {
  schema,
  name: "Stop",
  span: { wide: 2, high: 1 },
  works: () => ({}),
};
