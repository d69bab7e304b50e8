import { type Draw, drawOf, type Loads, type Net, netOf, noLoads, type Place, placeIn, Solver } from "@core/power";
import { byId, type Project } from "@core/project";
import type { SimServo } from "./simServo";

/** A servo that begins to turn draws its stall current for so long. */
const inrushMs = 40;
/** On a slow way a servo stands for a moment in each frame; to its supply it turns all the same. */
const frameMs = 45;
/** What is stored in a supply bridges so long an overload; then its voltage breaks down. */
const bridgesMs = 100;

/**
 * What reaches the simulated servos and boards: their supplies, rails and wires are those of the project. A short overload is bridged, as by the capacitors of a real
 * supply; a longer one breaks its voltage down. What nothing is said to feed has all it needs.
 */
export class SimPower {
  readonly #net: Net;
  readonly #loads: Loads;
  readonly #solver: Solver;
  readonly #servos: readonly {
    readonly cardId: string;
    readonly at: number;
    readonly draw: Draw;
    turningMs: number;
    quietMs: number;
  }[];
  readonly #limitsA: Float64Array;
  readonly #overMs: Float64Array;
  readonly #numbers: Readonly<Record<"joint" | "board", ReadonlyMap<string, number>>>;
  readonly #volts: Float64Array;
  /** What each supply would give if it could. */
  #givenA = new Float64Array(0);
  #isBrokenDown = false;
  #isSolved = false;

  /** Null for a project that says nothing of its supplies. */
  static of(project: Project): SimPower | null {
    return project.supplies.length > 0 && project.runs.length > 0 ? new SimPower(project) : null;
  }

  private constructor(project: Project) {
    this.#net = netOf(project);
    this.#loads = noLoads(this.#net);
    this.#solver = new Solver(this.#net);
    this.#servos = project.joints.flatMap((joint) => {
      const at = placeIn(this.#net, "joint", joint.id);
      if (!this.#net.isFed[at]) return [];
      return [
        {
          cardId: joint.cardId,
          at,
          draw: drawOf(byId(project.cards, joint.cardId)),
          turningMs: 0,
          quietMs: frameMs + 1,
        },
      ];
    });
    this.#limitsA = Float64Array.from(this.#net.places, limitOf);
    this.#overMs = new Float64Array(this.#net.places.length);
    this.#volts = new Float64Array(this.#net.places.length);
    const numbersOf = (kind: "joint" | "board") =>
      new Map(this.#net.places.flatMap((place, at) => (place.kind === kind ? [[place.id, at] as const] : [])));
    this.#numbers = { joint: numbersOf("joint"), board: numbersOf("board") };
  }

  /** Lets time pass: what the servos draw pulls the voltages down, and what reaches them makes them slow, weak or limp. */
  step(dtMs: number, servoOf: (cardId: string) => SimServo | undefined): void {
    let isOther = !this.#isSolved;
    for (const servo of this.#servos) {
      const sim = servoOf(servo.cardId);
      if (!sim) continue;
      servo.quietMs = sim.isTurning ? 0 : servo.quietMs + dtMs;
      servo.turningMs = servo.quietMs <= frameMs ? servo.turningMs + dtMs : 0;
      const siemens = drawnA(sim, servo.draw, servo.turningMs) / servo.draw.atVolts;
      if (Math.abs(siemens - (this.#loads.siemens[servo.at] as number)) < 1e-6) continue;
      this.#loads.siemens[servo.at] = siemens;
      isOther = true;
    }
    if (this.#watchLimits(dtMs, isOther)) this.#solve();
    for (const { cardId, at, draw } of this.#servos) {
      const sim = servoOf(cardId);
      if (sim) sim.supplyShare = (this.#volts[at] as number) / draw.atVolts;
    }
  }

  /** What reaches a servo or a board, in V; NaN for what nothing is said to feed. */
  voltsAt(kind: "joint" | "board", id: string): number {
    const at = this.#numbers[kind].get(id) ?? -1;
    return this.#isSolved && this.#net.isFed[at] ? (this.#volts[at] as number) : Number.NaN;
  }

  /** Counts for how long each supply is asked for too much. Whether the net has to be solved anew. */
  #watchLimits(dtMs: number, isOther: boolean): boolean {
    if (isOther) this.#givenA = this.#solver.solve(this.#loads, 1, false).givenA.slice();
    let isDown = false;
    for (let at = 0; at < this.#limitsA.length; at += 1) {
      const isOver = (this.#givenA[at] as number) > (this.#limitsA[at] as number);
      this.#overMs[at] = isOver ? Math.min(bridgesMs * 2, (this.#overMs[at] as number) + dtMs) : 0;
      if ((this.#overMs[at] as number) > bridgesMs) isDown = true;
    }
    const hasTurned = isDown !== this.#isBrokenDown;
    this.#isBrokenDown = isDown;
    return isOther || hasTurned;
  }

  #solve(): void {
    this.#volts.set(this.#solver.solve(this.#loads, 1, this.#isBrokenDown).volts);
    this.#isSolved = true;
  }
}

const limitOf = (place: Place): number =>
  place.kind === "supply" ? place.supply.limitMa / 1000 : Number.POSITIVE_INFINITY;

/** What a simulated servo draws at its rated voltage: its own truth where that says so, else its card. */
function drawnA(sim: SimServo, { idleA, movingA, stallA }: Draw, turningMs: number): number {
  if (!sim.hasSignal) return 0;
  const own = sim.drawsMaWhile(turningMs > 0);
  if (turningMs > 0 && turningMs <= inrushMs) return stallA;
  return Number.isNaN(own) ? (turningMs > 0 ? movingA : idleA) : own / 1000;
}
