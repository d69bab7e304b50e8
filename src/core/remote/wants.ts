import { afarKeyOf } from "@core/origins";
import type { Project } from "@core/project";
import type { Wants } from "./doors";

/** What this project listens to, and what others may ask of it. */
export function wantsOf({ sources, outside, poses, routines }: Project): Wants {
  const named = (items: readonly { readonly id: string; readonly name: string }[], ids: readonly string[]) =>
    items.filter(({ id }) => ids.includes(id)).map(({ id, name }) => ({ id, name }));
  return {
    root: outside.root,
    keys: [...new Set(sources.flatMap(({ origin }) => afarKeyOf(origin) ?? []))],
    mayStop: outside.mayStop,
    poses: named(poses, outside.poseIds),
    routines: named(routines, outside.routineIds),
  };
}
