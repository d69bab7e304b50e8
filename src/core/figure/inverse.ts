import type { Vector } from "@core/shapes";
import type { Chain, FreeJoint } from "./chain";
import { halton } from "./halton";

/**
 * Where a tip is wanted.
 *
 * `atMm` alone leaves it to point as it likes; `along` says where its x points besides, and `up` where its z does. `lookAt` has it look at a place, wherever it
 * stands itself.
 */
export type Aim =
  | { readonly kind: "place"; readonly atMm: Vector; readonly along: Vector | null; readonly up: Vector | null }
  | { readonly kind: "lookAt"; readonly atMm: Vector };

export interface Reached {
  readonly isReached: boolean;
  /** How far the tip stays away, and by how much it points elsewhere. */
  readonly offMm: number;
  readonly offDeg: number;
  /** Steps that were taken, over all beginnings. */
  readonly rounds: number;
}

/** Near enough to be called reached: a tenth of what a hobby servo can be told. */
const nearMm = 0.02;
const nearDeg = 0.02;
/** A wrong direction of one radian weighs as much as this way: about the length of a hand. */
const mmPerUnit = 100;
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

/** What is wrong of a tip, in mm: its place in rows 0 to 2, then its x and its z, or its look. Gives how many rows there are. */
function errorsOf(aim: Aim, tip: Float64Array, out: Float64Array): number {
  const [x, y, z] = aim.atMm;
  const [dx, dy, dz] = [x - (tip[9] as number), y - (tip[10] as number), z - (tip[11] as number)];
  if (aim.kind === "lookAt") {
    const far = Math.sqrt(dx * dx + dy * dy + dz * dz) || 1;
    out[0] = mmPerUnit * (dx / far - (tip[0] as number));
    out[1] = mmPerUnit * (dy / far - (tip[3] as number));
    out[2] = mmPerUnit * (dz / far - (tip[6] as number));
    return 3;
  }
  out[0] = dx;
  out[1] = dy;
  out[2] = dz;
  let rows = 3;
  if (aim.along) {
    for (let row = 0; row < 3; row += 1)
      out[rows + row] = mmPerUnit * ((aim.along[row] as number) - (tip[3 * row] as number));
    rows += 3;
  }
  if (aim.up) {
    for (let row = 0; row < 3; row += 1)
      out[rows + row] = mmPerUnit * ((aim.up[row] as number) - (tip[3 * row + 2] as number));
    rows += 3;
  }
  return rows;
}

/** What one degree of a joint mends of these errors. */
function columnOf(aim: Aim, tip: Float64Array, slopes: Float64Array, joint: number, out: Float64Array): void {
  const from = 6 * joint;
  const to = 9 * joint;
  const [vx, vy, vz] = [slopes[from] as number, slopes[from + 1] as number, slopes[from + 2] as number];
  if (aim.kind === "lookAt") {
    turnedBy(slopes, from + 3, tip, 0, out, to);
    const dx = aim.atMm[0] - (tip[9] as number);
    const dy = aim.atMm[1] - (tip[10] as number);
    const dz = aim.atMm[2] - (tip[11] as number);
    const far = Math.sqrt(dx * dx + dy * dy + dz * dz) || 1;
    const along = (vx * dx + vy * dy + vz * dz) / (far * far);
    out[to] = (out[to] as number) + (mmPerUnit * (vx - along * dx)) / far;
    out[to + 1] = (out[to + 1] as number) + (mmPerUnit * (vy - along * dy)) / far;
    out[to + 2] = (out[to + 2] as number) + (mmPerUnit * (vz - along * dz)) / far;
    return;
  }
  out[to] = vx;
  out[to + 1] = vy;
  out[to + 2] = vz;
  let rows = 3;
  if (aim.along) {
    turnedBy(slopes, from + 3, tip, 0, out, to + rows);
    rows += 3;
  }
  if (aim.up) turnedBy(slopes, from + 3, tip, 2, out, to + rows);
}

/** How a turn moves the end of one of the tip's axes, in the weight of directions. */
function turnedBy(
  slopes: Float64Array,
  turn: number,
  tip: Float64Array,
  axis: number,
  out: Float64Array,
  to: number,
): void {
  const [wx, wy, wz] = [slopes[turn] as number, slopes[turn + 1] as number, slopes[turn + 2] as number];
  const [x, y, z] = [tip[axis] as number, tip[3 + axis] as number, tip[6 + axis] as number];
  out[to] = mmPerUnit * (wy * z - wz * y);
  out[to + 1] = mmPerUnit * (wz * x - wx * z);
  out[to + 2] = mmPerUnit * (wx * y - wy * x);
}

const offMmOf = (aim: Aim, errors: Float64Array): number =>
  aim.kind === "lookAt" ? 0 : Math.hypot(errors[0] as number, errors[1] as number, errors[2] as number);

/** By how much it points elsewhere: the greater of its axes. A chord of length c spans 2·asin(c/2). */
function offDegOf(aim: Aim, errors: Float64Array): number {
  const isLook = aim.kind === "lookAt";
  const axes = isLook ? 1 : (aim.along ? 1 : 0) + (aim.up ? 1 : 0);
  let worst = 0;
  for (let axis = 0; axis < axes; axis += 1) {
    const row = (isLook ? 0 : 3) + 3 * axis;
    const chord = Math.hypot(errors[row] as number, errors[row + 1] as number, errors[row + 2] as number) / mmPerUnit;
    worst = Math.max(worst, (2 * Math.asin(Math.min(1, chord / 2)) * 180) / Math.PI);
  }
  return worst;
}

/** Well within what counts as reached, so that what is reached once is reached again from there. */
const isNear = (aim: Aim, errors: Float64Array): boolean =>
  offMmOf(aim, errors) < nearMm / 4 && offDegOf(aim, errors) < nearDeg / 4;

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
