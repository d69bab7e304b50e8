import type { Project } from "@core/project";
import { endOfClip, type Score, type Track } from "@core/routine";
import type { Mend } from "./mend";
import type { Motor } from "./motors";
import { stepMs, stepUnder } from "./sampling";

/** What jumps, and what would mend it. */
interface Jump {
  readonly what: string;
  readonly mends: readonly Mend[];
}

/** What would mend what one joint is asked for, by whatever has it at that moment: a clip, its lane, or a move. */
export class JointMends {
  readonly #project: Project;
  readonly #score: Score;
  readonly #track: Track;
  readonly #start: number;
  readonly #motor: Motor;

  constructor(project: Project, score: Score, track: Track, start: number, motor: Motor) {
    this.#project = project;
    this.#score = score;
    this.#track = track;
    this.#start = start;
    this.#motor = motor;
  }

  /** What jumps at a moment, and how it would take so much time instead. */
  ofJump(atMs: number, needsMs: number): Jump {
    return this.#ofClip(atMs, needsMs) ?? this.#ofLane(atMs, needsMs) ?? this.#ofMove(atMs, needsMs);
  }

  /** Where a clip begins or ends without being faded. */
  #ofClip(atMs: number, needsMs: number): Jump | null {
    const clip = this.#clips().findLast((one) => isNear(one.atMs, atMs) || isNear(endOfClip(one), atMs));
    if (!clip) return null;
    const isBeginning = isNear(clip.atMs, atMs);
    const lengthMs = endOfClip(clip) - clip.atMs;
    const fadeInMs = isBeginning ? Math.min(needsMs, lengthMs - clip.fadeOutMs) : 0;
    const fadeOutMs = isBeginning ? 0 : Math.min(needsMs, lengthMs - clip.fadeInMs);
    const mend: Mend = { kind: "fade", clipId: clip.id, fadeInMs, fadeOutMs };
    return { what: "where a clip meets what lies under it", mends: [mend] };
  }

  /** Where a lane begins or ends away from the moves, or goes from one key to the next in no time. */
  #ofLane(atMs: number, needsMs: number): Jump | null {
    const lane = this.#laneAt(atMs);
    const at = lane?.keys.findIndex((key) => isNear(key.atMs, atMs)) ?? -1;
    if (!lane || at < 0) return null;
    const { id: jointId } = this.#motor.joint;
    const stands = lane.keys[at - 1];
    if (stands?.shape === "step") {
      // Too near to be left in time, the key before begins the way itself.
      const leaveMs = atMs - needsMs > stands.atMs + 1 ? atMs - needsMs : stands.atMs;
      const mend: Mend = { kind: "laneKey", jointId, atMs: leaveMs, target: stands.target, shape: "line" };
      return { what: "from one key to the next", mends: [mend] };
    }
    const firstMs = lane.keys[0]?.atMs ?? 0;
    const isBeginning = at === 0;
    const keyMs = isBeginning ? Math.max(0, firstMs - needsMs) : (lane.keys.at(-1)?.atMs ?? 0) + needsMs;
    // On top of the moves a lane begins and ends with nothing.
    const target = lane.mode === "add" ? 0 : this.#track.baseAt(keyMs, this.#start);
    const mend: Mend = { kind: "laneKey", jointId, atMs: keyMs, target, shape: "smooth" };
    return { what: "where its lane meets the moves", mends: isBeginning && firstMs === 0 ? [] : [mend] };
  }

  #ofMove(atMs: number, needsMs: number): Jump {
    const own = this.#track.moves.find((move) => isNear(move.fromMs, atMs) && isNear(move.toMs, atMs));
    const step =
      this.#score.spans.find((span) => span.step.id === own?.stepId)?.step ?? stepUnder(this.#score, atMs)?.step;
    return {
      what: "in no time",
      mends: step?.kind === "move" ? [{ kind: "moveMs", stepId: step.id, moveMs: needsMs }] : [],
    };
  }

  #laneAt(atMs: number) {
    const lane = this.#score.routine.lanes.find((one) => one.jointId === this.#motor.joint.id);
    const first = lane?.keys[0]?.atMs ?? Number.POSITIVE_INFINITY;
    const last = lane?.keys.at(-1)?.atMs ?? Number.NEGATIVE_INFINITY;
    return atMs >= first - 1 && atMs <= last + 1 ? lane : undefined;
  }

  /** Whether its lane has it at a moment. */
  hasLaneAt(atMs: number): boolean {
    return this.#laneAt(atMs) !== undefined;
  }

  /** The clips that turn this joint. */
  #clips() {
    const { id } = this.#motor.joint;
    return this.#score.routine.clips.filter(
      (clip) =>
        !clip.isMuted &&
        (!clip.jointIds || clip.jointIds.includes(id)) &&
        this.#project.takes.some((take) => take.id === clip.takeId && take.jointIds.includes(id)),
    );
  }

  #clipAt(atMs: number) {
    return this.#clips().findLast((clip) => atMs >= clip.atMs - 1 && atMs <= endOfClip(clip) + 1);
  }

  /** Ways to make what happens at a moment `ratio` times as slow. */
  moreTime(atMs: number, ratio: number): Mend[] {
    const clip = this.#clipAt(atMs);
    if (clip) return [{ kind: "clip", clipId: clip.id, stretch: roundUp(clip.stretch * ratio, 0.01) }];
    const lane = this.#laneAt(atMs);
    if (lane) {
      const next = lane.keys.findIndex((key) => key.atMs > atMs);
      const fromMs = lane.keys[next - 1]?.atMs;
      const toMs = lane.keys[next]?.atMs;
      if (fromMs !== undefined && toMs !== undefined)
        return [{ kind: "lane", jointId: this.#motor.joint.id, fromMs, toMs, factor: roundUp(ratio, 0.01) }];
    }
    const span = stepUnder(this.#score, atMs);
    if (span?.step.kind !== "move") return [];
    const { step } = span;
    // A tip that is led at a speed of its own has another time than the move says.
    const ownMs = step.pace.kind === "time" ? step.pace.moveMs : 0;
    return this.ofStep(step.id, (step.path?.mmPerS ? span.arriveMs - span.fromMs : ownMs) * ratio, ratio);
  }

  /** Ways to give a move so much time; `ratio` is how many times as long that is, for one that goes by its speed. */
  ofStep(stepId: string, neededMs: number, ratio: number): Mend[] {
    const step = this.#score.spans.find((span) => span.step.id === stepId)?.step;
    if (step?.kind !== "move") return [];
    if (step.path?.mmPerS)
      return [
        { kind: "waySpeed", stepId, mmPerS: Math.max(0.1, Math.floor((step.path.mmPerS / ratio) * 10) / 10) },
        { kind: "moveMs", stepId, moveMs: roundUp(neededMs, 10) },
      ];
    if (step.pace.kind === "speed") return [{ kind: "speed", stepId, degPerS: step.pace.degPerS / ratio }];
    const moveMs = roundUp(neededMs, 10);
    const wayDeg = this.#longestWay(stepId);
    const bySpeed: Mend[] = wayDeg > 0 ? [{ kind: "speed", stepId, degPerS: (wayDeg * 1000) / moveMs }] : [];
    return [{ kind: "moveMs", stepId, moveMs }, ...bySpeed];
  }

  /** Ways to have it gather speed `ratio` times as gently about a sample. */
  gentler(at: number, ratio: number): Mend[] {
    const step = stepUnder(this.#score, at * stepMs)?.step;
    const isBare = !this.#clipAt(at * stepMs) && !this.#laneAt(at * stepMs);
    if (!isBare || step?.kind !== "move" || step.pace.kind !== "time")
      return this.moreTime((at + 0.5) * stepMs, Math.sqrt(ratio));
    if (step.easing.kind === "leastJerk")
      return [{ kind: "moveMs", stepId: step.id, moveMs: roundUp(step.pace.moveMs * Math.sqrt(ratio), 10) }];
    // The least jerky curve asks for 10/√3 ways per time squared.
    const wayDeg = this.#longestWay(step.id);
    const neededMs = Math.sqrt((wayDeg * 10) / Math.sqrt(3) / this.#motor.acceleration) * 1000;
    return [{ kind: "soft", stepId: step.id, moveMs: roundUp(Math.max(step.pace.moveMs, neededMs), 10) }];
  }

  /** The longest way that any joint has in a step, in degrees. */
  #longestWay(stepId: string): number {
    const span = this.#score.spans.find((one) => one.step.id === stepId);
    if (!span) return 0;
    return Math.max(
      0,
      ...this.#score.tracks.map((track, at) => {
        const start = this.#score.starts[at] as number;
        return Math.abs(track.baseAt(span.arriveMs, start) - track.baseAt(span.fromMs, start));
      }),
    );
  }
}

const isNear = (a: number, b: number) => Math.abs(a - b) < 0.5;
const roundUp = (value: number, step: number) => Math.ceil(value / step + 1e-9) * step;
