import type { Project } from "@core/project";
import type { Said } from "./doors";
import { levelOf } from "./topics";

/** How a joint stands, as the bench tells others. */
export interface JointStanding {
  readonly target: number | null;
  readonly actual: number | null;
  readonly isHeld: boolean;
}

/** What a bench says of its joints and of what plays. Two joints of one name are told apart by a number. */
export function statesOf(
  project: Project,
  standingOf: (joint: number) => JointStanding,
  routine: { readonly name: string; readonly state: string } | null,
): readonly Said[] {
  const used = new Map<string, number>();
  const joints = project.joints.map(({ label }, at): Said => {
    const level = levelOf(label);
    const times = (used.get(level) ?? 0) + 1;
    used.set(level, times);
    const { target, actual, isHeld } = standingOf(at);
    return { path: `joint/${times === 1 ? level : `${level}-${times}`}`, values: { target, actual, held: isHeld } };
  });
  return [...joints, { path: "routine", values: { name: routine?.name ?? "", state: routine?.state ?? "none" } }];
}
