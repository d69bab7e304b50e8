/**
 * How one board turns set points into signals: a whole number goes in (its **register**), and a set point comes out.
 * Pulse boards take µs; bus adapters take ticks, and their register is the tick itself.
 * Every way of making signals is a straight line between the two: `set point = offset + gain × register`.
 */
export interface SignalMaker {
  /** What the link calls it. */
  readonly unit: "count" | "tick";
  /** What the register is called at the bench. */
  readonly registerName: "count" | "tick" | "compare" | "µs" | "%";
  /** What a person types for one register; 1 except where the API takes per cent or µs. */
  readonly perRegister: number;
  /** The frame as it really is, which need not be what was asked for. With a fixed gap: at 1500 µs. */
  readonly periodUs: number;
  /** Set points per register; negative where a larger number makes a shorter pulse. */
  readonly gain: number;
  /** The set point of register 0. */
  readonly offset: number;
  readonly lowestRegister: number;
  readonly highestRegister: number;
  /** The change of set point that one register step makes. */
  readonly step: number;
  /** The exact, unrounded register of a set point. */
  exactRegister(setPoint: number): number;
  /** The register this board really uses: rounded its own way and kept within its range. */
  toRegister(setPoint: number): number;
  /** What really comes out for a register. */
  toSetPoint(register: number): number;
  /** The frame in which a pulse of this length is sent. */
  periodUsAt(pulseUs: number): number;
}

export type Rounding = "round" | "truncate";

interface LinearMaker extends Pick<SignalMaker, "unit" | "registerName" | "periodUs" | "gain" | "offset"> {
  readonly lowestRegister: number;
  readonly highestRegister: number;
  readonly rounding: Rounding;
  readonly perRegister?: number;
  readonly periodUsAt?: (pulseUs: number) => number;
}

/** Truncation forgives an error of arithmetic just below a whole number: 307 × step must truncate to 307. */
const roundingOf = (rounding: Rounding) =>
  rounding === "round" ? Math.round : (exact: number) => Math.floor(exact + 1e-9);

export function linearMaker(line: LinearMaker): SignalMaker {
  const { gain, offset, lowestRegister, highestRegister, periodUs } = line;
  const round = roundingOf(line.rounding);
  return {
    unit: line.unit,
    registerName: line.registerName,
    perRegister: line.perRegister ?? 1,
    periodUs,
    gain,
    offset,
    lowestRegister,
    highestRegister,
    step: Math.abs(gain),
    exactRegister: (setPoint) => (setPoint - offset) / gain,
    toRegister: (setPoint) => {
      const register = round((setPoint - offset) / gain);
      return Math.min(Math.max(register, lowestRegister), highestRegister);
    },
    toSetPoint: (register) => offset + gain * register,
    periodUsAt: line.periodUsAt ?? (() => periodUs),
  };
}

/**
 * The register nearest to the board's own choice whose signal stays inside [low, high].
 * Rounding could otherwise push a set point at the edge of a hard window out of it by up to one step.
 * Gives NaN when no register lies inside: such a signal must not be sent.
 */
export function registerWithin(maker: SignalMaker, setPoint: number, low: number, high: number): number {
  const upward = maker.gain > 0 ? 1 : -1;
  let register = maker.toRegister(setPoint);
  if (maker.toSetPoint(register) > high) register -= upward;
  else if (maker.toSetPoint(register) < low) register += upward;
  const made = maker.toSetPoint(register);
  return made >= low && made <= high && register >= maker.lowestRegister && register <= maker.highestRegister
    ? register
    : Number.NaN;
}
