import { type Easing, monotoneSlopes } from "@core/easings";
import {
  byId,
  homeTargetOf,
  type Joint,
  type Key,
  type Project,
  type Routine,
  routinesWithin,
  type TakeLibrary,
} from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { bringingSpeeds } from "@core/rig";
import { nearStart, readyScore, type Score, sampleTrack, type Track } from "@core/routine";
import { type Move, moveMsOf, type Step } from "@core/steps";
import { type Corner, largestError, reduceToCorners } from "@core/take";

/** A step of a routine as code has it. */
export type MachineStep =
  | {
      readonly kind: "move";
      readonly stepId: string;
      readonly poseId: string;
      /** The pose by its place among those that are handed off. */
      readonly pose: number;
      readonly moveMs: number;
      readonly easing: Easing;
      readonly staggerMs: number;
      /** What single joints wait besides, by joint. */
      readonly delaysMs: Readonly<Record<string, number>>;
      readonly holdMs: number;
      /** Of a routine within: a joint that is moved by it first begins from where it stands, however far that is. */
      readonly isWithin: boolean;
    }
  | { readonly kind: "hold"; readonly stepId: string; readonly holdMs: number; readonly isWithin: boolean }
  | {
      readonly kind: "wait";
      /** What it waits for, in words. */
      readonly words: string;
      readonly timeoutMs: number | null;
      readonly stops: boolean;
    };

/** What lies over the moves of one joint: keys, each with its slope where the curve through it is smooth. */
export interface MachineKey {
  readonly atMs: number;
  readonly target: number;
  readonly slope: number;
  readonly shape: Key["shape"];
}

export interface MachineTrack {
  readonly jointId: string;
  /** The joint by its place among those that are handed off. */
  readonly joint: number;
  readonly keys: readonly MachineKey[];
  /** The keys are those of the person's own lane. */
  readonly isLane: boolean;
  /** The keys are added to the moves instead of taking their place. */
  readonly adds: boolean;
  /**
   * The step at which a routine within takes it up, where one does so before a move of its own does. Then it begins from wherever it stands. Null where it is brought to where its
   * first move can be made from in its time.
   */
  readonly takenUpAt: number | null;
  /** How far its keys may be off what the bench plays, in targets: 0 where they are the very keys of its lane. */
  readonly error: number;
  /** Its keys are those of a later round: the first one begins elsewhere on the bench. */
  readonly isOfLaterRound: boolean;
}

export interface MachineRoutine {
  readonly id: string;
  readonly label: string;
  readonly name: string;
  readonly steps: readonly MachineStep[];
  readonly tracks: readonly MachineTrack[];
  /** It lasts at least so long: its keys may go on when its steps are over. */
  readonly leastMs: number;
  readonly isThereAndBack: boolean;
  /** Null for without end. */
  readonly rounds: number | null;
  readonly releases: boolean;
  /** One way, as the score has it. */
  readonly lengthMs: number;
}

/** What is not made of plain moves and keys is looked at this often, and reduced to keys. */
const sampleMs = 10;
/** In less time than this nothing is seen to move. */
const hairMs = 0.01;
/** Keys in its place are off by no more than this, in targets. */
const largestOf = { "°": 0.1, spin: 0.002 } as const;

interface Made {
  readonly draft: MachineRoutine;
  readonly joints: readonly string[];
  readonly poses: readonly string[];
}

/**
 * A routine as code plays it: steps, laid one after the other, and keys over them. Routines within are written out; where one of those goes there and
 * back, or has lanes or clips, and wherever a clip lies, the joint is sampled and reduced to keys.
 */
export function machineRoutine(project: Project, routine: Routine, takes: TakeLibrary): Result<Made> {
  const ready = readyScore(project, routine, takes);
  if (!ready.ok) return ready;
  const score = ready.value;
  // Also of the routines within it.
  const missing = routinesWithin(project, routine.id)
    .flatMap(({ clips }) => clips)
    .find(({ isMuted, takeId }) => !isMuted && !takes.has(takeId));
  if (missing) {
    const take = project.takes.find(({ id }) => id === missing.takeId)?.name ?? "?";
    return problem(
      `${routine.name} plays the take “${take}”, whose samples are not here. Remove its clip, or leave the routine out.`,
    );
  }
  const stands = new Map<string, number>();
  const sampled = new Set<string>();
  for (const clip of routine.clips) {
    const take = project.takes.find(({ id }) => id === clip.takeId);
    if (!clip.isMuted)
      for (const id of take?.jointIds ?? []) if (!clip.jointIds || clip.jointIds.includes(id)) sampled.add(id);
  }
  const steps: MachineStep[] = [];
  /** Where the step of the routine begins that each of them came from. */
  const blocks: number[] = [];
  for (const [at, step] of routine.steps.entries()) {
    const begin = steps.length;
    const asKeys = (inner: readonly string[]) => {
      const span = score.spans[at];
      for (const id of inner) sampled.add(id);
      return span ? span.toMs - span.fromMs : 0;
    };
    for (const one of written(project, takes, step, stands, asKeys)) {
      steps.push(one);
      blocks.push(begin);
    }
  }
  if (
    score.halts.filter(({ step }) => step.kind === "wait").length > steps.filter(({ kind }) => kind === "wait").length
  )
    return problem(
      `${routine.name} plays a routine that waits and that goes there and back, or has takes or lanes: code cannot stand still within it. Leave it out.`,
    );
  const targetsOf = (poseId: string) => project.poses.find(({ id }) => id === poseId)?.targets ?? {};
  const tracks = score.tracks.map((track) => {
    const made = machineTrack(project, routine, score, track, sampled);
    const at = steps.findIndex((step) => step.kind === "move" && targetsOf(step.poseId)[made.jointId] !== undefined);
    const first = steps[at];
    const isWithin = first?.kind === "move" && first.isWithin;
    return { ...made, takenUpAt: isWithin ? (blocks[at] ?? null) : null };
  });
  const joints = tracks.map(({ jointId }) => jointId);
  const poses = [...new Set(steps.flatMap((step) => (step.kind === "move" ? [step.poseId] : [])))];
  const lastKeyMs = Math.max(0, ...tracks.map(({ keys }) => keys.at(-1)?.atMs ?? 0));
  const draft: MachineRoutine = {
    id: routine.id,
    label: routine.name,
    name: "",
    steps,
    tracks,
    leastMs: lastKeyMs,
    isThereAndBack: routine.isThereAndBack,
    rounds: routine.repeat.kind === "times" ? routine.repeat.times : null,
    releases: routine.atEnd === "release",
    lengthMs: score.lengthMs,
  };
  return ok({ draft, joints, poses });
}

/** Whether a routine is made of plain steps alone, all the way down. */
function isPlain(project: Project, { isThereAndBack, lanes, clips, steps }: Routine): boolean {
  return (
    !isThereAndBack &&
    lanes.every(({ keys }) => keys.length === 0) &&
    clips.every(({ isMuted }) => isMuted) &&
    steps.every((step) => {
      if (step.kind === "move" && step.path) return false;
      const inner = step.kind === "routine" && project.routines.find(({ id }) => id === step.routineId);
      return !inner || isPlain(project, inner);
    })
  );
}

/**
 * A step, and the steps of a routine within, as code has them. `stands` is where each joint stands by the moves so far. `asKeys` is told which joints a routine that cannot be
 * written out moves, and gives how long it lasts.
 */
function written(
  project: Project,
  takes: TakeLibrary,
  step: Step,
  stands: Map<string, number>,
  asKeys: (jointIds: readonly string[]) => number,
): readonly MachineStep[] {
  if (step.kind === "move") {
    const written = writtenMove(project, step, stands);
    // A tip that is led goes a way of its own: its joints are sampled.
    if (!step.path) return [written];
    const ids = Object.keys(project.poses.find(({ id }) => id === step.poseId)?.targets ?? {});
    return [{ kind: "hold", stepId: step.id, holdMs: asKeys(ids), isWithin: false }];
  }
  if (step.kind === "hold") return [{ kind: "hold", stepId: step.id, holdMs: step.holdMs, isWithin: false }];
  if (step.kind === "wait") {
    const { sourceId, side, level, timeoutMs, ifTimeout } = step;
    const source = project.sources.find(({ id }) => id === sourceId)?.label ?? "?";
    return [{ kind: "wait", words: `${source} ${side} ${level}`, timeoutMs, stops: ifTimeout === "stop" }];
  }
  if (step.kind !== "routine") return [];
  const inner = project.routines.find(({ id }) => id === step.routineId);
  if (!inner) return [];
  if (isPlain(project, inner)) {
    // A routine within is laid once, from its joints' homes, however they stand when it is played.
    const within = new Map<string, number>();
    const steps = inner.steps.flatMap((one) => written(project, takes, one, within, asKeys));
    for (const [id, target] of within) stands.set(id, target);
    return Array.from({ length: step.times }, () => steps.map(asWithin)).flat();
  }
  const ready = readyScore(project, inner, takes);
  if (!ready.ok) return [];
  const { tracks, lengthMs } = ready.value;
  const ids = tracks.map(({ joint }) => project.joints[joint]?.id ?? "");
  for (const [at, track] of tracks.entries()) {
    const id = ids[at] as string;
    // Where it leaves the joint, if that does not hang on where it stood.
    const endOf = (start: number) => track.baseAt(inner.isThereAndBack ? 0 : lengthMs, stands.get(id) ?? start);
    if (endOf(0) === endOf(1)) stands.set(id, endOf(0));
  }
  return [{ kind: "hold", stepId: step.id, holdMs: asKeys(ids), isWithin: true }];
}

function writtenMove(project: Project, step: Move, stands: Map<string, number>): MachineStep {
  const targets = project.poses.find(({ id }) => id === step.poseId)?.targets ?? {};
  const homeOf = (id: string) => {
    const axis = project.joints.find((joint) => joint.id === id)?.axis;
    return axis?.kind === "angle" ? axis.homeDeg : 0;
  };
  const aims = project.joints.flatMap(({ id }) => {
    const target = targets[id];
    return target === undefined ? [] : [{ id, target }];
  });
  const moveMs = moveMsOf(
    step.pace,
    aims.map(({ id, target }) => Math.abs(target - (stands.get(id) ?? homeOf(id)))),
  );
  for (const { id, target } of aims) stands.set(id, target);
  const { id: stepId, poseId, easing, staggerMs, delaysMs, holdMs } = step;
  const own = Object.fromEntries(Object.entries(delaysMs).filter(([id, ms]) => ms !== 0 && targets[id] !== undefined));
  return { kind: "move", stepId, poseId, pose: -1, moveMs, easing, staggerMs, delaysMs: own, holdMs, isWithin: false };
}

const asWithin = (step: MachineStep): MachineStep => (step.kind === "wait" ? step : { ...step, isWithin: true });

function machineTrack(
  project: Project,
  routine: Routine,
  score: Score,
  track: Track,
  sampled: ReadonlySet<string>,
): MachineTrack {
  const joint = project.joints[track.joint];
  const jointId = joint?.id ?? "";
  const bare = { jointId, joint: -1, adds: false, isLane: false, error: 0, takenUpAt: null, isOfLaterRound: false };
  if (sampled.has(jointId)) return { ...bare, ...sampledKeys(project, score, track) };
  const lane = routine.lanes.find((one) => one.jointId === jointId);
  if (!lane || lane.keys.length === 0) return { ...bare, keys: [] };
  const isSmooth = lane.keys.some(({ shape }) => shape === "smooth");
  const slopes = isSmooth
    ? monotoneSlopes(
        lane.keys.map(({ atMs }) => atMs),
        lane.keys.map(({ target }) => target),
      )
    : null;
  const keys = lane.keys.map((key, place) => ({ ...key, slope: slopes?.[place] ?? 0 }));
  return { ...bare, keys, isLane: true, adds: lane.mode === "add" };
}

/**
 * A whole track as keys with straight lines between them, and how far those are off at most. It begins from home, as the player has it; where further rounds begin elsewhere,
 * from there.
 */
function sampledKeys(project: Project, score: Score, track: Track) {
  const joint = project.joints[track.joint] as Joint;
  const { fastest } = bringingSpeeds(joint, byId(project.cards, joint.cardId));
  const home = homeTargetOf(joint);
  const { isThereAndBack, repeat } = score.routine;
  const first = nearStart(track, home, fastest);
  const next = track.baseAt(isThereAndBack ? 0 : score.lengthMs, first);
  const isOfLaterRound = next !== first && !(repeat.kind === "times" && repeat.times === 1);
  const start = isOfLaterRound ? next : first;
  const samples = new Float32Array(Math.max(1, Math.ceil(score.lengthMs / sampleMs)) + 1);
  sampleTrack(track, start, 0, sampleMs, samples);
  const corners =
    joint.axis.kind === "spin" ? spinCorners(samples) : reduceToCorners(samples, sampleMs, largestOf["°"]);
  // Its ends are its very own: by them it is worked out how long all joints take to come to the beginning. Where it waits, time stands still: what jumps there must have
  // jumped. Both within a hair of time.
  const { lengthMs, halts } = score;
  const moments = [0, ...halts.map(({ atMs }) => atMs), lengthMs].flatMap((atMs) => [
    atMs - hairMs,
    atMs,
    atMs + hairMs,
  ]);
  const exact = [...new Set(moments)].filter((atMs) => atMs >= 0 && atMs <= lengthMs).sort((a, b) => a - b);
  const isFar = ({ atMs }: Corner) => atMs < lengthMs && exact.every((one) => Math.abs(one - atMs) > hairMs);
  const ends = [...exact.map((atMs) => ({ atMs, target: track.valueAt(atMs, start) })), ...corners.filter(isFar)].sort(
    (a, b) => a.atMs - b.atMs,
  );
  const keys = ends.map(({ atMs, target }) => ({ atMs, target, slope: 0, shape: "line" as const }));
  return { keys, error: largestError(samples, sampleMs, ends), isOfLaterRound };
}

/** A spin of exactly 0 is rest, with no signal perhaps: where a joint rests it rests in the keys as well, to the sample. */
function spinCorners(samples: Float32Array): readonly Corner[] {
  const corners: Corner[] = [];
  for (let from = 0; from < samples.length; ) {
    const rests = samples[from] === 0;
    let to = from;
    while (to + 1 < samples.length && (samples[to + 1] === 0) === rests) to += 1;
    const run = rests
      ? [from, to].map((at) => ({ atMs: (at - from) * sampleMs, target: 0 }))
      : reduceToCorners(samples.subarray(from, to + 1), sampleMs, largestOf.spin);
    for (const { atMs, target } of run) {
      const place = atMs + from * sampleMs;
      if (place > (corners.at(-1)?.atMs ?? -1)) corners.push({ atMs: place, target });
    }
    from = to + 1;
  }
  return corners;
}
