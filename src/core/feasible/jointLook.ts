import type { Project } from "@core/project";
import type { Score, Track } from "@core/routine";
import type { Finding } from "./finding";
import { JointMends } from "./jointMends";
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
  readonly #mends: JointMends;

  constructor(project: Project, score: Score, track: Track, start: number, motor: Motor, targets: Float32Array) {
    this.#project = project;
    this.#score = score;
    this.#track = track;
    this.#start = start;
    this.#motor = motor;
    this.#targets = targets;
    this.#mends = new JointMends(project, score, track, start, motor);
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
        const mends = this.#mends.moreTime(
          ((fromsMs[worst] as number) + (tosMs[worst] as number)) / 2,
          asked / fastest,
        );
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
      mends: this.#mends.ofStep(move.stepId, neededMs, isJump ? 0 : peak / fastest),
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
        this.#mends.gentler(worst, asked / acceleration),
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
      if (this.#mends.hasLaneAt(worst * stepMs))
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
    const { what, mends } = this.#mends.ofJump(atMs, needsMs);
    const at = Math.floor(atMs / stepMs);
    const sentence = `${joint.label} jumps by ${wayDeg.toFixed(0)}° ${what}.`;
    return this.#finding("jump", at, at + 1, wayDeg, 0, mends, sentence);
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
