import {
  assembleBench,
  Chain,
  freeJoints,
  isAstray,
  type Led,
  led,
  type Meeting,
  Meetings,
  meetingKey,
  meetingWords,
  placeOf,
  type Standing,
  stand,
  standing,
} from "@core/figure";
import type { Project, Tip } from "@core/project";
import { type Score, wholeMm } from "@core/routine";
import type { Vector } from "@core/shapes";
import type { StepOf, TipWay } from "@core/steps";
import type { Finding } from "./finding";
import type { Mend } from "./mend";
import type { Motor } from "./motors";
import { mostOfAKind, stepMs, stepUnder } from "./sampling";

interface Stretch {
  readonly meeting: Meeting;
  readonly from: number;
  to: number;
}

/** Samples of one pair that lie further apart than this are two meetings. */
const mergeSamples = 3;

/**
 * Where figures meet themselves, each other, the table or what stands around, over all of a routine: with the time, the place, and a mend where one was found by
 * trying. Joints that the routine leaves alone are taken to stand at home.
 */
export function figureMeetings(
  project: Project,
  score: Score,
  motors: readonly Motor[],
  asked: ReadonlyMap<number, Float32Array>,
  length: number,
): Finding[] {
  if (project.figures.length === 0) return [];
  const assembly = assembleBench(project);
  const meetings = new Meetings(project, assembly);
  if (meetings.isEmpty) return [];
  const now = standing(assembly);
  motors.forEach(({ map }, joint) => {
    now.targets[joint] = map.homeTarget;
  });
  const moving = [...asked.entries()].filter(([joint]) => motors[joint]?.joint.axis.kind === "angle");
  const open = new Map<string, Stretch>();
  const found: Stretch[] = [];
  for (let at = 0; at < length; at += 1) {
    let hasMoved = at === 0;
    for (const [joint, targets] of moving) {
      const target = targets[at] as number;
      if (target === now.targets[joint]) continue;
      now.targets[joint] = target;
      hasMoved = true;
    }
    if (!hasMoved) {
      // It stands: what met meets on.
      for (const stretch of open.values()) if (stretch.to === at - 1) stretch.to = at;
      continue;
    }
    stand(now);
    meetings.look(now, 0, (meeting) => {
      const key = meetingKey(meeting);
      const before = open.get(key);
      if (before && at - before.to <= mergeSamples) before.to = at;
      else if (found.length < mostOfAKind) {
        const stretch = { meeting, from: at, to: at };
        open.set(key, stretch);
        found.push(stretch);
      }
    });
  }
  const trial = new Trial(project, meetings, now, moving);
  return found.map(({ meeting, from, to }): Finding => {
    const span = stepUnder(score, from * stepMs);
    const step = span?.step.kind === "move" ? span.step : null;
    const [x, y, z] = meeting.atMm.map((value) => Math.round(value));
    const mends = span && step ? trial.mends(step, span.fromMs, span.arriveMs, motors) : [];
    return {
      kind: "meeting",
      jointId: null,
      stepId: span?.step.id ?? null,
      fromMs: from * stepMs,
      toMs: (to + 1) * stepMs,
      asked: 0,
      possible: 0,
      sentence: `${meetingWords(project, meeting)} at ${x}, ${y}, ${z} mm.`,
      mends,
    };
  });
}

/** Tries what would have a move pass: a joint that goes first or last, or a tip that is led round. */
class Trial {
  readonly #project: Project;
  readonly #meetings: Meetings;
  readonly #now: Standing;
  readonly #moving: readonly (readonly [number, Float32Array])[];

  constructor(
    project: Project,
    meetings: Meetings,
    now: Standing,
    moving: readonly (readonly [number, Float32Array])[],
  ) {
    this.#project = project;
    this.#meetings = meetings;
    this.#now = now;
    this.#moving = moving;
  }

  mends(step: StepOf<"move">, fromMs: number, arriveMs: number, motors: readonly Motor[]): Mend[] {
    const [from, to] = [Math.round(fromMs / stepMs), Math.round(arriveMs / stepMs)];
    const length = to - from;
    // What meets where the move begins or ends is the matter of a pose.
    if (length < 2 || this.#meetsAt(from) || this.#meetsAt(to)) return [];
    const turns = this.#moving.filter(([, targets]) => targets[from] !== targets[to]).map(([joint]) => joint);
    const mends: Mend[] = [];
    const delayMs = arriveMs - fromMs;
    if (!step.path && turns.length > 1)
      for (const joint of turns) {
        const motor = motors[joint];
        if (!motor || mends.length >= 2) continue;
        const { id: jointId, label } = motor.joint;
        const others = turns.filter((one) => one !== joint).flatMap((one) => motors[one]?.joint.id ?? []);
        if (this.#passes(from, length, (one) => (one === joint ? 0 : length)))
          mends.push({ kind: "goesFirst", stepId: step.id, label, others, delayMs });
        else if (this.#passes(from, length, (one) => (one === joint ? length : 0)))
          mends.push({ kind: "goesLast", stepId: step.id, jointId, label, delayMs });
      }
    const round = this.#roundWay(from, to, step.path?.pointing);
    if (round) mends.push({ kind: "roundBy", stepId: step.id, ...round });
    return mends;
  }

  /** Whether nothing meets while each joint waits so many samples before it runs through its own part. */
  #passes(from: number, length: number, waitOf: (joint: number) => number): boolean {
    for (let at = 0; at <= 2 * length; at += 1) {
      for (const [joint, targets] of this.#moving) {
        const since = Math.max(0, Math.min(length, at - waitOf(joint)));
        this.#now.targets[joint] = targets[from + since] as number;
      }
      if (this.#meetsNow()) return false;
    }
    return true;
  }

  #meetsAt(sample: number): boolean {
    for (const [joint, targets] of this.#moving)
      this.#now.targets[joint] = targets[Math.min(sample, targets.length - 1)] as number;
    return this.#meetsNow();
  }

  #meetsNow(): boolean {
    stand(this.#now);
    return this.#meetings.look(this.#now, 0.001) < 0.001;
  }

  /** A place over the middle of the way, as low as passes, by which a tip can be led round. */
  #roundWay(
    from: number,
    to: number,
    pointing: TipWay["pointing"],
  ): { readonly tipId: string; readonly viaMm: Vector } | null {
    const { assembly } = this.#now;
    const tip = this.#tipOf();
    if (!tip || placeOf(assembly, tip.partId) < 0) return null;
    const stanceAt = (sample: number) => {
      const stance = Float64Array.from(this.#now.targets);
      for (const [joint, targets] of this.#moving)
        stance[joint] = targets[Math.min(sample, targets.length - 1)] as number;
      return stance;
    };
    const [begin, end] = [stanceAt(from), stanceAt(to)];
    const free = freeJoints(this.#project.joints).filter(({ place }) =>
      this.#moving.some(([joint]) => joint === place),
    );
    const chain = new Chain(assembly, tip, free);
    const tipAt = (stance: Float64Array) => {
      chain.now.targets.set(stance);
      chain.stand();
      return [9, 10, 11].map((row) => chain.tip[row] as number);
    };
    const [a, b] = [tipAt(begin), tipAt(end)];
    for (const liftMm of [30, 60, 100, 150]) {
      const middle = (row: number) => ((a[row] as number) + (b[row] as number)) / 2;
      const viaMm = wholeMm([middle(0), middle(1), middle(2) + liftMm]);
      const way = led(assembly, tip, free, begin, end, viaMm, pointing);
      if (!isAstray(way) && this.#passesAlong(way, begin, end)) return { tipId: tip.id, viaMm };
    }
    return null;
  }

  #passesAlong({ targets }: Led, begin: Float64Array, end: Float64Array): boolean {
    const count = Math.max(...[...targets.values()].map((values) => values.length), 0);
    for (let at = 0; at < count; at += 1) {
      const share = at / Math.max(1, count - 1);
      for (let joint = 0; joint < begin.length; joint += 1)
        this.#now.targets[joint] =
          (begin[joint] as number) + share * ((end[joint] as number) - (begin[joint] as number));
      for (const [joint, values] of targets) this.#now.targets[joint] = values[at] as number;
      if (this.#meetsNow()) return false;
    }
    return count > 0;
  }

  /** The tip that most of the moving joints move. */
  #tipOf(): Tip | null {
    const free = freeJoints(this.#project.joints);
    let best: { readonly tip: Tip; readonly count: number } | null = null;
    for (const tip of this.#project.figures.flatMap(({ tips }) => tips)) {
      if (tip.does !== "reach") continue;
      const { joints } = new Chain(this.#now.assembly, tip, free);
      const count = joints.filter(({ place }) => this.#moving.some(([joint]) => joint === place)).length;
      if (count > 1 && (!best || count > best.count)) best = { tip, count };
    }
    return best?.tip ?? null;
  }
}
