import type { PositionalTruth, ServoTruth } from "@core/project";
import { seededRandom, seedOf } from "./random";
import { fullTorqueAtDeg, loadAt, trueAngleDeg } from "./servoTruth";

/** Below this share of its rated voltage a servo's electronics do not work. */
export const wakesAtShare = 0.5;
/** Within its deadband a servo lets itself be pulled about without doing anything: a load that trembles starts no motor. */
const noticedSagDeg = 0.15;

/**
 * One simulated servo: turns towards what its signal asks, at its own speed, up to its own end stops, with play in its gears.
 * Without a signal it goes limp and stays where it is.
 */
export class SimServo {
  /** Where the horn stands, in the servo's own degrees. A continuous servo counts on past full turns. */
  angleDeg: number;
  /** It pushes against an end stop: the hum that strips gears. */
  isStalled = false;
  /**
   * The share of its torque that it needs to hold what hangs on it, towards larger angles; 0 for nothing. Under it it sags, rises more slowly and sinks faster;
   * more than all of its torque it cannot hold.
   */
  burden = 0;
  /** What reaches it, as a share of the voltage that it is rated at: a motor's speed and torque go with it, and below a half its electronics give up. */
  supplyShare = 1;
  readonly #truth: ServoTruth;
  readonly #random: () => number;
  /** The set point it is heading for; a change smaller than the deadband is not noticed. */
  #noticed = Number.NaN;
  /** Where that set point would turn it to. */
  #noticedDeg = Number.NaN;
  /** Where the gears stand. The horn follows them once the play is taken up. */
  #driveDeg: number;
  /** How far the horn has slipped on its shaft. */
  #slipDeg = 0;
  /** How far it sags under what hangs on it. */
  #sagDeg = 0;
  #isTurning = false;
  #hasSignal = false;

  constructor(truth: ServoTruth, seed = seedOf(truth.cardId)) {
    this.#truth = truth;
    this.#random = seededRandom(seed);
    this.angleDeg = truth.kind === "positional" ? truth.startDeg : 0;
    this.#driveDeg = this.angleDeg;
  }

  /** Turns on and on for `dtMs`, as a smart servo does in its velocity mode: no end stop is in its way. */
  spin(dtMs: number, speedDegPerS: number): void {
    const truth = this.#truth;
    const fastest = truth.kind === "positional" ? truth.speedDegPerS : truth.fullSpeedDegPerS;
    this.#hasSignal = true;
    this.isStalled = false;
    this.#isTurning = speedDegPerS !== 0;
    this.angleDeg += (Math.max(-fastest, Math.min(fastest, speedDegPerS)) * dtMs) / 1000;
    this.#driveDeg = this.angleDeg;
  }

  /** A limp servo is turned by hand. One that holds is stronger than the hand. */
  turnByHand(byDeg: number): void {
    const truth = this.#truth;
    if (this.#hasSignal || truth.kind !== "positional") return;
    this.angleDeg = Math.max(truth.stopLowDeg, Math.min(truth.stopHighDeg, this.angleDeg + byDeg));
    this.#driveDeg = this.angleDeg;
  }

  /** Lets `dtMs` pass with this set point on the wire; NaN is no signal. One that is `free` of its end stops turns over many turns. */
  step(dtMs: number, setPoint: number, isFree = false): void {
    const truth = this.#truth;
    this.#hasSignal = !Number.isNaN(setPoint) && truth.hasSupply !== false && this.supplyShare >= wakesAtShare;
    if (!this.#hasSignal) {
      this.#noticed = Number.NaN;
      this.isStalled = false;
      this.#isTurning = false;
      return;
    }
    if (truth.kind === "continuous") {
      const off = setPoint - truth.neutral;
      const spin = Math.abs(off) <= truth.deadband ? 0 : Math.max(-1, Math.min(1, off / truth.span));
      this.#isTurning = spin !== 0;
      // A motor slows down in proportion to what it pushes.
      const slowed = this.supplyShare * Math.max(0, 1 - (Math.sign(spin) * this.burden) / this.supplyShare);
      this.isStalled = spin !== 0 && slowed === 0;
      this.angleDeg += (spin * truth.fullSpeedDegPerS * slowed * dtMs) / 1000;
      return;
    }
    if (setPoint !== this.#noticed && !(Math.abs(setPoint - this.#noticed) < truth.deadband)) {
      this.#noticed = setPoint;
      this.#noticedDeg = trueAngleDeg(truth, setPoint);
    }
    const sagDeg = (fullTorqueAtDeg * this.burden) / this.supplyShare;
    if (Math.abs(sagDeg - this.#sagDeg) > noticedSagDeg || this.burden === 0) this.#sagDeg = sagDeg;
    const askedDeg = this.#noticedDeg + this.#slipDeg - this.#sagDeg;
    const reachableDeg = isFree ? askedDeg : Math.max(truth.stopLowDeg, Math.min(truth.stopHighDeg, askedDeg));
    const gapDeg = reachableDeg - this.#driveDeg;
    const loadShare = this.burden / this.supplyShare + loadAt(truth, this.#driveDeg);
    if (Math.abs(loadShare) > 1) {
      this.#sink(loadShare, dtMs);
      return;
    }
    // A motor slows down in proportion to what it pushes.
    const slowed = this.supplyShare * Math.max(0.1, 1 - Math.sign(gapDeg) * loadShare);
    const largestStepDeg = (truth.speedDegPerS * slowed * dtMs) / 1000;
    // What starts it is how far it is asked to go, whether or not a stop is in the way.
    const isStuck = !this.#isTurning && Math.abs(askedDeg - this.#driveDeg) <= (truth.stictionDeg ?? 0);
    this.#isTurning = gapDeg !== 0 && !isStuck;
    if (this.#isTurning)
      this.#driveDeg += Math.abs(gapDeg) <= largestStepDeg ? gapDeg : Math.sign(gapDeg) * largestStepDeg;
    const playDeg = truth.backlashDeg / 2;
    this.angleDeg = Math.max(this.#driveDeg - playDeg, Math.min(this.#driveDeg + playDeg, this.angleDeg));
    this.isStalled = askedDeg !== reachableDeg && this.#driveDeg === reachableDeg;
    if (this.isStalled && truth.slipDegPerS) {
      const restDeg = reachableDeg - askedDeg;
      this.#slipDeg += Math.sign(restDeg) * Math.min(Math.abs(restDeg), (truth.slipDegPerS * dtMs) / 1000);
    }
  }

  /** What is heavier than all that it can draws it down, while it pushes with all it has; the faster, the heavier. */
  #sink(loadShare: number, dtMs: number): void {
    const truth = this.#truth as PositionalTruth;
    const byDeg = -Math.sign(loadShare) * truth.speedDegPerS * Math.min(1, Math.abs(loadShare) - 1) * (dtMs / 1000);
    const before = this.#driveDeg;
    this.#driveDeg = Math.max(truth.stopLowDeg, Math.min(truth.stopHighDeg, before + byDeg));
    this.angleDeg = this.#driveDeg;
    this.#isTurning = this.#driveDeg !== before;
    this.isStalled = true;
  }

  /** The angle as an eye or a sensor sees it: the true one with a little noise. */
  readDeg(): number {
    return this.angleDeg + this.#bell() * 2 * this.#truth.noiseDeg;
  }

  get isTurning(): boolean {
    return this.#isTurning;
  }

  get isPositional(): boolean {
    return this.#truth.kind === "positional";
  }

  /** How far its horn has slipped on the shaft so far, in degrees. */
  get slippedDeg(): number {
    return this.#slipDeg;
  }

  /** Whether it has a sensor that the board can read. */
  get isReadable(): boolean {
    return this.#truth.kind === "positional" && this.#truth.feedback !== null;
  }

  /** What its sensor reads, in whole ticks or counts of at least 0; NaN for a servo without one. */
  readSensor(): number {
    const feedback = this.#truth.kind === "positional" ? this.#truth.feedback : null;
    if (!feedback) return Number.NaN;
    return Math.max(0, Math.round(this.readTurns()));
  }

  /** What its sensor reads over all its turns, before it is rounded; NaN for a servo without one. */
  readTurns(): number {
    const feedback = this.#truth.kind === "positional" ? this.#truth.feedback : null;
    return feedback ? feedback.atZeroDeg + feedback.perDeg * this.angleDeg + this.#bell() * feedback.noise : Number.NaN;
  }

  /** What its sensor of current says at this moment, in mA, with its noise; NaN where the truth does not say. */
  readCurrentMa(): number {
    return Math.max(0, this.drawsMaWhile(this.#isTurning) * (1 + 0.1 * this.#bell()));
  }

  /** Whether it has a signal, and a supply to follow it. */
  get hasSignal(): boolean {
    return this.#hasSignal;
  }

  /** What it draws at its rated voltage, in mA, while it turns or stands; NaN where the truth does not say. */
  drawsMaWhile(turns: boolean): number {
    const truth = this.#truth;
    if (truth.kind !== "positional") return Number.NaN;
    if (!this.#hasSignal) return 0;
    // A motor's current goes with the torque that it gives.
    const bareMa = turns ? truth.movingMa : truth.idleMa;
    const share = this.isStalled ? 1 : Math.min(1, Math.abs(this.burden));
    return bareMa + share * (truth.stallMa - bareMa);
  }

  /** The sum of three even draws is close enough to a bell curve for a wobbling horn. */
  #bell(): number {
    return this.#random() + this.#random() + this.#random() - 1.5;
  }
}
