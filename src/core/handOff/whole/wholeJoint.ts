import { toAngleDeg, toSetPoint } from "@core/calibrate";
import { type MachineJoint, noCount } from "../machine";
import { countBits, down, graceOf65536, pulseBits, scaled, targetBits } from "./scale";

/** A straight piece of the way from target to count: `exact = (count + (target − from) × perTarget) / 2^shift`, in 65536ths of a count. */
export interface WholeLine {
  readonly from: number;
  readonly count: number;
  readonly perTarget: number;
}

/** A joint in whole numbers; targets in `targetBits`. */
export interface WholeJoint {
  readonly bits: number;
  readonly lines: readonly WholeLine[];
  readonly shift: number;
  /** The targets between which the hard window lies, and the counts in it; where there is none, `first` is above `last`. */
  readonly windowFrom: number;
  readonly windowTo: number;
  readonly first: number;
  readonly last: number;
  /** `pulse in µs = (offset + gain × count) / 2^pulseBits`. */
  readonly pulseOffset: number;
  readonly pulseGain: number;
}

/** How near the whole numbers are to the ones in floating point, over a joint's whole travel. */
export interface Nearness {
  /** The largest difference, in counts. */
  readonly counts: number;
  /** The share of the travel on which there is one. */
  readonly share: number;
  /** So many edges between counts were looked at. */
  readonly edges: number;
}

/** No product of the code is larger than this: what numbers hold exactly here, and 64 bits easily. */
const largestProduct = 2 ** 52;

/** The count as a number with a fraction, before the board rounds it. */
const exactCount = ({ curve, zeroDeg, direction, counts }: MachineJoint, target: number): number =>
  (toSetPoint(curve, zeroDeg + direction * target) - counts.offset) / counts.gain;

const targetAt = ({ curve, zeroDeg, direction }: MachineJoint, setPoint: number): number =>
  direction * (toAngleDeg(curve, setPoint) - zeroDeg);

function wholeJoint(joint: MachineJoint): WholeJoint {
  const { curve, zeroDeg, direction, window, counts } = joint;
  const bits = targetBits(joint.unit);
  const atWindow = [targetAt(joint, window.low), targetAt(joint, window.high)].sort((a, b) => a - b) as [
    number,
    number,
  ];
  // Where the curve bends, in targets. A line has one piece, from 0.
  const bends =
    curve.kind === "line"
      ? []
      : curve.knots.map(({ angleDeg }) => direction * (angleDeg - zeroDeg)).sort((a, b) => a - b);
  const starts = curve.kind === "line" ? [0] : bends.slice(0, -1);
  const slopes = starts.map((from, at) => {
    const to = bends[at + 1] ?? from + 1;
    return (exactCount(joint, to) - exactCount(joint, from)) / (to - from);
  });
  const farthest =
    2 ** bits * Math.max(1, ...[joint.low, joint.high, ...atWindow, ...bends].map((target) => 2 * Math.abs(target)));
  const steepest = Math.max(...slopes.map(Math.abs));
  const most = Math.max(...starts.map((from) => Math.abs(exactCount(joint, from)))) + 1;
  let shift = 30;
  // Counts have `countBits` more bits than the slope has of the target's own.
  const fits = () =>
    farthest * steepest * 2 ** (countBits - bits + shift) + most * 2 ** (countBits + shift) < largestProduct;
  while (shift > 0 && !fits()) shift -= 1;
  const lines = starts.map((from, at) => ({
    from: scaled(from, bits),
    count: scaled(exactCount(joint, scaled(from, bits) / 2 ** bits), countBits + shift),
    perTarget: scaled(slopes[at] as number, countBits - bits + shift),
  }));
  const ends = [(window.low - counts.offset) / counts.gain, (window.high - counts.offset) / counts.gain].sort(
    (a, b) => a - b,
  );
  const isIn = (count: number) => {
    const made = counts.offset + counts.gain * count;
    return made >= window.low && made <= window.high && count >= counts.lowest && count <= counts.highest;
  };
  let first = Math.max(counts.lowest, Math.floor(ends[0] as number));
  let last = Math.min(counts.highest, Math.ceil(ends[1] as number));
  while (first <= last && !isIn(first)) first += 1;
  while (last >= first && !isIn(last)) last -= 1;
  return {
    bits,
    lines,
    shift,
    windowFrom: scaled(atWindow[0], bits),
    windowTo: scaled(atWindow[1], bits),
    first,
    last,
    pulseOffset: scaled(counts.offset, pulseBits),
    pulseGain: scaled(counts.gain, pulseBits),
  };
}

/** The count that the code in whole numbers gives a target; `noCount` for none. Written as the code is. */
function wholeCount(joint: MachineJoint, whole: WholeJoint, target: number): number {
  const { bits, windowFrom, windowTo, first, last } = whole;
  const low = scaled(joint.low, bits);
  const high = scaled(joint.high, bits);
  let at = Math.min(Math.max(target, low), high);
  at = Math.min(Math.max(at, windowFrom), windowTo);
  const isInside = at >= low && at <= high;
  const a = exactOf(whole, low);
  const b = exactOf(whole, high);
  const from = isInside ? Math.max(first, -down(graceOf65536 - Math.min(a, b), countBits)) : first;
  const to = isInside ? Math.min(last, down(Math.max(a, b) + graceOf65536, countBits)) : last;
  const half = joint.counts.rounding === "truncate" ? 0 : 2 ** (countBits - 1);
  const near = down(exactOf(whole, at) + half + graceOf65536, countBits);
  return from <= to ? Math.min(Math.max(near, from), to) : noCount;
}

function exactOf({ lines, shift }: WholeJoint, target: number): number {
  let at = 0;
  while (at + 1 < lines.length && (lines[at + 1] as WholeLine).from <= target) at += 1;
  const { from, count, perTarget } = lines[at] as WholeLine;
  return down(count + (target - from) * perTarget, shift);
}

/**
 * The largest difference to the bench over the whole travel. Both are stairs that go one way only: where both give the same count at two targets, they do between them.
 * So only what lies about the edges is looked at, and nothing is left out.
 */
function nearness(joint: MachineJoint, whole: WholeJoint): Nearness {
  const low = scaled(joint.low, whole.bits);
  const high = scaled(joint.high, whole.bits);
  const both = (target: number) => [joint.countOf(target / 2 ** whole.bits), wholeCount(joint, whole, target)] as const;
  let counts = 0;
  let differing = 0;
  let edges = 0;
  const see = ([real, ours]: readonly [number, number], targets: number) => {
    counts = Math.max(counts, Math.abs(real - ours));
    if (real !== ours) differing += targets;
  };
  const open = [[low, both(low), high, both(high)] as const];
  see(open[0]?.[1] as readonly [number, number], 1);
  while (open.length > 0) {
    const [from, atFrom, to, atTo] = open.pop() as (typeof open)[number];
    // Of the targets after `from`, up to and with `to`.
    if (atFrom[0] === atTo[0] && atFrom[1] === atTo[1]) see(atTo, to - from);
    else if (to - from === 1) {
      see(atTo, 1);
      edges += 1;
    } else {
      const middle = Math.floor((from + to) / 2);
      const atMiddle = both(middle);
      open.push([from, atFrom, middle, atMiddle], [middle, atMiddle, to, atTo]);
    }
  }
  return { counts, share: differing / (high - low + 1), edges };
}

const made = new WeakMap<MachineJoint, { readonly whole: WholeJoint; readonly near: Nearness }>();

/** A joint in whole numbers and how near they are; worked out once. */
export function inWhole(joint: MachineJoint): { readonly whole: WholeJoint; readonly near: Nearness } {
  const before = made.get(joint);
  if (before) return before;
  const whole = wholeJoint(joint);
  const both = { whole, near: nearness(joint, whole) };
  made.set(joint, both);
  return both;
}
