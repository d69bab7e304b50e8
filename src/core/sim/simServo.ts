import type { ServoTruth } from "@core/project";
import { seededRandom, seedOf } from "./random";
import { trueAngleDeg } from "./servoTruth";

/**
 * One simulated servo: turns towards what its signal asks, at its own speed, up to its own end stops.
 * Without a signal it goes limp and stays where it is.
 */
export class SimServo {
  /** Where the horn stands, in the servo's own degrees. A continuous servo counts on past full turns. */
  angleDeg: number;
  /** It pushes against an end stop: the hum that strips gears. */
  isStalled = false;
  readonly #truth: ServoTruth;
  readonly #random: () => number;
  /** The set point it is heading for; a change smaller than the deadband is not noticed. */
  #noticed = Number.NaN;

  constructor(truth: ServoTruth, seed = seedOf(truth.cardId)) {
    this.#truth = truth;
    this.#random = seededRandom(seed);
    this.angleDeg = truth.kind === "positional" ? truth.startDeg : 0;
  }

  /** Lets `dtMs` pass with this set point on the wire; NaN is no signal. */
  step(dtMs: number, setPoint: number): void {
    const truth = this.#truth;
    if (Number.isNaN(setPoint)) {
      this.#noticed = Number.NaN;
      this.isStalled = false;
      return;
    }
    if (truth.kind === "continuous") {
      const off = setPoint - truth.neutral;
      const spin = Math.abs(off) <= truth.deadband ? 0 : Math.max(-1, Math.min(1, off / truth.span));
      this.angleDeg += (spin * truth.fullSpeedDegPerS * dtMs) / 1000;
      return;
    }
    if (!(Math.abs(setPoint - this.#noticed) < truth.deadband)) this.#noticed = setPoint;
    const askedDeg = trueAngleDeg(truth, this.#noticed);
    const reachableDeg = Math.max(truth.stopLowDeg, Math.min(truth.stopHighDeg, askedDeg));
    const largestStepDeg = (truth.speedDegPerS * dtMs) / 1000;
    const gapDeg = reachableDeg - this.angleDeg;
    this.angleDeg += Math.abs(gapDeg) <= largestStepDeg ? gapDeg : Math.sign(gapDeg) * largestStepDeg;
    this.isStalled = askedDeg !== reachableDeg && this.angleDeg === reachableDeg;
  }

  /** The angle as an eye or a sensor sees it: the true one with a little noise. */
  readDeg(): number {
    // The sum of three even draws is close enough to a bell curve for a wobbling horn.
    const bell = this.#random() + this.#random() + this.#random() - 1.5;
    return this.angleDeg + bell * 2 * this.#truth.noiseDeg;
  }
}
