import { assemblyOf, Chain, freeJoints } from "@core/figure";
import { homeTargetOf, type Project } from "@core/project";
import type { Vector } from "@core/shapes";
import type { Score } from "./score";

const liftMm = 50;

/** A place over the middle of the straight way of a move: where a tip that is to be led round may well go by. In whole mm; null where the move or the tip is not there. */
export function overTheMiddle(project: Project, score: Score, stepId: string, tipId: string): Vector | null {
  const span = score.spans.find(({ step }) => step.id === stepId);
  const tip = project.figures.flatMap(({ tips }) => tips).find(({ id }) => id === tipId);
  if (!span || !tip) return null;
  const chain = new Chain(assemblyOf(project), tip, freeJoints(project.joints));
  const tipAt = (atMs: number) => {
    project.joints.forEach((joint, place) => {
      chain.now.targets[place] = homeTargetOf(joint);
    });
    score.tracks.forEach((track, at) => {
      chain.now.targets[track.joint] = track.valueAt(atMs, score.starts[at] as number);
    });
    chain.stand();
    return [9, 10, 11].map((row) => chain.tip[row] as number);
  };
  const [from, to] = [tipAt(span.fromMs), tipAt(span.arriveMs)];
  const middle = (row: number) => Math.round(((from[row] ?? 0) + (to[row] ?? 0)) / 2) + 0;
  return [middle(0), middle(1), middle(2) + liftMm];
}
