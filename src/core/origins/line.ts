import { idSchema, textUpTo } from "@core/schema";
import * as z from "zod/mini";
import { type OriginKind, thousand } from "./originKind";

/** A line `name=value` that arrives on the link of a board, or of any. */
const schema = z.strictObject({
  kind: z.literal("line"),
  name: textUpTo(40),
  /** The board whose link it arrives on; null for whichever says it. */
  boardId: z.nullable(idSchema),
});

export const line: OriginKind<typeof schema> = {
  schema,
  name: "Line on a link",
  begin: () => [{ origin: { kind: "line", name: "value", boardId: null }, range: thousand }],
  words: ({ name }) => `“${name}=…” on a link`,
  isSteady: () => true,
  silentAfterMs: () => 2000,
};
