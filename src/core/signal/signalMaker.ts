import type { Board, Encoding } from "@core/project";
import { periodUsOf } from "./frame";

/**
 * How one board turns set points into signals: a whole number goes in (its **register**), and a set point comes out.
 * Pulse boards take µs; bus adapters take ticks, and their register is the tick itself.
 */
export interface SignalMaker {
  /** What the register is called at the bench. */
  readonly registerName: "count" | "tick";
  readonly periodUs: number;
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
}

/** Full scale is `2^n` counts on some boards and `2^n − 1` on others; a factor of 1.00002 to 1.004 between them. */
export const fullScaleOf = (encoding: Extract<Encoding, { kind: "counts" }>): number =>
  encoding.fullScale === "2^n" ? 2 ** encoding.bits : 2 ** encoding.bits - 1;

export function signalMakerOf(board: Board): SignalMaker {
  const { encoding } = board;
  const periodUs = periodUsOf(board.frameHz);
  if (encoding.kind === "bus") {
    return makerOf("tick", periodUs, 1, encoding.highestTick, Math.round);
  }
  const stepUs = periodUs / fullScaleOf(encoding);
  // The register has n bits, so 2^n itself can never be loaded.
  return makerOf("count", periodUs, stepUs, 2 ** encoding.bits - 1, roundingOf(encoding.rounding));
}

/** Truncation forgives an error of arithmetic just below a whole number: 307 × step must truncate to 307. */
const roundingOf = (rounding: "round" | "truncate") =>
  rounding === "round" ? Math.round : (exact: number) => Math.floor(exact + 1e-9);

function makerOf(
  registerName: SignalMaker["registerName"],
  periodUs: number,
  step: number,
  highestRegister: number,
  round: (exact: number) => number,
): SignalMaker {
  return {
    registerName,
    periodUs,
    lowestRegister: 0,
    highestRegister,
    step,
    exactRegister: (setPoint) => setPoint / step,
    toRegister: (setPoint) => Math.min(Math.max(round(setPoint / step), 0), highestRegister),
    toSetPoint: (register) => register * step,
  };
}

/**
 * The register nearest to the board's own choice whose signal stays inside [low, high].
 * Rounding could otherwise push a set point at the edge of a hard window out of it by up to one step.
 * Gives NaN when no register lies inside: such a signal must not be sent.
 */
export function registerWithin(maker: SignalMaker, setPoint: number, low: number, high: number): number {
  let register = maker.toRegister(setPoint);
  if (maker.toSetPoint(register) > high) register -= 1;
  else if (maker.toSetPoint(register) < low) register += 1;
  const made = maker.toSetPoint(register);
  return made >= low && made <= high && register >= maker.lowestRegister && register <= maker.highestRegister
    ? register
    : Number.NaN;
}
