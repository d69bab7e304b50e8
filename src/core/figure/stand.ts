import type { Figure, Part, Project } from "@core/project";
import type { Vector } from "@core/shapes";
import { type Frames, frameOfPlace, frameOfTurn, frameSize, joinFrames, unit } from "./frames";
import { rockerWay } from "./linkage";

const rad = Math.PI / 180;

/**
 * All figures of a bench, made ready to be stood as their joints stand.
 *
 * | word | is |
 * | --- | --- |
 * | target | what a joint is asked for, or where it stands, in its own degrees |
 * | way | how far a part is turned (degrees) or slid (mm) from its place |
 * | place number | where a part or joint stands in the lists here |
 */
export interface Assembly {
  /** Parts of all figures, each behind the one that it hangs on. */
  readonly parts: readonly Part[];
  readonly figureOf: readonly Figure[];
  /** The place number of what each part hangs on; −1 for the table. */
  readonly parents: Int32Array;
  /** Place numbers of all parts in an order in which each comes behind the one whose way it follows. */
  readonly wayOrder: readonly number[];
  /** The place number of the joint by which each part moves in the end, through whatever it follows; −1 for none. */
  readonly movers: Int32Array;
  readonly jointIds: readonly string[];
  /** Frame of each part in its parent's, while its way is 0. */
  readonly rests: Frames;
  readonly axes: readonly Vector[];
}

/** How an assembly stands. Made once, and written over at each look. */
export interface Standing {
  readonly assembly: Assembly;
  /** By place number of the joint. */
  readonly targets: Float64Array;
  readonly ways: Float64Array;
  /** A frame for each part, in the world: x forward, y to the left, z up from the table, in mm. */
  readonly frames: Frames;
}

export const partFrame = (place: number): number => place * frameSize;

/** Makes the figures ready. Parts that hang on nothing are left out: the checks name them. */
export function assemble(figures: readonly Figure[], jointIds: readonly string[]): Assembly {
  const parts: Part[] = [];
  const figureOf: Figure[] = [];
  for (const figure of figures)
    for (const part of inOrder(figure.parts, (one) => one.parentId)) {
      parts.push(part);
      figureOf.push(figure);
    }
  const places = new Map(parts.map(({ id }, place) => [id, place]));
  const joints = new Map(jointIds.map((id, place) => [id, place]));
  const rests = new Float64Array(parts.length * frameSize);
  const foot = new Float64Array(frameSize);
  const own = new Float64Array(frameSize);
  parts.forEach((part, place) => {
    frameOfPlace(part.place, own);
    if (part.parentId !== null) rests.set(own, partFrame(place));
    else {
      frameOfPlace((figureOf[place] as Figure).place, foot);
      joinFrames(foot, 0, own, 0, rests, partFrame(place));
    }
  });
  const wayOrder = inOrder(parts, leaderOf).map(({ id }) => places.get(id) as number);
  const movers = new Int32Array(parts.length).fill(-1);
  for (const place of wayOrder) {
    const { motion } = parts[place] as Part;
    if (motion.kind === "fixed") continue;
    const { by } = motion;
    if (by.kind === "joint") movers[place] = by.jointId === null ? -1 : (joints.get(by.jointId) ?? -1);
    else movers[place] = movers[places.get(by.partId) ?? -1] ?? -1;
  }
  return {
    parts,
    figureOf,
    parents: Int32Array.from(parts, ({ parentId }) => (parentId === null ? -1 : (places.get(parentId) ?? -1))),
    wayOrder,
    movers,
    jointIds,
    rests,
    axes: parts.map(({ motion }) => (motion.kind === "fixed" ? [0, 0, 1] : unit(motion.axis))),
  };
}

/** The assembly of a project: its own figures. */
export const assemblyOf = (project: Pick<Project, "figures" | "joints">): Assembly =>
  assemble(
    project.figures,
    project.joints.map(({ id }) => id),
  );

const leaderOf = ({ motion }: Part): string | null =>
  motion.kind !== "fixed" && motion.by.kind !== "joint" ? motion.by.partId : null;

/** The parts with each behind the one that `before` names. What is in a ring is left out. */
function inOrder(parts: readonly Part[], before: (part: Part) => string | null): readonly Part[] {
  const byIds = new Map(parts.map((part) => [part.id, part]));
  const done = new Set<Part>();
  const lay = (part: Part, hops: number): boolean => {
    if (done.has(part)) return true;
    if (hops > parts.length) return false;
    const id = before(part);
    const first = id === null ? undefined : byIds.get(id);
    if (id !== null && (!first || !lay(first, hops + 1))) return false;
    done.add(part);
    return true;
  };
  for (const part of parts) lay(part, 0);
  return [...done];
}

/** A standing of an assembly, with each joint at 0 until it is told otherwise. */
export function standing(assembly: Assembly): Standing {
  const made: Standing = {
    assembly,
    targets: new Float64Array(assembly.jointIds.length),
    ways: new Float64Array(assembly.parts.length),
    frames: new Float64Array(assembly.parts.length * frameSize),
  };
  stand(made);
  return made;
}

/** Works out where each part stands for the targets that are written in. */
export function stand(now: Standing): void {
  standWays(now);
  for (let place = 0; place < now.assembly.parts.length; place += 1) standPart(now, place);
}

const placesOf = new WeakMap<Assembly, ReadonlyMap<string, number>>();

/** The place number of a part; −1 for one that does not stand here. */
export function placeOf(assembly: Assembly, partId: string): number {
  let known = placesOf.get(assembly);
  if (!known) {
    known = new Map(assembly.parts.map(({ id }, place) => [id, place]));
    placesOf.set(assembly, known);
  }
  return known.get(partId) ?? -1;
}

/** Works out the way of each part. */
export function standWays({ assembly, ways, targets }: Standing): void {
  for (const place of assembly.wayOrder) {
    const { motion } = assembly.parts[place] as Part;
    if (motion.kind === "fixed") continue;
    const { by } = motion;
    if (by.kind === "joint") {
      const joint = assembly.movers[place] as number;
      ways[place] = by.offset + (joint < 0 ? 0 : by.ratio * (targets[joint] as number));
      continue;
    }
    const led = ways[placeOf(assembly, by.partId)] ?? 0;
    if (by.kind === "linkage") {
      ways[place] = rockerWay(by, led);
      continue;
    }
    const way = by.ratio * led + by.offset;
    ways[place] = by.range ? Math.max(by.range.low, Math.min(by.range.high, way)) : way;
  }
}

const turned = new Float64Array(frameSize);
const hung = new Float64Array(frameSize);

/** Works out the frame of one part, from its way and from where its parent stands. */
export function standPart({ assembly, ways, frames }: Standing, place: number): void {
  const { motion } = assembly.parts[place] as Part;
  const at = partFrame(place);
  const parent = assembly.parents[place] as number;
  const way = ways[place] as number;
  const isMoved = motion.kind !== "fixed" && way !== 0;
  if (!isMoved && parent < 0) {
    for (let index = 0; index < frameSize; index += 1) frames[at + index] = assembly.rests[at + index] as number;
    return;
  }
  if (!isMoved) {
    joinFrames(frames, partFrame(parent), assembly.rests, at, frames, at);
    return;
  }
  const axis = assembly.axes[place] as Vector;
  if (motion.kind === "turn") frameOfTurn(axis, way * rad, turned);
  else {
    frameOfTurn(axis, 0, turned);
    turned[9] = axis[0] * way;
    turned[10] = axis[1] * way;
    turned[11] = axis[2] * way;
  }
  if (parent < 0) joinFrames(assembly.rests, at, turned, 0, frames, at);
  else {
    joinFrames(assembly.rests, at, turned, 0, hung, 0);
    joinFrames(frames, partFrame(parent), hung, 0, frames, at);
  }
}

/** How much the way of a part changes for one degree of its joint, where it stands now. */
export function rateOf(now: Standing, place: number): number {
  const { motion } = now.assembly.parts[place] as Part;
  if (motion.kind === "fixed") return 0;
  const { by } = motion;
  if (by.kind === "joint") return by.jointId === null ? 0 : by.ratio;
  const leader = placeOf(now.assembly, by.partId);
  const led = now.ways[leader] ?? 0;
  if (by.kind === "linkage") {
    // Its slope by a small step: no formula stays finite where the bars stretch.
    const step = 0.01;
    return ((rockerWay(by, led + step) - rockerWay(by, led - step)) / (2 * step)) * rateOf(now, leader);
  }
  const way = by.ratio * led + by.offset;
  const isAtEnd = by.range !== null && (way < by.range.low || way > by.range.high);
  return isAtEnd ? 0 : by.ratio * rateOf(now, leader);
}

/** Sets targets by joint id; a joint that is not named stays. */
export function setTargets(now: Standing, targets: Readonly<Record<string, number>>): void {
  now.assembly.jointIds.forEach((id, joint) => {
    const target = targets[id];
    if (target !== undefined && Number.isFinite(target)) now.targets[joint] = target;
  });
}
