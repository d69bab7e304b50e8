import { assemblyOf, Chain, freeJoints } from "@core/figure";
import { homeTargetOf, type Project } from "@core/project";
import type { Vector } from "@core/shapes";
import type { Score } from "./score";

/** Places about half-way of a move of a tip, in mm. */
export interface Middles {
  /** Of the straight way. */
  readonly straight: Vector;
  /** Where the tip is when each joint has gone half of its own way. */
  readonly ofJoints: Vector;
}

/** A place in whole mm, as a person types it. 0 is added for a file, which knows no −0. */
export const wholeMm = ([x, y, z]: Vector): Vector => [Math.round(x) + 0, Math.round(y) + 0, Math.round(z) + 0];

/** The middles of a move; null where the move or the tip is not there. */
export function middlesOf(project: Project, score: Score, stepId: string, tipId: string): Middles | null {
  const span = score.spans.find(({ step }) => step.id === stepId);
  const tip = project.figures.flatMap(({ tips }) => tips).find(({ id }) => id === tipId);
  if (!span || !tip) return null;
  const chain = new Chain(assemblyOf(project), tip, freeJoints(project.joints));
  const stanceAt = (atMs: number): Float64Array => {
    const stance = Float64Array.from(project.joints, homeTargetOf);
    score.tracks.forEach((track, at) => {
      stance[track.joint] = track.valueAt(atMs, score.starts[at] as number);
    });
    return stance;
  };
  const tipIn = (stance: Float64Array): Vector => {
    chain.now.targets.set(stance);
    chain.stand();
    const { tip: frame } = chain;
    return [frame[9] as number, frame[10] as number, frame[11] as number];
  };
  const [from, to] = [stanceAt(span.fromMs), stanceAt(span.arriveMs)];
  const [a, b] = [tipIn(from), tipIn(to)];
  return {
    straight: [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2],
    ofJoints: tipIn(from.map((target, joint) => (target + (to[joint] as number)) / 2)),
  };
}

/** A place over the middle of the straight way of a move: where a tip that is to be led round may well go by. In whole mm; null like the middles. */
export function overTheMiddle(project: Project, score: Score, stepId: string, tipId: string): Vector | null {
  const middles = middlesOf(project, score, stepId, tipId);
  return middles && over(middles.straight, 50);
}

export const over = ([x, y, z]: Vector, liftMm: number): Vector => wholeMm([x, y, z + liftMm]);
