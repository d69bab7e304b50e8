import { type Aim, columnOf, errorsOf, isNear, mmPerUnit, nearDeg, nearMm, offDegOf, offMmOf } from "./aim";
import type { Chain, FreeJoint } from "./chain";
import { halton } from "./halton";

export interface Reached {
  readonly isReached: boolean;
  /** How far the tip stays away, and by how much it points elsewhere. */
  readonly offMm: number;
  readonly offDeg: number;
  /** Steps that were taken, over all beginnings. */
  readonly rounds: number;
}

const mostRounds = 60;
/** A joint goes no further in one step: beyond, its circle is no line any more. */
const longestStepDeg = 45;

/**
 * Inverse kinematics by damped least squares (Levenberg and Marquardt) that knows the limits: a joint at its stop that is pushed further out is taken out of the
 * sum, and the others make up for it. Damping goes down while steps help and up when they do not, so singular places are gone through, and the end is
 * come to in few steps. A beginning that ends beside the aim is followed by others: the nearest of many stances that are spread over the limits.
 */
export class Inverse {
  readonly chain: Chain;
  readonly #count: number;
  /** Six numbers a joint, see `Chain.slopes`. */
  readonly #slopes: Float64Array;
  /** What of the errors each joint mends by one degree: nine numbers a joint. */
  readonly #columns: Float64Array;
  readonly #normal: Float64Array;
  readonly #factor: Float64Array;
  readonly #gradient: Float64Array;
  readonly #step: Float64Array;
  readonly #before: Float64Array;
  readonly #from: Float64Array;
  readonly #errors = new Float64Array(9);
  readonly #isBarred: Uint8Array;

  constructor(chain: Chain) {
    const count = chain.joints.length;
    this.chain = chain;
    this.#count = count;
    this.#slopes = new Float64Array(6 * count);
    this.#columns = new Float64Array(9 * count);
    this.#normal = new Float64Array(count * count);
    this.#factor = new Float64Array(count * count);
    this.#gradient = new Float64Array(count);
    this.#step = new Float64Array(count);
    this.#before = new Float64Array(count);
    this.#from = new Float64Array(count);
    this.#isBarred = new Uint8Array(count);
  }

  /**
   * Moves the chain from where it stands as near to the aim as one way down leads, each joint by `mostDeg` at most. What it finds stands in `chain.now.targets`.
   * From one aim to one close by nothing leaps: that is what a hand that drags needs.
   */
  near(aim: Aim, mostDeg = Number.POSITIVE_INFINITY): Reached {
    const { targets } = this.chain.now;
    for (let at = 0; at < this.#count; at += 1) {
      const { place, low, high } = this.#joint(at);
      targets[place] = Math.max(low, Math.min(high, targets[place] as number));
      this.#from[at] = targets[place] as number;
    }
    return this.#descend(aim, mostDeg);
  }

  /** By how much the tip points elsewhere than this aim asks, as the chain stands. */
  offDeg(aim: Aim): number {
    errorsOf(aim, this.chain.tip, this.#errors);
    return offDegOf(aim, this.#errors);
  }

  /** Finds the aim from wherever it can be found: first from where the chain stands, then from elsewhere. The best that was found stands in the chain at the end. */
  anywhere(aim: Aim, mostBeginnings = 60): Reached {
    let best = this.near(aim);
    if (best.isReached || this.#count === 0) return best;
    let { rounds } = best;
    const found = this.stance();
    for (const stance of this.#stances(aim, mostBeginnings)) {
      this.take(stance);
      const next = this.near(aim);
      rounds += next.rounds;
      if (worth(next) < worth(best)) {
        best = next;
        found.set(this.stance());
      }
      if (best.isReached) break;
    }
    this.take(found);
    return { ...best, rounds };
  }

  /** The ways to the aim that were found, each far from the others and the nearest first; the chain is left in that one, or where it stood. */
  ways(aim: Aim, most = 4): readonly Float64Array[] {
    const begin = this.stance();
    const found: Float64Array[] = [];
    const consider = () => {
      if (!this.near(aim).isReached) return;
      const here = this.stance();
      const isNew = found.every((other) => here.some((value, at) => Math.abs(value - (other[at] as number)) > 15));
      if (isNew) found.push(here);
    };
    consider();
    for (const stance of this.#stances(aim, 80)) {
      if (found.length >= most) break;
      this.take(stance);
      consider();
    }
    this.take(found[0] ?? begin);
    return found;
  }

  /** How well the tip can still be moved from here: 0 where some direction is barred, 1 where all go alike. The least of its speeds over the greatest. */
  ease(): number {
    this.chain.slopes(this.#slopes);
    const sums = [0, 0, 0, 0, 0, 0] as [number, number, number, number, number, number];
    for (let at = 0; at < this.#count; at += 1) {
      const x = this.#slopes[6 * at] as number;
      const y = this.#slopes[6 * at + 1] as number;
      const z = this.#slopes[6 * at + 2] as number;
      sums[0] += x * x;
      sums[1] += x * y;
      sums[2] += x * z;
      sums[3] += y * y;
      sums[4] += y * z;
      sums[5] += z * z;
    }
    const [least, most] = endsOfSpread(sums);
    return most > 0 ? Math.sqrt(Math.max(0, least) / most) : 0;
  }

  /** Where its joints stand, in the order of the chain. */
  stance(): Float64Array {
    return Float64Array.from(this.chain.joints, ({ place }) => this.chain.now.targets[place] as number);
  }

  /** Stands the chain in a stance. */
  take(stance: ArrayLike<number>): void {
    this.chain.joints.forEach(({ place }, at) => {
      this.chain.now.targets[place] = stance[at] as number;
    });
    this.chain.stand();
  }

  #joint(at: number): FreeJoint {
    return this.chain.joints[at] as FreeJoint;
  }

  #descend(aim: Aim, mostDeg: number): Reached {
    const { chain } = this;
    const { targets } = chain.now;
    const count = this.#count;
    chain.stand();
    const rows = errorsOf(aim, chain.tip, this.#errors);
    let cost = squared(this.#errors, rows);
    let damping = 1e-3;
    let rounds = 0;
    let idle = 0;
    while (rounds < mostRounds && idle < 3 && count > 0 && !isNear(aim, this.#errors)) {
      rounds += 1;
      const trace = this.#sum(aim, rows);
      if (!(trace > 0)) break;
      for (let at = 0; at < count; at += 1) this.#before[at] = targets[this.#joint(at).place] as number;
      let isBetter = false;
      for (let attempt = 0; attempt < 10 && !isBetter; attempt += 1) {
        this.#solve(((damping + 1e-10) * trace) / count, mostDeg);
        for (let at = 0; at < count; at += 1)
          targets[this.#joint(at).place] = this.#limited(
            at,
            (this.#before[at] as number) + (this.#step[at] as number),
            mostDeg,
          );
        chain.stand();
        errorsOf(aim, chain.tip, this.#errors);
        const next = squared(this.#errors, rows);
        isBetter = next < cost;
        if (isBetter) {
          idle = cost - next < cost * 1e-4 ? idle + 1 : 0;
          cost = next;
          damping = Math.max(1e-9, damping * 0.1);
        } else damping *= 6;
      }
      if (isBetter) continue;
      for (let at = 0; at < count; at += 1) targets[this.#joint(at).place] = this.#before[at] as number;
      break;
    }
    chain.stand();
    errorsOf(aim, chain.tip, this.#errors);
    const offMm = offMmOf(aim, this.#errors);
    const offDeg = offDegOf(aim, this.#errors);
    return { isReached: offMm <= nearMm && offDeg <= nearDeg, offMm, offDeg, rounds };
  }

  /** The normal equations of a step from here: slopes times slopes, and slopes times errors. Gives the sum of their diagonal. */
  #sum(aim: Aim, rows: number): number {
    const count = this.#count;
    const columns = this.#columns;
    this.chain.slopes(this.#slopes);
    let trace = 0;
    for (let at = 0; at < count; at += 1) columnOf(aim, this.chain.tip, this.#slopes, at, columns);
    for (let a = 0; a < count; a += 1) {
      for (let b = 0; b <= a; b += 1) {
        let sum = 0;
        for (let row = 0; row < rows; row += 1)
          sum += (columns[9 * a + row] as number) * (columns[9 * b + row] as number);
        this.#normal[a * count + b] = sum;
        this.#normal[b * count + a] = sum;
      }
      trace += this.#normal[a * count + a] as number;
      let pull = 0;
      for (let row = 0; row < rows; row += 1) pull += (columns[9 * a + row] as number) * (this.#errors[row] as number);
      this.#gradient[a] = pull;
    }
    return trace;
  }

  /** The damped step, with each joint that would go out of its limits barred and the others asked again. */
  #solve(damping: number, mostDeg: number): void {
    const count = this.#count;
    this.#isBarred.fill(0);
    for (let pass = 0; pass <= count; pass += 1) {
      solveDamped(this.#normal, this.#gradient, this.#isBarred, damping, this.#factor, this.#step);
      let hasNew = false;
      for (let at = 0; at < count; at += 1) {
        if (this.#isBarred[at]) continue;
        const value = this.#before[at] as number;
        const step = this.#step[at] as number;
        // One that stands at its stop, and is asked to go on.
        if (step !== 0 && this.#limited(at, value + step, mostDeg) === value) {
          this.#isBarred[at] = 1;
          hasNew = true;
        }
      }
      if (!hasNew) break;
    }
  }

  /** A target within the joint's limits, within what it may go in all, and within one step. */
  #limited(at: number, target: number, mostDeg: number): number {
    const { low, high } = this.#joint(at);
    const from = this.#from[at] as number;
    const before = this.#before[at] as number;
    const lowest = Math.max(low, from - mostDeg, before - longestStepDeg);
    const highest = Math.min(high, from + mostDeg, before + longestStepDeg);
    return Math.max(lowest, Math.min(highest, target));
  }

  /** Stances spread evenly over the limits (a Halton sequence), those whose tips are nearest to the aim first. */
  *#stances(aim: Aim, most: number): Generator<Float64Array> {
    const scattered = Array.from({ length: most * 4 }, (_, index) => {
      const stance = Float64Array.from(
        this.chain.joints,
        ({ low, high }, at) => low + (high - low) * halton(index + 1, at),
      );
      this.take(stance);
      const rows = errorsOf(aim, this.chain.tip, this.#errors);
      return { stance, away: squared(this.#errors, rows) };
    });
    scattered.sort((a, b) => a.away - b.away);
    for (const { stance } of scattered.slice(0, most)) yield stance;
  }
}

const worth = ({ offMm, offDeg }: Reached): number => offMm + (offDeg * Math.PI * mmPerUnit) / 180;

function squared(errors: Float64Array, rows: number): number {
  let sum = 0;
  for (let row = 0; row < rows; row += 1) sum += (errors[row] as number) ** 2;
  return sum;
}

/** Solves (A + damping) · x = b for those that are not barred, by Cholesky's way; the others are 0. */
function solveDamped(
  normal: Float64Array,
  gradient: Float64Array,
  isBarred: Uint8Array,
  damping: number,
  factor: Float64Array,
  out: Float64Array,
): void {
  const count = gradient.length;
  for (let row = 0; row < count; row += 1) {
    for (let column = 0; column <= row; column += 1) {
      const isOut = isBarred[row] || isBarred[column];
      let sum = isOut ? 0 : (normal[row * count + column] as number);
      if (row === column) sum = isOut ? 1 : sum + damping;
      for (let inner = 0; inner < column; inner += 1)
        sum -= (factor[row * count + inner] as number) * (factor[column * count + inner] as number);
      factor[row * count + column] =
        row === column ? Math.sqrt(Math.max(sum, 1e-18)) : sum / (factor[column * count + column] as number);
    }
  }
  for (let row = 0; row < count; row += 1) {
    let sum = isBarred[row] ? 0 : (gradient[row] as number);
    for (let inner = 0; inner < row; inner += 1)
      sum -= (factor[row * count + inner] as number) * (out[inner] as number);
    out[row] = sum / (factor[row * count + row] as number);
  }
  for (let row = count - 1; row >= 0; row -= 1) {
    let sum = out[row] as number;
    for (let inner = row + 1; inner < count; inner += 1)
      sum -= (factor[inner * count + row] as number) * (out[inner] as number);
    out[row] = sum / (factor[row * count + row] as number);
  }
}

/** The least and the greatest eigenvalue of a symmetric matrix of three rows (xx, xy, xz, yy, yz, zz). Source: the trigonometric solution of its cubic. */
function endsOfSpread([xx, xy, xz, yy, yz, zz]: readonly [number, number, number, number, number, number]): [
  number,
  number,
] {
  const mean = (xx + yy + zz) / 3;
  const [a, b, c] = [xx - mean, yy - mean, zz - mean];
  const spread = Math.sqrt((a * a + b * b + c * c + 2 * (xy * xy + xz * xz + yz * yz)) / 6);
  if (spread < 1e-12) return [mean, mean];
  const det = a * (b * c - yz * yz) - xy * (xy * c - yz * xz) + xz * (xy * yz - b * xz);
  const third = Math.acos(Math.max(-1, Math.min(1, det / (2 * spread ** 3)))) / 3;
  return [mean + 2 * spread * Math.cos(third + (2 * Math.PI) / 3), mean + 2 * spread * Math.cos(third)];
}
