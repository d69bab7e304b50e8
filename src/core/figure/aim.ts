import type { Vector } from "@core/shapes";

/**
 * Where a tip is wanted.
 *
 * `atMm` alone leaves it to point as it likes; `along` says where its x points besides, and `up` where its z does; `tiltDeg` only by how much its x rises over the
 * level, whatever it turns to (and counts where there is no `along`). `lookAt` has it look at a place, wherever it stands itself.
 */
export type Aim =
  | {
      readonly kind: "place";
      readonly atMm: Vector;
      readonly along: Vector | null;
      readonly up: Vector | null;
      readonly tiltDeg?: number;
    }
  | { readonly kind: "lookAt"; readonly atMm: Vector };

/** Near enough to be called reached: a tenth of what a hobby servo can be told. */
export const nearMm = 0.02;
export const nearDeg = 0.02;
/** A wrong direction of one radian weighs as much as this way: about the length of a hand. */
export const mmPerUnit = 100;

const rad = Math.PI / 180;

/** What is wrong of a tip, in mm: its place in rows 0 to 2, then its x (or how it rises) and its z, or its look. Gives how many rows there are. */
export function errorsOf(aim: Aim, tip: Float64Array, out: Float64Array): number {
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
  } else if (aim.tiltDeg !== undefined) {
    out[rows] = mmPerUnit * (Math.sin(aim.tiltDeg * rad) - (tip[6] as number));
    out[rows + 1] = mmPerUnit * (Math.cos(aim.tiltDeg * rad) - levelOf(tip));
    rows += 2;
  }
  if (aim.up) {
    for (let row = 0; row < 3; row += 1)
      out[rows + row] = mmPerUnit * ((aim.up[row] as number) - (tip[3 * row + 2] as number));
    rows += 3;
  }
  return rows;
}

/** What one degree of a joint mends of these errors. */
export function columnOf(aim: Aim, tip: Float64Array, slopes: Float64Array, joint: number, out: Float64Array): void {
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
  } else if (aim.tiltDeg !== undefined) {
    turnedBy(slopes, from + 3, tip, 0, out, to + rows);
    const [dx, dy, dz] = [out[to + rows] as number, out[to + rows + 1] as number, out[to + rows + 2] as number];
    const level = levelOf(tip);
    out[to + rows] = dz;
    // Upright it may lean to any side: to x as well as to another.
    out[to + rows + 1] = level > 1e-9 ? ((tip[0] as number) * dx + (tip[3] as number) * dy) / level : dx;
    rows += 2;
  }
  if (aim.up) turnedBy(slopes, from + 3, tip, 2, out, to + rows);
}

/** How much of a tip's x lies level. */
const levelOf = (tip: Float64Array): number => Math.hypot(tip[0] as number, tip[3] as number);

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

export const offMmOf = (aim: Aim, errors: Float64Array): number =>
  aim.kind === "lookAt" ? 0 : Math.hypot(errors[0] as number, errors[1] as number, errors[2] as number);

/** By how much it points elsewhere: the greater of its axes. A chord of length c spans 2·asin(c/2). */
export function offDegOf(aim: Aim, errors: Float64Array): number {
  if (aim.kind === "lookAt") return chordDeg(errors, 0, 3);
  const rows = aim.along ? 3 : aim.tiltDeg !== undefined ? 2 : 0;
  const worst = chordDeg(errors, 3, rows);
  return aim.up ? Math.max(worst, chordDeg(errors, 3 + rows, 3)) : worst;
}

function chordDeg(errors: Float64Array, row: number, count: number): number {
  let sum = 0;
  for (let at = row; at < row + count; at += 1) sum += (errors[at] as number) ** 2;
  return (2 * Math.asin(Math.min(1, Math.sqrt(sum) / mmPerUnit / 2))) / rad;
}

/** Well within what counts as reached, so that what is reached once is reached again from there. */
export const isNear = (aim: Aim, errors: Float64Array): boolean =>
  offMmOf(aim, errors) < nearMm / 4 && offDegOf(aim, errors) < nearDeg / 4;
