import { allOf, type Edit, type Project, type Routine, type TakeLibrary } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { endOfClip, readyScore, type Score, sampleTrack, type Track } from "@core/routine";
import type { Finding } from "./finding";
import { JointLook } from "./jointLook";
import { type Mend, mendEdit } from "./mend";
import { seconds } from "./mendKind";
import { type Motor, motorOf } from "./motors";
import { peakSpeeds } from "./peaks";
import { stepMs } from "./sampling";
import { type Need, warped } from "./warp";

/** Stretching one thing may show another, so it is looked at again, so often at most. */
const mostRounds = 60;
/** A little more time than is worked out: sums have roundings, and a smooth lane changes its curve as its keys move. */
const margin = 1.002;
/** Nearer to what is possible than what would make a finding (see `slack`). */
const enough = 1.0002;

/**
 * Gives all that is too fast as much time as it needs, in one step to undo: the moves, lanes and clips of a routine, and of those that it plays.
 * What happened together still happens together. What no time can mend by itself is mended first: a jump gets a way, a fade its length, an abrupt
 * move or key soft ends. It is made so that it can be played at `speed`; 1 is as written. Refused, with the reason and nothing changed, where that does not do.
 */
export const stretchToFeasible = (routineId: string, takes: TakeLibrary, speed = 1): Edit => ({
  name: "Stretch to feasible",
  apply: (project) => {
    let now: Project = project;
    for (let round = 0; round < mostRounds; round += 1) {
      const look = lookAt(now, routineId, takes, speed);
      if (!look.ok) return look;
      const { mends, needs } = look.value;
      if (mends.size === 0 && needs.size === 0) break;
      // By turns, where both are wanted: the one may show the other to be needless.
      const isMend = needs.size === 0 || (mends.size > 0 && round % 2 === 0);
      const next = isMend ? mended(now, mends) : stretched(now, needs, takes);
      if (!next.ok) return next;
      now = next.value;
    }
    const left = whatIsLeft(now, routineId, takes, speed);
    return left === null ? ok(now) : problem(left);
  },
});

type Moments = readonly [fromMs: number, toMs: number];

/** What must be done, by the routine it is done to. */
interface Look {
  readonly mends: Map<string, Map<string, Mend>>;
  readonly needs: Map<string, Need[]>;
}

function lookAt(project: Project, routineId: string, takes: TakeLibrary, speed: number): Result<Look> {
  const score = scoreOf(project, routineId, takes);
  if (!score.ok) return score;
  const looker = new Looker(project, takes, speed);
  for (const [at, track] of score.value.tracks.entries())
    looker.look(score.value, track, score.value.starts[at] as number);
  return ok(looker);
}

function scoreOf(project: Project, routineId: string, takes: TakeLibrary): Result<Score> {
  const routine = project.routines.find((one) => one.id === routineId);
  return routine ? readyScore(project, routine, takes) : problem("That routine is no longer on the bench.");
}

function mended(project: Project, mends: Look["mends"]): Result<Project> {
  let now: Result<Project> = ok(project);
  for (const [routineId, some] of mends)
    for (const mend of some.values()) {
      if (!now.ok) return now;
      // Each is made of the routine as the one before it left it: two keys of a lane would else undo each other.
      const routine = now.value.routines.find((one) => one.id === routineId) as Routine;
      now = allOf("", [mendEdit(routine, mend)]).apply(now.value);
    }
  return now;
}

function stretched(project: Project, needs: Look["needs"], takes: TakeLibrary): Result<Project> {
  const changed = new Map<string, Routine>();
  for (const [routineId, some] of needs) {
    const score = scoreOf(project, routineId, takes);
    const done = score.ok ? warped(score.value, some) : score;
    if (!done.ok) return done;
    changed.set(routineId, done.value);
  }
  return ok({ ...project, routines: project.routines.map((routine) => changed.get(routine.id) ?? routine) });
}

/** Looks for what is too fast, and for what in the routine, or in one within it, must be given time for that. */
class Looker implements Look {
  readonly mends = new Map<string, Map<string, Mend>>();
  readonly needs = new Map<string, Need[]>();
  readonly #project: Project;
  readonly #takes: TakeLibrary;
  readonly #speed: number;
  readonly #scores = new Map<string, Score | null>();

  constructor(project: Project, takes: TakeLibrary, speed: number) {
    this.#project = project;
    this.#takes = takes;
    this.#speed = speed;
  }

  look(score: Score, track: Track, start: number): void {
    const motor = motorOf(this.#project, this.#project.joints[track.joint] as Project["joints"][number], this.#speed);
    const targets = new Float32Array(Math.ceil(score.lengthMs / stepMs) + 2);
    sampleTrack(track, start, 0, stepMs, targets);
    const joint = new JointLook(this.#project, score, track, start, motor, targets);
    for (const finding of joint.atSpeed()) if (finding.kind === "jump") this.#mendJump(score.routine, finding);
    this.#moves(score, track, start, motor);
    const { fastest, acceleration } = motor;
    const { peaks, fromsMs, tosMs } = peakSpeeds(track, start, targets);
    for (let at = 0; at < peaks.length; at += 1) {
      const speed = (peaks[at] as number) / fastest;
      const [before, here, after] = [targets[Math.max(0, at - 1)], targets[at], targets[at + 1]] as [
        number,
        number,
        number,
      ];
      const gain = (Math.abs(after - 2 * here + before) * (1000 / stepMs) ** 2) / acceleration / 1.005;
      const moments: Moments = [fromsMs[at] as number, tosMs[at] as number];
      // A jump takes no time: nothing is gained by giving it more.
      const isJump = speed > enough && joint.jumpIn(...moments) !== null;
      if (speed > enough && !isJump) this.#need(score, track, start, motor.joint.id, moments, speed, false);
      // Half the time asks for four times the acceleration.
      if (gain > 1 && !isJump)
        this.#need(score, track, start, motor.joint.id, [(at - 1) * stepMs, (at + 1) * stepMs], Math.sqrt(gain), true);
    }
  }

  /** Its own moves are worked out: a frame is long enough to hide a short peak. */
  #moves(score: Score, track: Track, start: number, { fastest }: Motor): void {
    for (const move of track.moves) {
      const { fromMs, toMs } = move;
      if (toMs <= fromMs || track.isCoveredAt((fromMs + toMs) / 2)) continue;
      const peak = (Math.abs(move.to - track.beginsFrom(move, start)) * move.peakRate * 1000) / (toMs - fromMs);
      const span = spanOf(score, move.stepId);
      if (span && peak / fastest > enough)
        this.#add(score.routine, span.fromMs, span.arriveMs, peak / fastest / margin);
    }
  }

  /** Gives time to whatever turns the joint between two moments: each layer that has much to do with it. */
  #need(
    score: Score,
    track: Track,
    start: number,
    jointId: string,
    [fromMs, toMs]: Moments,
    ratio: number,
    isAbrupt: boolean,
  ): void {
    const { routine } = score;
    const atMs = Math.min((fromMs + toMs) / 2, score.lengthMs);
    const shares = track.sharesOf(fromMs, toMs, start);
    const largest = Math.max(shares.moves, shares.lane, ...shares.clips.flatMap((clip) => [clip.own, clip.fade]));
    const isMuch = (share: number) => share > 0 && share >= largest / 4;
    for (const { id, own, fade, fading } of shares.clips) {
      const clip = routine.clips.find((one) => one.id === id);
      if (!clip || !(isMuch(own) || isMuch(fade))) continue;
      if (isMuch(fade) && !isAbrupt && this.#canFade(clip, fading, ratio)) {
        const longer = {
          fadeInMs: fading === "in" ? clip.fadeInMs * ratio * margin : 0,
          fadeOutMs: fading === "out" ? clip.fadeOutMs * ratio * margin : 0,
        };
        this.#mend(routine, `${id}:${fading}`, { kind: "fade", clipId: id, ...longer });
      } else this.#add(routine, clip.atMs, endOfClip(clip), ratio);
    }
    if (isMuch(shares.lane)) this.#needLane(routine, jointId, atMs, ratio, isAbrupt);
    if (!isMuch(shares.moves)) return;
    const nested = track.nestedAt(atMs);
    if (nested) this.#needWithin(score, track, start, jointId, [fromMs, toMs], nested, ratio, isAbrupt);
    const span = shares.stepId === null ? undefined : spanOf(score, shares.stepId);
    if (span?.step.kind !== "move") return;
    const { easing, pace, id: stepId } = span.step;
    if (isAbrupt && easing.kind !== "leastJerk" && pace.kind === "time")
      this.#mend(routine, `${stepId}:soft`, { kind: "soft", stepId, moveMs: pace.moveMs });
    else this.#add(routine, span.fromMs, span.arriveMs, ratio);
  }

  #needLane(routine: Routine, jointId: string, atMs: number, ratio: number, isAbrupt: boolean): void {
    const keys = routine.lanes.find((lane) => lane.jointId === jointId)?.keys ?? [];
    // What is abrupt is so at a key: the stretches before and after it.
    const reachMs = isAbrupt ? stepMs : 0;
    const from = Math.max(0, keys.findIndex((key) => key.atMs > atMs - reachMs) - 1);
    const to = Math.min(keys.length - 1, keys.findLastIndex((key) => key.atMs < atMs + reachMs) + 1);
    const isSharp = isAbrupt && keys.slice(from, to + 1).some((key) => key.shape === "line");
    if (isSharp) this.#mend(routine, `${jointId}:soft`, { kind: "laneSoft", jointId });
    else this.#add(routine, keys[from]?.atMs ?? 0, keys[to]?.atMs ?? 0, ratio);
  }

  /** A fade may grow until it meets the other one. */
  #canFade(clip: Routine["clips"][number], fade: "in" | "out", ratio: number): boolean {
    const lengthMs = endOfClip(clip) - clip.atMs;
    const [own, other] = fade === "in" ? [clip.fadeInMs, clip.fadeOutMs] : [clip.fadeOutMs, clip.fadeInMs];
    return own > 0 && own * ratio * margin + other <= lengthMs;
  }

  /** What is too fast in a routine within is slower everywhere that it is played. */
  #needWithin(
    score: Score,
    track: Track,
    start: number,
    jointId: string,
    [fromMs, toMs]: Moments,
    nested: NonNullable<ReturnType<Track["nestedAt"]>>,
    ratio: number,
    isAbrupt: boolean,
  ): void {
    const step = score.spans.find((one) => one.fromMs === nested.fromMs && one.step.kind === "routine")?.step;
    const inner = step?.kind === "routine" ? this.#scoreOf(step.routineId) : null;
    const innerTrack = inner?.tracks.find((one) => one.joint === track.joint);
    const { lengthMs, isThereAndBack } = nested;
    if (!inner || !innerTrack || lengthMs === 0) return;
    const round = Math.floor(((fromMs + toMs) / 2 - nested.fromMs) / (isThereAndBack ? 2 * lengthMs : lengthMs));
    const sinceMs = nested.fromMs + round * (isThereAndBack ? 2 * lengthMs : lengthMs);
    // On the way back its time runs the other way.
    const within = [fromMs - sinceMs, toMs - sinceMs].map((ms) => (ms > lengthMs ? 2 * lengthMs - ms : ms));
    const moments: Moments = [Math.min(...within), Math.max(...within)];
    // Each round begins where the last one ended, the first where the moves outside left the joint.
    const from = track.baseAt(nested.fromMs, start);
    const innerStart = round === 0 || isThereAndBack ? from : innerTrack.baseAt(lengthMs, from);
    this.#need(inner, innerTrack, innerStart, jointId, moments, ratio, isAbrupt);
  }

  #scoreOf(routineId: string): Score | null {
    const known = this.#scores.get(routineId);
    if (known !== undefined) return known;
    const made = scoreOf(this.#project, routineId, this.#takes);
    const score = made.ok ? made.value : null;
    this.#scores.set(routineId, score);
    return score;
  }

  #mendJump(routine: Routine, finding: Finding): void {
    const mend = finding.mends.find((one) => one.kind === "moveMs" || one.kind === "laneKey" || one.kind === "fade");
    if (mend) this.#mend(routine, `${finding.jointId}:${finding.fromMs}`, mend);
  }

  #mend(routine: Routine, place: string, mend: Mend): void {
    const some = this.mends.get(routine.id) ?? new Map<string, Mend>();
    this.mends.set(routine.id, some);
    const before = some.get(place);
    if (!before || sizeOf(mend) > sizeOf(before)) some.set(place, mend);
  }

  #add(routine: Routine, fromMs: number, toMs: number, ratio: number): void {
    if (!Number.isFinite(ratio) || toMs <= fromMs) return;
    const some = this.needs.get(routine.id) ?? [];
    this.needs.set(routine.id, some);
    const last = some.at(-1);
    const factor = ratio * margin;
    // One after another ask for the same stretch.
    if (last?.fromMs === fromMs && last.toMs === toMs)
      some[some.length - 1] = { fromMs, toMs, factor: Math.max(factor, last.factor) };
    else some.push({ fromMs, toMs, factor });
  }
}

const spansOf = new WeakMap<Score, ReadonlyMap<string, Score["spans"][number]>>();

/** Where a step lies; a routine has thousands, and each is asked for often. */
function spanOf(score: Score, stepId: string): Score["spans"][number] | undefined {
  const known = spansOf.get(score) ?? new Map(score.spans.map((span) => [span.step.id, span]));
  spansOf.set(score, known);
  return known.get(stepId);
}

const sizeOf = (mend: Mend): number =>
  mend.kind === "fade" ? mend.fadeInMs + mend.fadeOutMs : mend.kind === "moveMs" ? mend.moveMs : 0;

/** What more time does not mend; null for nothing. */
function whatIsLeft(project: Project, routineId: string, takes: TakeLibrary, speed: number): string | null {
  const score = scoreOf(project, routineId, takes);
  if (!score.ok) return score.problem;
  for (const [at, track] of score.value.tracks.entries()) {
    const motor = motorOf(project, project.joints[track.joint] as Project["joints"][number], speed);
    const targets = new Float32Array(Math.ceil(score.value.lengthMs / stepMs) + 2);
    const start = score.value.starts[at] as number;
    sampleTrack(track, start, 0, stepMs, targets);
    const look = new JointLook(project, score.value, track, start, motor, targets);
    const [finding] = [...look.atSpeed(), ...look.atAcceleration()];
    if (finding)
      return `More time alone does not mend this, at ${seconds(finding.fromMs)}: ${finding.sentence} Nothing was changed.`;
  }
  return null;
}
