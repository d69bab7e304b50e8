import { demandOf, type EasedCurve, type Easing, easedBy } from "@core/easings";
import { type Assembly, assemblyOf, freeJoints, isAstray, type Led, led } from "@core/figure";
import {
  type Clip,
  emptyRoutine,
  homeTargetOf,
  type Pose,
  type Project,
  type Routine,
  type TakeLibrary,
} from "@core/project";
import { ok, problem, type Result } from "@core/result";
import type { Vector } from "@core/shapes";
import { type Aim, freshMove, type Ground, layStep, namedBy, type Step, type StepOf, type TipWay } from "@core/steps";
import { clipCurves } from "./clipCurve";
import { laneCurve } from "./laneCurve";
import { lastAtMost } from "./lastAtMost";
import { type Course, LaidPieces } from "./pieces";
import { Track } from "./track";

/** Where a step of the routine lies on its time. */
export interface Span {
  readonly step: Step;
  readonly fromMs: number;
  /** When the last of its joints should have arrived; `toMs` for a step that is no move. */
  readonly arriveMs: number;
  readonly toMs: number;
}

/** A moment at which time stands still until something happens, or at which a cue is said. */
export interface Halt {
  readonly atMs: number;
  readonly step: StepOf<"wait" | "cue">;
}

/** A way on which a tip cannot be led as it should. */
export interface Stray {
  readonly stepId: string;
  readonly fromMs: number;
  readonly toMs: number;
  /** Null where the tip is no longer there, or stands on nothing that moves. */
  readonly led: Led | null;
  /** The same way led round by a place, to see whether it would pass there; null where `led` is. */
  readonly roundBy: ((viaMm: Vector) => Led) | null;
}

/**
 * A routine made ready to be asked what it wants at any moment: ids looked up, lengths worked out, routines within it laid in place.
 * A wait takes no time of the score: the time of the score stands still while it waits.
 */
export interface Score {
  readonly routine: Routine;
  /** One way, from the beginning to the end, in ms. */
  readonly lengthMs: number;
  /** The steps in order; they follow one another without a gap. */
  readonly spans: readonly Span[];
  /** When each step begins. */
  readonly begins: Float64Array;
  readonly halts: readonly Halt[];
  /** One for each joint that the routine moves, in the order of the rack. */
  readonly tracks: readonly Track[];
  /** Where each of those joints is taken to stand at the beginning, when nobody knows better: home, or where a round without end leaves it. */
  readonly starts: readonly number[];
  /** Ways of tips that cannot be passed as they are. */
  readonly strays: readonly Stray[];
  /** Clips whose samples are not at hand; they are left out. */
  readonly missing: readonly Clip[];
}

/** How long a whole round lasts, there and back where it does that. */
export const roundMs = (score: Score): number => score.lengthMs * (score.routine.isThereAndBack ? 2 : 1);

/** Makes a routine of the project ready. Refused where it plays itself. */
export function readyScore(project: Project, routine: Routine, takes: TakeLibrary): Result<Score> {
  return new ScoreMaker(project, takes).make(routine, []);
}

/** A score of one move to a pose. */
export function scoreOfPose(project: Project, pose: Pose, moveMs: number): Result<Score> {
  const step = { ...freshMove(pose.id, pose.id), pace: { kind: "time", moveMs } } as const;
  return readyScore(project, { ...emptyRoutine(pose.id, pose.name), steps: [step] }, new Map());
}

/** The step that a moment belongs to, by its place; −1 in an empty score. */
export const stepAt = (score: Score, atMs: number): number =>
  Math.max(lastAtMost(score.begins, atMs), score.spans.length > 0 ? 0 : -1);

/** The joints that a routine moves, by id, in the order of the rack: also those of the routines within it. */
export function jointsOf(project: Project, routine: Routine): readonly string[] {
  const ids = new Set<string>();
  const seen = new Set<string>();
  const collect = (one: Routine) => {
    if (seen.has(one.id)) return;
    seen.add(one.id);
    // Poses come again and again, and each names many joints: each is looked at once.
    const named = one.steps.map(namedBy);
    const poseIds = new Set(named.map(({ poseId }) => poseId));
    for (const pose of project.poses) if (poseIds.has(pose.id)) for (const id of Object.keys(pose.targets)) ids.add(id);
    const routineIds = new Set(named.map(({ routineId }) => routineId));
    for (const inner of project.routines) if (routineIds.has(inner.id)) collect(inner);
    for (const lane of one.lanes) ids.add(lane.jointId);
    for (const clip of one.clips) {
      const take = project.takes.find((candidate) => candidate.id === clip.takeId);
      for (const id of take?.jointIds ?? []) if (!clip.jointIds || clip.jointIds.includes(id)) ids.add(id);
    }
  };
  collect(routine);
  return project.joints.filter((joint) => ids.has(joint.id)).map((joint) => joint.id);
}

interface Shape {
  readonly curve: EasedCurve;
  readonly peakRate: number;
}

/** Easings never change once they are made, and a score asks for the same ones over and over. */
const shapes = new WeakMap<Easing, Shape>();

function shapeOf(easing: Easing): Shape {
  const known = shapes.get(easing);
  if (known) return known;
  const shape = { curve: easedBy(easing), peakRate: demandOf(easing).peakRate };
  shapes.set(easing, shape);
  return shape;
}

/** Ways that were worked out, by figures and by what else they are made of: each edit lays a routine anew, and few change a way. */
const ways = new WeakMap<Project["figures"], Map<string, Led>>();
const mostKnownWays = 300;

function knownLed(figures: Project["figures"], key: string, make: () => Led): Led {
  const known = ways.get(figures) ?? new Map<string, Led>();
  ways.set(figures, known);
  const found = known.get(key);
  if (found) return found;
  if (known.size >= mostKnownWays) known.clear();
  const made = make();
  known.set(key, made);
  return made;
}

class ScoreMaker {
  readonly #project: Project;
  readonly #takes: TakeLibrary;
  readonly #poses: ReadonlyMap<string, Pose>;
  readonly #places: ReadonlyMap<string, number>;
  readonly #made = new Map<string, Score>();
  readonly #aims = new Map<string, readonly Aim[]>();
  #assembly: Assembly | null = null;

  constructor(project: Project, takes: TakeLibrary) {
    this.#project = project;
    this.#takes = takes;
    this.#poses = new Map(project.poses.map((pose) => [pose.id, pose]));
    this.#places = new Map(project.joints.map((joint, index) => [joint.id, index]));
  }

  make(routine: Routine, within: readonly string[]): Result<Score> {
    const known = this.#made.get(routine.id);
    if (known) return ok(known);
    if (within.includes(routine.id)) return problem(`${routine.name} plays itself, without end.`);
    const laid = new LaidPieces(routine.steps.length);
    const spans: Span[] = [];
    const halts: Halt[] = [];
    const strays: Stray[] = [];
    let atMs = 0;
    const ground = this.#groundOf(laid, halts, strays, [...within, routine.id]);
    for (const step of routine.steps) {
      const done = layStep(step, atMs, ground);
      if (!done.ok) return done;
      const { arriveMs, toMs } = done.value;
      spans.push({ step, fromMs: atMs, arriveMs, toMs });
      atMs = toMs;
    }
    const score = this.#finish(routine, atMs, spans, halts, strays, laid);
    this.#made.set(routine.id, score);
    return ok(score);
  }

  /** The score as its steps see it while they are laid into it. */
  #groundOf(laid: LaidPieces, halts: Halt[], strays: Stray[], within: readonly string[]): Ground<Step> {
    return {
      aimsOf: (poseId) => this.#aimsOf(poseId),
      standsAt: (joint) => this.#standsAt(laid, joint),
      along: (stepId, easing, way, aims, fromMs, timeOf) => {
        const lead = this.#lead(laid, way, aims);
        const found = lead?.(way.viaMm) ?? null;
        const toMs = fromMs + timeOf(found?.wayMm ?? 0);
        if (!found || isAstray(found)) strays.push({ stepId, fromMs, toMs, led: found, roundBy: lead });
        const { curve, peakRate } = shapeOf(easing);
        for (const { joint, target } of aims) {
          const targets = found?.targets.get(joint);
          const pieces = laid.to(joint);
          const course: Course = targets
            ? { kind: "led", stepId, curve, targets }
            : { kind: "move", stepId, curve, peakRate };
          pieces.add(fromMs, toMs, target, course);
          pieces.at = target;
        }
        return toMs;
      },
      mover: (stepId, easing) => {
        const course: Course = { kind: "move", stepId, ...shapeOf(easing) };
        return ({ joint, target }, fromMs, toMs) => {
          const pieces = laid.to(joint);
          pieces.add(fromMs, toMs, target, course);
          pieces.at = target;
        };
      },
      halt: (atMs, step) => {
        if (step.kind === "wait" || step.kind === "cue") halts.push({ atMs, step });
      },
      nest: (routineId, times, atMs) => {
        const inner = this.#project.routines.find((one) => one.id === routineId);
        if (!inner) return problem("A routine that it plays is no longer on the bench.");
        const made = this.make(inner, within);
        return made.ok ? ok(layNested(made.value, times, atMs, laid, halts)) : made;
      },
    };
  }

  #standsAt(laid: LaidPieces, joint: number): number {
    const known = laid.leaves(joint);
    return Number.isNaN(known) ? this.#homeOf(joint) : known;
  }

  /** Leads a tip from where the joints stand by now to where these aims have it, straight or by a place; null where it is not there. */
  #lead(laid: LaidPieces, { tipId, pointing }: TipWay, aims: readonly Aim[]): ((viaMm: Vector | null) => Led) | null {
    const { figures, joints } = this.#project;
    const tip = figures.flatMap(({ tips }) => tips).find(({ id }) => id === tipId);
    if (!tip) return null;
    const from = Float64Array.from(joints, (_, joint) => this.#standsAt(laid, joint));
    const to = Float64Array.from(from);
    for (const { joint, target } of aims) to[joint] = target;
    const free = freeJoints(joints).filter(({ place }) => aims.some(({ joint }) => joint === place));
    // Joints by id: moved in the rack they have other places, and turn other parts there.
    const limits = free.map(({ place, low, high }) => `${place}:${low}:${high}`);
    const key = `${tipId} ${pointing} ${joints.map(({ id }) => id)} ${limits} ${from} ${to}`;
    return (viaMm) =>
      knownLed(figures, `${key} ${viaMm}`, () => {
        this.#assembly ??= assemblyOf(this.#project);
        return led(this.#assembly, tip, free, from, to, viaMm, pointing);
      });
  }

  /** What a pose asks of which joint, in the order of the rack. */
  #aimsOf(poseId: string): readonly Aim[] {
    const known = this.#aims.get(poseId);
    if (known) return known;
    const aims = Object.entries(this.#poses.get(poseId)?.targets ?? {})
      .map(([jointId, target]) => ({ jointId, target, joint: this.#places.get(jointId) ?? -1 }))
      .filter((aim) => aim.joint >= 0)
      .sort((a, b) => a.joint - b.joint);
    this.#aims.set(poseId, aims);
    return aims;
  }

  #finish(
    routine: Routine,
    stepsMs: number,
    spans: readonly Span[],
    halts: readonly Halt[],
    strays: readonly Stray[],
    laid: LaidPieces,
  ): Score {
    const joints = jointsOf(this.#project, routine).map((id) => this.#places.get(id) as number);
    const takeOf = (id: string) => {
      const take = this.#project.takes.find((one) => one.id === id);
      return take && { take, data: this.#takes.get(id) };
    };
    const tracks = joints.map((joint) => {
      const jointId = this.#project.joints[joint]?.id ?? "";
      const lane = laneCurve(routine.lanes.find((one) => one.jointId === jointId));
      return new Track(joint, laid.to(joint), lane, clipCurves(routine.clips, jointId, takeOf));
    });
    const lastKeyMs = Math.max(0, ...routine.lanes.map((lane) => lane.keys.at(-1)?.atMs ?? 0));
    const lastClipMs = Math.max(0, ...routine.clips.filter((clip) => !clip.isMuted).map(endOfClip));
    const lengthMs = Math.max(stepsMs, lastKeyMs, lastClipMs);
    const goesRound = routine.repeat.kind === "forever" && !routine.isThereAndBack;
    const starts = tracks.map((track) => {
      const home = this.#homeOf(track.joint);
      return goesRound ? track.baseAt(lengthMs, home) : home;
    });
    const missing = routine.clips.filter((clip) => !clip.isMuted && !this.#takes.has(clip.takeId));
    const begins = Float64Array.from(spans, (span) => span.fromMs);
    return { routine, lengthMs, spans, begins, halts, tracks, starts, strays, missing };
  }

  #homeOf(joint: number): number {
    const one = this.#project.joints[joint];
    return one ? homeTargetOf(one) : 0;
  }
}

/** Where a clip ends on the time of its routine, in ms. */
export const endOfClip = (clip: Clip): number => clip.atMs + (clip.toMs - clip.fromMs) * clip.stretch;

/** Lays a routine within another, so many times. Gives when it ends. */
function layNested(score: Score, times: number, fromMs: number, laid: LaidPieces, halts: Halt[]): number {
  const oneMs = roundMs(score);
  const toMs = fromMs + times * oneMs;
  const { isThereAndBack } = score.routine;
  for (let round = 0; round < times && score.halts.length > 0; round += 1)
    for (const halt of score.halts) halts.push({ step: halt.step, atMs: fromMs + round * oneMs + halt.atMs });
  if (oneMs === 0) return toMs;
  for (const track of score.tracks) {
    const pieces = laid.to(track.joint);
    pieces.add(fromMs, toMs, Number.NaN, { kind: "nested", track, lengthMs: score.lengthMs, isThereAndBack });
    // Whether it leaves the joint somewhere of its own: the same from two different beginnings.
    const endOf = (start: number) =>
      track.baseAt(isThereAndBack ? 0 : score.lengthMs, Number.isNaN(pieces.at) ? start : pieces.at);
    const end = endOf(0);
    if (end === endOf(1)) pieces.at = end;
  }
  return toMs;
}

/**
 * Samples what a joint is asked for: `out[i]` is its target at `fromMs + i × stepMs`.
 */
export function sampleTrack(track: Track, start: number, fromMs: number, stepMs: number, out: Float32Array): void {
  track.sample(start, fromMs, stepMs, out);
}
