import * as z from "zod/mini";
import { type OriginKind, thousand } from "./originKind";

/** Pushed along a line; `lowAt` is where its low end lies. */
const schema = z.strictObject({ kind: z.literal("slider"), lowAt: z.enum(["bottom", "top", "left", "right"]) });

export const slider: OriginKind<typeof schema> = {
  schema,
  name: "Slider",
  begin: () => [{ origin: { kind: "slider", lowAt: "bottom" }, range: thousand }],
};
