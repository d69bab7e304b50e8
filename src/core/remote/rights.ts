import { type DeepReadonly, idSchema, labelSchema, listUpTo } from "@core/schema";
import * as z from "zod/mini";

/** What a device may do. Releasing everything it always may. */
export const rightsSchema = z.strictObject({
  isLookOnly: z.boolean(),
  /** The joints that it may move; null for all. */
  jointIds: z.nullable(listUpTo(idSchema, 200)),
  /** The one pad that it is shown; null for all. */
  padId: z.nullable(idSchema),
});
export type Rights = DeepReadonly<z.infer<typeof rightsSchema>>;

export const usualRights: Rights = { isLookOnly: false, jointIds: null, padId: null };

/** A device that was let in. */
export const deviceSchema = z.strictObject({ id: idSchema, name: labelSchema, rights: rightsSchema });
export type Device = DeepReadonly<z.infer<typeof deviceSchema>>;

/** Whether a device may use what can move these joints. */
export function mayUse({ isLookOnly, jointIds }: Rights, reaches: readonly string[]): boolean {
  if (isLookOnly) return false;
  return jointIds === null || reaches.every((id) => jointIds.includes(id));
}
