import { conventionOf, doubtfulSentence, numberIn } from "@core/numbers";
import type { Joint, Pose, Project } from "@core/project";
import { byId } from "@core/project";
import { problem, type Result } from "@core/result";
import { jointMapOf } from "@core/rig";

/** In what a table of poses is written: the joint's own angle, a share of its travel, or what its servo is sent. */
export type PoseUnit = "deg" | "percent" | "setPoint";

interface Measure {
  readonly ofTarget: (target: number) => number;
  readonly toTarget: (value: number) => number;
}

const own: Measure = { ofTarget: (target) => target, toTarget: (value) => value };

/** How a joint's targets are written in a unit. A joint that spins is written as a share of full speed in every unit but what is sent. */
export function measureOf(project: Project, joint: Joint, unit: PoseUnit): Measure {
  if (unit === "deg") return own;
  const map = jointMapOf(joint, byId(project.cards, joint.cardId));
  if (unit === "setPoint") return { ofTarget: map.toSetPoint, toTarget: map.toTarget };
  const { lowTarget: low, highTarget: high } = map;
  return {
    ofTarget: (target) => ((target - low) / (high - low)) * 100,
    toTarget: (value) => low + (value / 100) * (high - low),
  };
}

/** Poses as rows of cells: names down, joints across. A joint that a pose does not have is an empty cell. */
export function writePoseTable(project: Project, poses: readonly Pose[], unit: PoseUnit): string[][] {
  const joints = project.joints.filter((joint) => poses.some((pose) => pose.targets[joint.id] !== undefined));
  const measures = joints.map((joint) => measureOf(project, joint, unit));
  const decimals = unit === "setPoint" ? 1 : 2;
  return [
    ["pose", ...joints.map((joint) => joint.label)],
    ...poses.map((pose) => [
      pose.name,
      ...joints.map((joint, at) => {
        const target = pose.targets[joint.id];
        return target === undefined ? "" : String(Number(measures[at]?.ofTarget(target).toFixed(decimals)));
      }),
    ]),
  ];
}

/** What a pasted table would change. */
export interface PoseTable {
  /** New targets by the id of the pose; joints that are not named stay. */
  readonly changes: ReadonlyMap<string, Pose["targets"]>;
  /** Poses that are not on the bench yet. */
  readonly added: readonly { readonly name: string; readonly targets: Pose["targets"] }[];
}

/** A cell without its unit. */
const bare = (cell: string) => cell.trim().replace(/(?:°|%|µs)$/, "");

const plain = (text: string) =>
  text
    .trim()
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, " ");

/**
 * Reads such a table again, from anywhere: joints and poses are found by their names, however they are spelt in capitals and dashes. A column
 * or a cell that cannot be read refuses all of it, with its place.
 */
export function readPoseTable(
  project: Project,
  rows: readonly (readonly string[])[],
  unit: PoseUnit,
): Result<PoseTable> {
  const [head, ...body] = rows;
  if (!head || body.length === 0) return problem("A table has a row of joints, and a row for each pose.");
  const joints: Joint[] = [];
  for (const name of head.slice(1)) {
    const joint = project.joints.find((one) => plain(one.label) === plain(name) || one.id === name.trim());
    if (!joint) return problem(`There is no joint “${name.trim()}” on the bench.`);
    joints.push(joint);
  }
  if (joints.length === 0) return problem("The first row should name the joints, after a cell for the poses.");
  const { convention, doubtful } = conventionOf(body.flatMap((row) => row.slice(1).map(bare)));
  if (doubtful !== null) return problem(doubtfulSentence(doubtful));
  const changes = new Map<string, Pose["targets"]>();
  const added: { name: string; targets: Pose["targets"] }[] = [];
  for (const [at, row] of body.entries()) {
    const name = (row[0] ?? "").trim();
    if (!name) return problem(`Row ${at + 2} has no name.`);
    const targets: Record<string, number> = {};
    for (const [place, joint] of joints.entries()) {
      const cell = (row[place + 1] ?? "").trim();
      if (!cell) continue;
      const value = numberIn(bare(cell), convention);
      const target = measureOf(project, joint, unit).toTarget(value);
      if (!Number.isFinite(target)) return problem(`${name}, ${joint.label}: “${cell}” is not a number.`);
      targets[joint.id] = Math.round(target * 1e4) / 1e4;
    }
    const pose = project.poses.find((one) => plain(one.name) === plain(name));
    if (pose) changes.set(pose.id, targets);
    else if (Object.keys(targets).length > 0) added.push({ name, targets });
  }
  return { ok: true, value: { changes, added } };
}
