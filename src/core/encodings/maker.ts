/**
 * How one board turns set points into signals: a whole number goes in (its **count**), and a set point comes out.
 * Pulse boards take µs; bus adapters take ticks, and their count is the tick itself.
 * Every way of making signals is a straight line between the two: `set point = offset + gain × count`.
 */
export interface SignalMaker {
  /** What the link calls it. */
  readonly unit: "count" | "tick";
  /** What a count is called at the bench. */
  readonly countName: "count" | "tick" | "compare" | "µs" | "%";
  /** What a person types for one count; 1 except where the API takes per cent or µs. */
  readonly perCount: number;
  /** The frame as it really is, which need not be what was asked for. With a fixed gap: at 1500 µs. */
  readonly periodUs: number;
  /** Set points per count; negative where a larger number makes a shorter pulse. */
  readonly gain: number;
  /** The set point of count 0. */
  readonly offset: number;
  readonly lowestCount: number;
  readonly highestCount: number;
  readonly rounding: Rounding;
  /** The change of set point that one count makes. */
  readonly step: number;
  /** The exact, unrounded count of a set point. */
  exactCount(setPoint: number): number;
  /** The count this board really uses: rounded its own way and kept within its range. */
  toCount(setPoint: number): number;
  /** What really comes out for a count. */
  toSetPoint(count: number): number;
  /** The frame in which a pulse of this length is sent. */
  periodUsAt(pulseUs: number): number;
  /** When a pulse of this length begins on a channel, in µs from the beginning of its frame. */
  riseUsAt(pulseUs: number, channel: number): number;
}

export type Rounding = "round" | "truncate";

interface LinearMaker extends Pick<SignalMaker, "unit" | "countName" | "periodUs" | "gain" | "offset"> {
  readonly lowestCount: number;
  readonly highestCount: number;
  readonly rounding: Rounding;
  readonly perCount?: number;
  readonly periodUsAt?: (pulseUs: number) => number;
  readonly riseUsAt?: SignalMaker["riseUsAt"];
}

/** Truncation forgives an error of arithmetic just below a whole number: 307 × step must truncate to 307. */
const roundingOf = (rounding: Rounding) =>
  rounding === "round" ? Math.round : (exact: number) => Math.floor(exact + 1e-9);

export function linearMaker(line: LinearMaker): SignalMaker {
  const { gain, offset, lowestCount, highestCount, periodUs } = line;
  const round = roundingOf(line.rounding);
  return {
    unit: line.unit,
    countName: line.countName,
    perCount: line.perCount ?? 1,
    periodUs,
    gain,
    offset,
    lowestCount,
    highestCount,
    rounding: line.rounding,
    step: Math.abs(gain),
    exactCount: (setPoint) => (setPoint - offset) / gain,
    toCount: (setPoint) => {
      const count = round((setPoint - offset) / gain);
      return Math.min(Math.max(count, lowestCount), highestCount);
    },
    toSetPoint: (count) => offset + gain * count,
    periodUsAt: line.periodUsAt ?? (() => periodUs),
    riseUsAt: line.riseUsAt ?? (() => 0),
  };
}

/**
 * The count nearest to the board's own choice whose signal stays inside [low, high].
 * Rounding could otherwise push a set point at the edge of a hard window out of it by up to one step.
 * Gives NaN when no count lies inside: such a signal must not be sent.
 */
export function countWithin(maker: SignalMaker, setPoint: number, low: number, high: number): number {
  const upward = maker.gain > 0 ? 1 : -1;
  let count = maker.toCount(setPoint);
  if (maker.toSetPoint(count) > high) count -= upward;
  else if (maker.toSetPoint(count) < low) count += upward;
  const made = maker.toSetPoint(count);
  return made >= low && made <= high && count >= maker.lowestCount && count <= maker.highestCount ? count : Number.NaN;
}
