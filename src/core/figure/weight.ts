import type { Joint, Part, Project, ServoCard, Spring, Tip } from "@core/project";
import { type MeshOf, spreadOf, type Vector, volumeOf } from "@core/shapes";
import { type Frames, frameOfPlace, frameSize, pointIn } from "./frames";
import { type Assembly, partFrame, placeOf, rateOf, type Standing, stand, standing } from "./stand";

/** Standard gravity, in mm/s². */
const gravityMmPerS2 = 9806.65;
/** One kgf·cm in N·mm, by standard gravity. */
export const nmmPerKgCm = 98.0665;
const rad = Math.PI / 180;

/** Something that is carried: so much at a place of a part. */
export interface Load {
  readonly partId: string;
  readonly atMm: Vector;
  readonly massG: number;
}

/**
 * What each joint has to hold, and what it has to give to move. Forces are summed from the ends to the table: weight, what is carried, springs, and, for what
 * moves, its mass times how fast it gathers speed and its spin. Masses are in g and lengths in mm, so forces come in g·mm/s², which are µN; torques are given in
 * N·mm at the servo, with a ratio between servo and part worked in.
 */
export class Weights {
  readonly now: Standing;
  readonly #assembly: Assembly;
  readonly #inertias: readonly Float64Array[];
  readonly #springs: readonly { readonly spring: Spring; readonly from: number; readonly to: number }[];
  /** By part: force (3) and its moment about the world's origin (3), of the part and all that hangs on it. */
  readonly #wrenches: Float64Array;
  readonly #point = new Float64Array(3);
  readonly #other = new Float64Array(3);
  readonly #before: Standing;
  readonly #after: Standing;
  readonly #torques: Float64Array;
  #loads: readonly { readonly load: Load; readonly place: number }[] = [];

  constructor(project: Pick<Project, "meshes">, assembly: Assembly) {
    const meshOf: MeshOf = (id) => project.meshes.find((mesh) => mesh.id === id);
    this.#assembly = assembly;
    this.now = standing(assembly);
    this.#before = standing(assembly);
    this.#after = standing(assembly);
    this.#inertias = assembly.parts.map((part) => inertiaOf(part, meshOf));
    this.#springs = [...new Set(assembly.figureOf)].flatMap(({ springs }) =>
      springs.map((spring) => ({
        spring,
        from: placeOf(assembly, spring.fromPartId),
        to: placeOf(assembly, spring.toPartId),
      })),
    );
    this.#wrenches = new Float64Array(assembly.parts.length * 6);
    this.#torques = new Float64Array(assembly.jointIds.length);
  }

  /** Has the figures carry this from now on. */
  carry(loads: readonly Load[]): void {
    this.#loads = loads.map((load) => ({ load, place: placeOf(this.#assembly, load.partId) }));
  }

  /** The torque that each joint has to give (N·mm, towards larger targets), by place number, to stand still with these targets. Written over at the next call. */
  holding(targets: ArrayLike<number>): Float64Array {
    this.now.targets.set(targets);
    stand(this.now);
    this.#gather(null, 0);
    return this.#torquesOf();
  }

  /** The same while moving: `before`, `at` and `after` are targets `stepS` apart. */
  moving(before: ArrayLike<number>, at: ArrayLike<number>, after: ArrayLike<number>, stepS: number): Float64Array {
    this.#before.targets.set(before);
    this.now.targets.set(at);
    this.#after.targets.set(after);
    stand(this.#before);
    stand(this.now);
    stand(this.#after);
    this.#gather([this.#before, this.#after], stepS);
    return this.#torquesOf();
  }

  /** What is lifted and stretched where it stands now, in N·mm: for checks, and for what a fall would set free. */
  energyNmm(): number {
    let sum = 0;
    const { frames } = this.now;
    this.#assembly.parts.forEach(({ massG, centreMm }, place) => {
      pointIn(frames, partFrame(place), centreMm, this.#point);
      sum += massG * gravityMmPerS2 * (this.#point[2] as number) * 1e-6;
    });
    for (const { load, place } of this.#loads) {
      pointIn(frames, partFrame(place), load.atMm, this.#point);
      sum += load.massG * gravityMmPerS2 * (this.#point[2] as number) * 1e-6;
    }
    for (const { spring, from, to } of this.#springs) {
      const stretch = Math.max(0, this.#lengthOf(spring, from, to) - spring.freeMm);
      sum += (spring.nPerMm * stretch * stretch) / 2;
    }
    return sum;
  }

  #lengthOf(spring: Spring, from: number, to: number): number {
    pointIn(this.now.frames, partFrame(from), spring.fromMm, this.#point);
    pointIn(this.now.frames, partFrame(to), spring.toMm, this.#other);
    return Math.hypot(
      (this.#other[0] as number) - (this.#point[0] as number),
      (this.#other[1] as number) - (this.#point[1] as number),
      (this.#other[2] as number) - (this.#point[2] as number),
    );
  }

  /** Sums the wrenches from the ends to the table. */
  #gather(around: readonly [Standing, Standing] | null, stepS: number): void {
    const wrenches = this.#wrenches.fill(0);
    const { parts, parents } = this.#assembly;
    for (let place = 0; place < parts.length; place += 1) {
      const { massG, centreMm } = parts[place] as Part;
      if (massG > 0) this.#addMass(place, centreMm, massG, around, stepS);
      if (around) this.#addSpin(place, around, stepS);
    }
    for (const { load, place } of this.#loads)
      if (place >= 0) this.#addMass(place, load.atMm, load.massG, around, stepS);
    for (const { spring, from, to } of this.#springs) {
      const length = this.#lengthOf(spring, from, to);
      const pull = spring.nPerMm * Math.max(0, length - spring.freeMm) * 1e6;
      if (pull === 0 || length === 0) continue;
      const force = [0, 1, 2].map(
        (row) => (((this.#other[row] as number) - (this.#point[row] as number)) / length) * pull,
      );
      const [x, y, z] = force as [number, number, number];
      this.#addForce(from, this.#point, x, y, z);
      this.#addForce(to, this.#other, -x, -y, -z);
    }
    for (let place = parts.length - 1; place >= 0; place -= 1) {
      const parent = parents[place] as number;
      if (parent < 0) continue;
      for (let row = 0; row < 6; row += 1)
        wrenches[6 * parent + row] = (wrenches[6 * parent + row] as number) + (wrenches[6 * place + row] as number);
    }
  }

  #addMass(
    place: number,
    atMm: Vector,
    massG: number,
    around: readonly [Standing, Standing] | null,
    stepS: number,
  ): void {
    pointIn(this.now.frames, partFrame(place), atMm, this.#point);
    const [x, y, z] = [this.#point[0] as number, this.#point[1] as number, this.#point[2] as number];
    let [fx, fy, fz] = [0, 0, -massG * gravityMmPerS2];
    if (around) {
      const share = massG / stepS ** 2;
      for (const { frames } of around) {
        pointIn(frames, partFrame(place), atMm, this.#other);
        fx -= share * ((this.#other[0] as number) - x);
        fy -= share * ((this.#other[1] as number) - y);
        fz -= share * ((this.#other[2] as number) - z);
      }
    }
    this.#addForce(place, this.#point, fx, fy, fz);
  }

  /** What it takes to change how a part spins: the change of its angular momentum. */
  #addSpin(place: number, [before, after]: readonly [Standing, Standing], stepS: number): void {
    const inertia = this.#inertias[place] as Float64Array;
    const at = partFrame(place);
    momentum(before.frames, this.now.frames, at, inertia, stepS, this.#point);
    momentum(this.now.frames, after.frames, at, inertia, stepS, this.#other);
    for (let row = 0; row < 3; row += 1) {
      const to = 6 * place + 3 + row;
      const change = (this.#other[row] as number) - (this.#point[row] as number);
      this.#wrenches[to] = (this.#wrenches[to] as number) - change / stepS;
    }
  }

  #addForce(place: number, at: Float64Array, fx: number, fy: number, fz: number): void {
    const w = this.#wrenches;
    const to = 6 * place;
    const [x, y, z] = [at[0] as number, at[1] as number, at[2] as number];
    w[to] = (w[to] as number) + fx;
    w[to + 1] = (w[to + 1] as number) + fy;
    w[to + 2] = (w[to + 2] as number) + fz;
    w[to + 3] = (w[to + 3] as number) + y * fz - z * fy;
    w[to + 4] = (w[to + 4] as number) + z * fx - x * fz;
    w[to + 5] = (w[to + 5] as number) + x * fy - y * fx;
  }

  /** Of each moved part, what its axis has to bear, given on to the joint by which it moves. */
  #torquesOf(): Float64Array {
    const torques = this.#torques.fill(0);
    const { parts, movers, axes } = this.#assembly;
    const { frames } = this.now;
    for (let place = 0; place < parts.length; place += 1) {
      const joint = movers[place] as number;
      const { motion } = parts[place] as Part;
      if (joint < 0 || motion.kind === "fixed") continue;
      const at = partFrame(place);
      const [x, y, z] = axes[place] as Vector;
      const ax = axisRow(frames, at, x, y, z);
      const ay = axisRow(frames, at + 3, x, y, z);
      const az = axisRow(frames, at + 6, x, y, z);
      const w = this.#wrenches;
      const row = 6 * place;
      const [fx, fy, fz] = [w[row] as number, w[row + 1] as number, w[row + 2] as number];
      const [ox, oy, oz] = [frames[at + 9] as number, frames[at + 10] as number, frames[at + 11] as number];
      const along =
        motion.kind === "slide"
          ? // A force in N per mm; per degree of the servo it is divided by how many radians that is.
            (ax * fx + ay * fy + az * fz) / rad
          : ax * ((w[row + 3] as number) - (oy * fz - oz * fy)) +
            ay * ((w[row + 4] as number) - (oz * fx - ox * fz)) +
            az * ((w[row + 5] as number) - (ox * fy - oy * fx));
      torques[joint] = (torques[joint] as number) - along * rateOf(this.now, place) * 1e-6;
    }
    return torques;
  }
}

/** One row of a turn, times an axis. */
const axisRow = (frames: Frames, at: number, x: number, y: number, z: number): number =>
  (frames[at] as number) * x + (frames[at + 1] as number) * y + (frames[at + 2] as number) * z;

/** Angular momentum about its centre, over a step of a part's turn; in g·mm²/s. Nothing is made anew here: it is asked for each part of each moment of a routine. */
function momentum(from: Frames, to: Frames, at: number, inertia: Float64Array, stepS: number, out: Float64Array): void {
  // The turn over the step as a vector: from the lower half of R(to) · R(from)ᵀ. Exact in the limit of small steps.
  for (let row = 0; row < 3; row += 1) {
    const next = 3 * ((row + 1) % 3);
    const last = 3 * ((row + 2) % 3);
    let twice = 0;
    for (let k = at; k < at + 3; k += 1)
      twice +=
        (to[last + k] as number) * (from[next + k] as number) - (to[next + k] as number) * (from[last + k] as number);
    spin[row] = twice / 2 / stepS;
  }
  // Into the frame of the part, which is taken half-way, through its inertia, and back.
  for (let cell = 0; cell < 9; cell += 1) half[cell] = ((from[at + cell] as number) + (to[at + cell] as number)) / 2;
  for (let column = 0; column < 3; column += 1)
    own[column] =
      (spin[0] as number) * (half[column] as number) +
      (spin[1] as number) * (half[3 + column] as number) +
      (spin[2] as number) * (half[6 + column] as number);
  times(inertia, own, spin);
  times(half, spin, out);
}

const spin = new Float64Array(3);
const own = new Float64Array(3);
const half = new Float64Array(9);

/** out = nine numbers, row by row, times three. */
function times(matrix: Float64Array, vector: Float64Array, out: Float64Array): void {
  for (let row = 0; row < 3; row += 1)
    out[row] =
      (matrix[3 * row] as number) * (vector[0] as number) +
      (matrix[3 * row + 1] as number) * (vector[1] as number) +
      (matrix[3 * row + 2] as number) * (vector[2] as number);
}

/** A part's moments of inertia about its centre of mass, as nine numbers in g·mm². Where none are given its mass is spread over its bodies by their volumes. */
export function inertiaOf(part: Part, meshOf: MeshOf): Float64Array {
  const out = new Float64Array(9);
  if (part.inertiaGMm2) {
    const [xx, xy, xz, yy, yz, zz] = part.inertiaGMm2;
    out.set([xx, xy, xz, xy, yy, yz, xz, yz, zz]);
    return out;
  }
  const volumes = part.bodies.map(({ shape }) => volumeOf(shape, meshOf));
  const whole = volumes.reduce((sum, volume) => sum + volume, 0);
  if (!(whole > 0)) return out;
  const frame = new Float64Array(frameSize);
  part.bodies.forEach(({ shape, place }, index) => {
    const massG = (part.massG * (volumes[index] as number)) / whole;
    const spread = spreadOf(shape, meshOf);
    frameOfPlace(place, frame);
    const gap = [0, 1, 2].map((row) => (frame[9 + row] as number) - (part.centreMm[row] as number)) as [
      number,
      number,
      number,
    ];
    const far2 = gap[0] ** 2 + gap[1] ** 2 + gap[2] ** 2;
    for (let row = 0; row < 3; row += 1)
      for (let column = 0; column < 3; column += 1) {
        let own = 0;
        for (let k = 0; k < 3; k += 1)
          own += (frame[3 * row + k] as number) * (spread[k] as number) * (frame[3 * column + k] as number);
        // Steiner's part.
        const shifted = (row === column ? far2 : 0) - (gap[row] as number) * (gap[column] as number);
        out[3 * row + column] = (out[3 * row + column] as number) + massG * (own + shifted);
      }
  });
  return out;
}

/** The mass of a body of this many mm³ as printed plastic weighs: most of it is walls. 1.25 g/cm³ filled to two fifths. */
export const printedMassG = (volumeMm3: number): number => volumeMm3 * 1e-3 * 1.25 * 0.4;

/**
 * The most a servo can hold at this supply, in N·mm: its stall torque, which grows with the voltage as its current does. Without a voltage it is that of the
 * rating. Nothing is known of a servo whose card gives no torque: null.
 */
export function stallTorqueNmm(card: ServoCard, volts: number | null): number | null {
  const { torqueKgCm, atVolts } = card.rating;
  if (!(torqueKgCm > 0)) return null;
  return torqueKgCm * nmmPerKgCm * (volts === null ? 1 : volts / atVolts);
}

/** How much of its torque is left at this speed: all of it at rest, nothing at full speed. The straight line of a motor. */
export function torqueLeft(card: ServoCard, degPerS: number): number {
  const fullDegPerS = 60 / card.rating.secPer60Deg;
  return Math.max(0, 1 - Math.abs(degPerS) / fullDegPerS);
}

/** A joint, what it has to hold and what it can. */
export interface Bearing {
  readonly joint: Joint;
  readonly torqueNmm: number;
  /** Null where its card gives no torque. */
  readonly canNmm: number | null;
  /** Which share of what it can; null where that is not known. */
  readonly share: number | null;
}

/** What a joint has to hold, beside what its servo can. */
export function bearingOf({ cards }: Pick<Project, "cards">, joint: Joint, torqueNmm: number): Bearing {
  const card = cards.find(({ id }) => id === joint.cardId);
  const canNmm = card ? stallTorqueNmm(card, null) : null;
  return { joint, torqueNmm, canNmm, share: canNmm ? Math.abs(torqueNmm) / canNmm : null };
}

/** What a tip carries. */
export const loadAt = ({ partId, place }: Tip, massG: number): Load => ({ partId, atMm: place.atMm, massG });

/** The most that each joint may hold, by place number: the share of its servo's torque that its figure lets it use; NaN where its card gives no torque. */
export function mayHoldNmm({ joints, cards }: Pick<Project, "joints" | "cards">, assembly: Assembly): Float64Array {
  return Float64Array.from(joints, (joint, place) => {
    const part = assembly.movers.indexOf(place);
    const card = cards.find(({ id }) => id === joint.cardId);
    const can = card ? stallTorqueNmm(card, null) : null;
    return part < 0 || can === null ? Number.NaN : can * (assembly.figureOf[part]?.useShare ?? 1);
  });
}
