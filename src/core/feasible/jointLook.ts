import type { Project } from "@core/project";
import { endOfClip, type Score, type Track } from "@core/routine";
import type { Finding } from "./finding";
import type { Mend } from "./mend";
import { seconds } from "./mendKind";
import type { Motor } from "./motors";
import { peakSpeeds } from "./peaks";
import { largestOf, mostOfAKind, slack, stepMs, stepUnder, stretchesOf } from "./sampling";

/** Still so far away when the next move begins, a joint has been cut short. */
const arrivedDeg = 1.5;
/** So far past its travel, in targets, counts as within it. */
const tolerated = 0.05;
/** A change of this size within next to no time is a jump, not a fast move. */
const jumpDeg = 0.5;

/** A move that is too fast, where it is fastest, and how fast that is; infinite for one that takes no time. */
interface FastMove {
  readonly move: Track["moves"][number];
  readonly fastestMs: number;
  readonly peak: number;
}

/** One joint of a routine, looked at. */
export class JointLook {
  readonly #project: Project;
  readonly #score: Score;
  readonly #track: Track;
  readonly #start: number;
  readonly #motor: Motor;
  readonly #targets: Float32Array;

  constructor(project: Project, score: Score, track: Track, start: number, motor: Motor, targets: Float32Array) {
    this.#project = project;
    this.#score = score;
    this.#track = track;
    this.#start = start;
    this.#motor = motor;
    this.#targets = targets;
  }

  /**
   * Its own moves are worked out: a frame is long enough to hide a short peak. What lanes, clips and routines within ask for is sampled.
   */
  atSpeed(): Finding[] {
    const { fastest } = this.#motor;
    const moves = this.#tooFastMoves();
    const { peaks, fromsMs, tosMs } = peakSpeeds(this.#track, this.#start, this.#targets);
    const speedAt = (at: number) => peaks[at] as number;
    const isKnown = (at: number) =>
      moves.some(({ move }) => (at + 1) * stepMs > move.fromMs && at * stepMs < move.toMs + stepMs);
    const isAnyTooFast = largestOf(peaks, 0) > fastest * slack;
    const rest = isAnyTooFast ? stretchesOf(peaks.length, (at) => speedAt(at) > fastest * slack && !isKnown(at)) : [];
    return [
      ...moves.slice(0, mostOfAKind).map((move) => this.#tooFast(move)),
      ...rest.map(([from, to]) => {
        let worst = from;
        for (let at = from; at <= to; at += 1) if (speedAt(at) > speedAt(worst)) worst = at;
        const jumpMs = this.jumpIn(fromsMs[worst] as number, tosMs[worst] as number);
        if (jumpMs !== null) return this.#jump(jumpMs);
        const asked = Math.max(speedAt(worst), this.#peakSpeed(worst));
        const mends = this.#moreTime(((fromsMs[worst] as number) + (tosMs[worst] as number)) / 2, asked / fastest);
        return this.#finding("speed", from, to + 1, asked, fastest, mends, this.#tooFastWords(asked));
      }),
    ];
  }

  #tooFastWords(asked: number): string {
    const { joint, saidBy, fastest, playedAt } = this.#motor;
    const isSpin = joint.axis.kind === "spin";
    const who = saidBy === "limit" ? "its speed limit is" : "its servo is rated for";
    const real = asked * playedAt;
    const shown = isSpin ? `${real.toFixed(1)} full speeds a second` : `${real.toFixed(0)} °/s`;
    return `${joint.label} is asked for ${shown}${this.#atSpeed}; ${who} ${(fastest * playedAt).toFixed(isSpin ? 1 : 0)}.`;
  }

  get #atSpeed(): string {
    const { playedAt } = this.#motor;
    return playedAt === 1 ? "" : ` at ${Math.round(playedAt * 100)} %`;
  }

  /** A move that is too fast, or takes no time at all. */
  #tooFast({ move, fastestMs, peak }: FastMove): Finding {
    const { fastest, joint } = this.#motor;
    const isJump = !Number.isFinite(peak);
    const wayDeg = Math.abs(move.to - this.#track.beginsFrom(move, this.#start));
    const neededMs = isJump ? (wayDeg * move.peakRate * 1000) / fastest : (move.toMs - move.fromMs) * (peak / fastest);
    const at = Math.floor(fastestMs / stepMs);
    return {
      kind: isJump ? "jump" : "speed",
      jointId: joint.id,
      stepId: move.stepId,
      fromMs: isJump ? move.fromMs : Math.min(at * stepMs, move.fromMs + (move.toMs - move.fromMs) / 4),
      toMs: isJump ? move.toMs : Math.max((at + 1) * stepMs, move.toMs - (move.toMs - move.fromMs) / 4),
      asked: isJump ? wayDeg : peak,
      possible: isJump ? 0 : fastest,
      sentence: isJump ? `${joint.label} is to jump by ${wayDeg.toFixed(0)}° in no time.` : this.#tooFastWords(peak),
      mends: this.#stepMends(move.stepId, neededMs, isJump ? 0 : peak / fastest),
    };
  }

  atAcceleration(): Finding[] {
    const { acceleration, joint, playedAt } = this.#motor;
    if (!Number.isFinite(acceleration)) return [];
    const targets = this.#targets;
    // Before it begins it stands: what begins at full speed is asked for it at once.
    const rates = new Float32Array(Math.max(0, targets.length - 1));
    for (let at = 0; at < rates.length; at += 1) {
      const before = targets[at > 0 ? at - 1 : 0] as number;
      rates[at] = Math.abs((targets[at + 1] as number) - 2 * (targets[at] as number) + before) * (1000 / stepMs) ** 2;
    }
    const most = acceleration * slack * 1.01;
    if (largestOf(rates, 0) <= most) return [];
    const rateAt = (at: number) => rates[at] as number;
    return stretchesOf(rates.length, (at) => rateAt(at) > most).map(([from, to]) => {
      let worst = from;
      for (let at = from; at <= to; at += 1) if (rateAt(at) > rateAt(worst)) worst = at;
      const asked = rateAt(worst);
      return this.#finding(
        "acceleration",
        from,
        to,
        asked,
        acceleration,
        this.#gentler(worst, asked / acceleration),
        `${joint.label} is asked to gather ${(asked * playedAt ** 2).toFixed(0)} °/s²${this.#atSpeed}; its servo manages ${(acceleration * playedAt ** 2).toFixed(0)}.`,
      );
    });
  }

  atTravel(): Finding[] {
    const { map, joint } = this.#motor;
    const targets = this.#targets;
    const overs = new Float32Array(targets.length);
    for (let at = 0; at < overs.length; at += 1) {
      const target = targets[at] as number;
      overs[at] = Math.max(target - map.highTarget, map.lowTarget - target);
    }
    if (largestOf(overs, 0) <= tolerated) return [];
    const over = (at: number) => overs[at] as number;
    return stretchesOf(targets.length, (at) => over(at) > tolerated).map(([from, to]) => {
      let worst = from;
      for (let at = from; at <= to; at += 1) if (over(at) > over(worst)) worst = at;
      const asked = targets[worst] as number;
      const possible = asked > map.highTarget ? map.highTarget : map.lowTarget;
      const span = stepUnder(this.#score, from * stepMs);
      const mends: Mend[] = [];
      if (this.#hasLaneAt(worst * stepMs))
        mends.push({ kind: "laneWithin", jointId: joint.id, low: map.lowTarget, high: map.highTarget });
      else if (span?.step.kind === "move") {
        const aim = this.#project.poses.find((pose) => pose.id === (span.step as { poseId: string }).poseId)?.targets[
          joint.id
        ];
        if (aim !== undefined && (aim > map.highTarget || aim < map.lowTarget))
          mends.push({ kind: "poseTarget", poseId: span.step.poseId, jointId: joint.id, target: possible });
      }
      const unit = joint.axis.kind === "spin" ? "" : "°";
      return this.#finding(
        "travel",
        from,
        to,
        asked,
        possible,
        mends,
        `${joint.label} is asked for ${asked.toFixed(1)}${unit}; its travel ends at ${possible.toFixed(1)}${unit}. It will be held there.`,
      );
    });
  }

  /** Moves that have not been finished when the next one begins, for a servo that turns as fast as it can. */
  atArrival(): Finding[] {
    const { fastest, joint } = this.#motor;
    if (joint.axis.kind === "spin") return [];
    const most = (fastest * stepMs) / 1000;
    const found: Finding[] = [];
    let stands = this.#start;
    let at = 0;
    for (const span of this.#score.spans) {
      const endAt = Math.min(Math.floor(span.toMs / stepMs), this.#targets.length - 1);
      for (; at <= endAt; at += 1) {
        const way = (this.#targets[at] as number) - stands;
        stands += Math.max(-most, Math.min(most, way));
      }
      if (span.step.kind !== "move") continue;
      const leftDeg = Math.abs((this.#targets[endAt] as number) - stands);
      if (leftDeg <= arrivedDeg || found.length >= mostOfAKind) continue;
      const needsMs = Math.ceil((leftDeg / fastest) * 100) * 10;
      found.push({
        kind: "arrival",
        jointId: joint.id,
        stepId: span.step.id,
        fromMs: span.arriveMs,
        toMs: span.toMs,
        asked: span.step.holdMs,
        possible: span.step.holdMs + needsMs,
        sentence: `${joint.label} is still ${leftDeg.toFixed(0)}° away when the next step begins: it needs ${seconds(needsMs)} more.`,
        mends: [{ kind: "holdMs", stepId: span.step.id, holdMs: span.step.holdMs + needsMs }],
      });
    }
    return found;
  }

  /** The moves that are too fast at some moment. Those that something is laid over are left to the samples. */
  #tooFastMoves(): readonly FastMove[] {
    return this.#track.moves.flatMap((move) => {
      const { fromMs, toMs, to, curve, peakRate } = move;
      const peak = (Math.abs(to - this.#track.beginsFrom(move, this.#start)) * peakRate * 1000) / (toMs - fromMs);
      if (!(peak > this.#motor.fastest * slack) || this.#track.isCoveredAt((fromMs + toMs) / 2)) return [];
      const rateAt = (place: number) => Math.abs(curve((place + 1) / 100) - curve(place / 100));
      let fastest = 0;
      for (let place = 1; place < 100; place += 1) if (rateAt(place) > rateAt(fastest)) fastest = place;
      return [{ move, fastestMs: fromMs + ((fastest + 0.5) / 100) * (toMs - fromMs), peak }];
    });
  }

  /** The largest speed within and about a sample, more finely: per cent of a move decide whether its new time is enough. */
  #peakSpeed(at: number): number {
    const fineMs = 1;
    let peak = 0;
    let before = this.#track.valueAt((at - 1) * stepMs, this.#start);
    for (let ms = (at - 1) * stepMs + fineMs; ms <= (at + 2) * stepMs; ms += fineMs) {
      const value = this.#track.valueAt(ms, this.#start);
      peak = Math.max(peak, (Math.abs(value - before) * 1000) / fineMs);
      before = value;
    }
    return peak;
  }

  /** The moment of a jump between two others, found by halving; null where it is only fast. */
  jumpIn(fromMs: number, toMs: number): number | null {
    let low = fromMs;
    let high = toMs;
    const valueAt = (ms: number) => this.#track.valueAt(ms, this.#start);
    while (high - low > 0.01) {
      const middle = (low + high) / 2;
      if (Math.abs(valueAt(middle) - valueAt(low)) > Math.abs(valueAt(high) - valueAt(middle))) high = middle;
      else low = middle;
    }
    return Math.abs(valueAt(high) - valueAt(low)) > jumpDeg ? high : null;
  }

  #jump(atMs: number): Finding {
    const { joint, fastest } = this.#motor;
    const before = this.#track.valueAt(atMs - 0.02, this.#start);
    const after = this.#track.valueAt(atMs + 0.02, this.#start);
    const wayDeg = Math.abs(after - before);
    const needsMs = Math.max(40, Math.ceil(((wayDeg * 2) / fastest) * 100) * 10);
    const { what, mends } =
      this.#jumpOfClip(atMs, needsMs) ?? this.#jumpOfLane(atMs, needsMs) ?? this.#jumpOfMove(atMs, needsMs);
    const at = Math.floor(atMs / stepMs);
    const sentence = `${joint.label} jumps by ${wayDeg.toFixed(0)}° ${what}.`;
    return this.#finding("jump", at, at + 1, wayDeg, 0, mends, sentence);
  }

  /** Where a clip begins or ends without being faded. */
  #jumpOfClip(atMs: number, needsMs: number): Jump | null {
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
  #jumpOfLane(atMs: number, needsMs: number): Jump | null {
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

  #jumpOfMove(atMs: number, needsMs: number): Jump {
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

  #hasLaneAt = (atMs: number) => this.#laneAt(atMs) !== undefined;

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
  #moreTime(atMs: number, ratio: number): Mend[] {
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
    return this.#stepMends(step.id, (step.path?.mmPerS ? span.arriveMs - span.fromMs : ownMs) * ratio, ratio);
  }

  /** Ways to give a move so much time; `ratio` is how many times as long that is, for one that goes by its speed. */
  #stepMends(stepId: string, neededMs: number, ratio: number): Mend[] {
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

  #gentler(at: number, ratio: number): Mend[] {
    const step = stepUnder(this.#score, at * stepMs)?.step;
    const isBare = !this.#clipAt(at * stepMs) && !this.#laneAt(at * stepMs);
    if (!isBare || step?.kind !== "move" || step.pace.kind !== "time")
      return this.#moreTime((at + 0.5) * stepMs, Math.sqrt(ratio));
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

  #finding(
    kind: Finding["kind"],
    from: number,
    to: number,
    asked: number,
    possible: number,
    mends: readonly Mend[],
    sentence: string,
  ): Finding {
    const middleMs = ((from + to) / 2) * stepMs;
    return {
      kind,
      jointId: this.#motor.joint.id,
      stepId: stepUnder(this.#score, middleMs)?.step.id ?? null,
      fromMs: from * stepMs,
      toMs: to * stepMs,
      asked,
      possible,
      sentence,
      mends,
    };
  }
}

/** What jumps, and what would mend it. */
interface Jump {
  readonly what: string;
  readonly mends: readonly Mend[];
}

const isNear = (a: number, b: number) => Math.abs(a - b) < 0.5;
const roundUp = (value: number, step: number) => Math.ceil(value / step + 1e-9) * step;
