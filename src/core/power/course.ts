import { assembleBench, stallTorqueNmm, Weights } from "@core/figure";
import { byId, type Project } from "@core/project";
import { jointMapOf } from "@core/rig";
import { type Score, sampleTrack } from "@core/routine";
import { type Draw, drawOf, isTurning, startMs } from "./draw";
import { netOf, placeIn } from "./net";
import { type Loads, noLoads, type Solved, Solver } from "./solve";

/** The most and the least of something over time, and when. */
export interface Extreme {
  readonly value: number;
  readonly atMs: number;
}

/** What a routine asks of the wiring. */
export interface PowerCourse {
  readonly stepMs: number;
  readonly supplies: readonly {
    readonly supplyId: string;
    /** What it gives, in mA. */
    readonly givenMa: Float32Array;
    readonly most: Extreme;
    readonly meanA: number;
    /** How often it is asked for more than it can give, in ms. */
    readonly limitedMs: number;
  }[];
  /** Into each place through its run. `heatA` is the steady current that would warm it as much as the routine does, played on and on. */
  readonly runs: Readonly<Record<string, { readonly most: Extreme; readonly heatA: number }>>;
  readonly servos: Readonly<Record<string, { readonly least: Extreme }>>;
  readonly boards: Readonly<Record<string, { readonly least: Extreme; readonly resets: readonly number[] }>>;
}

/** A long routine is looked at less often: a start still falls on one look at least. */
const mostLooks = 90_000;
/** Loads of figures change slowly, and cost more to work out: this many looks at them at most. */
const mostWeighings = 5000;
/** A board that has started anew takes so long. */
const awakeAfterMs = 1500;
/** Wires and fuses warm and cool so slowly. */
const warmsInMs = 10_000;
/** After so long they are as warm as they get: a shorter routine is looked at as it is played again and again. */
const warmAfterMs = 6 * warmsInMs;

/** How a routine is worked through. */
export interface CourseTerms {
  /** Of batteries, 0 to 1. */
  readonly charge?: number;
  /** How fast it is played; 1 is as written. */
  readonly speed?: number;
  /** Whether supplies give no more than they can; without it they say what is asked of them. */
  readonly hasLimits?: boolean;
  /** What joints are asked for, by their place, every `sampledMs`, from somebody who has sampled the score already. */
  readonly asked?: ReadonlyMap<number, Float32Array>;
}

/** How finely a routine is looked at, in ms; a long one every second or third time. */
export const sampledMs = 20;

/**
 * Works through one round of a routine: at each moment what every servo draws, and how the net stands under it. Times are those of the score, at any speed.
 */
export function courseOf(
  project: Project,
  score: Score,
  { charge = 0.5, speed = 1, hasLimits = true, asked }: CourseTerms = {},
): PowerCourse {
  const net = netOf(project);
  const solver = new Solver(net);
  const stepMs =
    sampledMs * Math.max(1, Math.min(startMs / sampledMs, Math.ceil(score.lengthMs / sampledMs / mostLooks)));
  const length = Math.ceil(score.lengthMs / stepMs) + 2;
  const servos = project.joints.map((joint, place) => ({
    joint,
    at: placeIn(net, "joint", joint.id),
    draw: drawOf(byId(project.cards, joint.cardId)),
    targets: thinned(asked?.get(place), stepMs, length) ?? targetsOf(score, place, stepMs, length),
    home: jointMapOf(joint, byId(project.cards, joint.cardId)).homeTarget,
    state: 0,
    turningMs: 0,
    share: 0,
  }));
  const burden = burdenOf(project);
  const loads = noLoads(net);
  const gathered = new Gathering(project, net, stepMs, length);
  const weighEvery = Math.max(5, Math.ceil(length / mostWeighings));
  let solved: Solved | null = null;
  for (let look = 0; look < length; look += 1) {
    let isOther = look === 0;
    if (burden && look % weighEvery === 0)
      isOther =
        burden(
          servos.map(({ targets, home }) => targets?.[look] ?? home),
          servos,
        ) || isOther;
    for (const servo of servos) {
      const state = stateAt(servo, look, stepMs, speed);
      if (state !== servo.state || isOther) isOther = true;
      servo.state = state;
    }
    if (isOther) {
      for (const { at, draw, state, share } of servos) loads.siemens[at] = loadOf(draw, state, share);
      solved = solver.solve(loads as Loads, charge, hasLimits);
    }
    gathered.take(look, solved as Solved);
  }
  return gathered.course();
}

/** Every so manieth of what was sampled, as often as is looked; the last stays. */
function thinned(sampled: Float32Array | undefined, stepMs: number, length: number): Float32Array | null {
  if (!sampled) return null;
  const stride = stepMs / sampledMs;
  return Float32Array.from({ length }, (_, look) => sampled[Math.min(look * stride, sampled.length - 1)] as number);
}

function targetsOf(score: Score, place: number, stepMs: number, length: number): Float32Array | null {
  const at = score.tracks.findIndex(({ joint }) => joint === place);
  const track = score.tracks[at];
  if (!track) return null;
  const targets = new Float32Array(length);
  sampleTrack(track, score.starts[at] as number, 0, stepMs, targets);
  return targets;
}

interface Moved {
  readonly targets: Float32Array | null;
  readonly joint: Project["joints"][number];
  turningMs: number;
}

/** 0 stands, 1 turns, 2 begins to turn. */
function stateAt(servo: Moved, look: number, stepMs: number, speed: number): number {
  const { targets, joint } = servo;
  if (!targets) return 0;
  const target = targets[look] as number;
  const turns = isTurning(target, targets[look + 1] ?? target, joint.axis.kind === "spin");
  servo.turningMs = turns ? servo.turningMs + stepMs / speed : 0;
  return !turns ? 0 : servo.turningMs <= startMs ? 2 : 1;
}

/** What a servo lets through, per volt. What hangs on it costs current besides, in proportion to its torque. */
function loadOf({ idleA, movingA, stallA, atVolts }: Draw, state: number, share: number): number {
  const bareA = state === 0 ? idleA : state === 1 ? movingA : stallA;
  return (bareA + share * (stallA - bareA)) / atVolts;
}

/** Works out which share of its torque each servo holds as the figures stand; null where nothing weighs anything. Says whether any of them has changed. */
function burdenOf(project: Project) {
  if (project.figures.every(({ parts }) => parts.every(({ massG }) => massG === 0))) return null;
  const weights = new Weights(project, assembleBench(project));
  const can = project.joints.map(({ cardId }) => stallTorqueNmm(byId(project.cards, cardId), null));
  return (targets: readonly number[], servos: readonly { share: number }[]): boolean => {
    const torques = weights.holding(targets);
    let isOther = false;
    servos.forEach((servo, place) => {
      const most = can[place] ?? null;
      const share = most === null ? 0 : Math.min(1, Math.abs(torques[place] as number) / most);
      if (Math.abs(share - servo.share) < 0.01) return;
      servo.share = share;
      isOther = true;
    });
    return isOther;
  };
}

/** Gathers the course look by look. */
class Gathering {
  readonly #project: Project;
  readonly #net: ReturnType<typeof netOf>;
  readonly #stepMs: number;
  readonly #given: readonly { readonly at: number; readonly id: string; readonly ma: Float32Array }[];
  readonly #limitedMs: Float64Array;
  readonly #most: Float64Array;
  readonly #mostAt: Float64Array;
  readonly #least: Float64Array;
  readonly #leastAt: Float64Array;
  readonly #heat: Float64Array;
  readonly #hottest: Float64Array;
  /** What every place carried at each look, of a routine that is over before anything is warm. */
  readonly #carried: Float64Array | null;
  readonly #resets: Map<number, number[]> = new Map();

  constructor(project: Project, net: ReturnType<typeof netOf>, stepMs: number, length: number) {
    const count = net.places.length;
    this.#project = project;
    this.#net = net;
    this.#stepMs = stepMs;
    this.#given = net.places.flatMap((place, at) =>
      place.kind === "supply" ? [{ at, id: place.id, ma: new Float32Array(length) }] : [],
    );
    this.#limitedMs = new Float64Array(count);
    this.#most = new Float64Array(count);
    this.#mostAt = new Float64Array(count);
    this.#least = new Float64Array(count).fill(Number.POSITIVE_INFINITY);
    this.#leastAt = new Float64Array(count);
    this.#heat = new Float64Array(count);
    this.#hottest = new Float64Array(count);
    this.#carried = length * stepMs < warmAfterMs ? new Float64Array(length * count) : null;
  }

  take(look: number, { volts, amps, givenA, isLimited }: Solved): void {
    const nowMs = look * this.#stepMs;
    for (const { at, ma } of this.#given) {
      ma[look] = (givenA[at] as number) * 1000;
      if (isLimited[at]) this.#limitedMs[at] = (this.#limitedMs[at] as number) + this.#stepMs;
    }
    if (this.#carried) this.#carried.set(amps, look * amps.length);
    else this.#warm(amps);
    for (let at = 0; at < amps.length; at += 1) {
      const carried = amps[at] as number;
      if (carried > (this.#most[at] as number)) {
        this.#most[at] = carried;
        this.#mostAt[at] = nowMs;
      }
      const here = volts[at] as number;
      if (here < (this.#least[at] as number)) {
        this.#least[at] = here;
        this.#leastAt[at] = nowMs;
      }
    }
    for (const [at, place] of this.#net.places.entries()) {
      if (place.kind !== "board" || !this.#net.isFed[at]) continue;
      const { power } = byId(this.#project.boards, place.id);
      if ((volts[at] as number) >= (power?.lowestVolts ?? 4.2)) continue;
      const resets = this.#resets.get(at) ?? [];
      this.#resets.set(at, resets);
      if (nowMs - (resets.at(-1) ?? Number.NEGATIVE_INFINITY) > awakeAfterMs) resets.push(nowMs);
    }
  }

  #warm(amps: Float64Array): void {
    const part = this.#stepMs / warmsInMs;
    for (let at = 0; at < amps.length; at += 1) {
      const before = this.#heat[at] as number;
      const heat = before + part * ((amps[at] as number) ** 2 - before);
      this.#heat[at] = heat;
      this.#hottest[at] = Math.max(this.#hottest[at] as number, heat);
    }
  }

  /** Plays a short routine round after round until it warms nothing any further. */
  #warmOn(): void {
    const count = this.#heat.length;
    if (!this.#carried || count === 0) return;
    const looks = this.#carried.length / count;
    for (let nowMs = 0; nowMs < warmAfterMs; nowMs += looks * this.#stepMs)
      for (let look = 0; look < looks; look += 1) this.#warm(this.#carried.subarray(look * count, (look + 1) * count));
  }

  course(): PowerCourse {
    this.#warmOn();
    const { places, runs, isFed } = this.#net;
    const most = (at: number): Extreme => ({ value: this.#most[at] as number, atMs: this.#mostAt[at] as number });
    const least = (at: number): Extreme => ({ value: this.#least[at] as number, atMs: this.#leastAt[at] as number });
    const numbers = places.map((_, at) => at);
    const named = <Value>(kind: "joint" | "board", value: (at: number) => Value): Record<string, Value> =>
      Object.fromEntries(
        numbers.flatMap((at) => (places[at]?.kind === kind && isFed[at] ? [[places[at].id, value(at)] as const] : [])),
      );
    return {
      stepMs: this.#stepMs,
      supplies: this.#given.map(({ at, id, ma }) => ({
        supplyId: id,
        givenMa: ma,
        most: mostOf(ma, this.#stepMs),
        meanA: ma.reduce((sum, one) => sum + one, 0) / ma.length / 1000,
        limitedMs: this.#limitedMs[at] as number,
      })),
      runs: Object.fromEntries(
        numbers.flatMap((at) => {
          const run = runs[at];
          return run ? [[run.id, { most: most(at), heatA: Math.sqrt(this.#hottest[at] as number) }] as const] : [];
        }),
      ),
      servos: named("joint", (at) => ({ least: least(at) })),
      boards: named("board", (at) => ({ least: least(at), resets: this.#resets.get(at) ?? [] })),
    };
  }
}

/** The most of what a supply gives; of a regulator that is not what it takes in. */
function mostOf(ma: Float32Array, stepMs: number): Extreme {
  let at = 0;
  for (let look = 1; look < ma.length; look += 1) if ((ma[look] as number) > (ma[at] as number)) at = look;
  return { value: (ma[at] ?? 0) / 1000, atMs: at * stepMs };
}

/** How long a battery lasts if the round goes on and on, in hours. */
export const lastsHours = (capacityMah: number, meanA: number): number =>
  meanA > 0 ? capacityMah / 1000 / meanA : Number.POSITIVE_INFINITY;
