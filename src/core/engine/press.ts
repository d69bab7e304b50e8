import type { Command } from "./commands";
import { pressing } from "./snapshot";

/** A step against a possible stop, as it runs: the wishes it goes through, and since when. */
export interface Press {
  readonly fromMs: number;
  readonly settleMs: number;
  readonly forMs: number;
  readonly to: number;
  readonly backTo: number;
  phase: (typeof pressing)[keyof typeof pressing];
}

type PressCommand = Extract<Command, { kind: "press" }>;

/** However long somebody asks for. */
const longestPressAllowedMs = 2000;

/** Begins a step against a possible stop. Gives it with its first wish, or null where something is not a number. */
export function beginPress(
  command: PressCommand,
  toTarget: (setPoint: number) => number,
  nowMs: number,
): { readonly press: Press; readonly from: number } | null {
  const [from, to, backTo] = [command.from, command.to, command.backTo].map(toTarget) as [number, number, number];
  const { settleMs } = command;
  if (![from, to, backTo, settleMs, command.forMs].every(Number.isFinite)) return null;
  const forMs = Math.min(command.forMs, longestPressAllowedMs);
  return { press: { fromMs: nowMs, settleMs, forMs, to, backTo, phase: pressing.standing }, from };
}

/** Lets time pass on a step. Gives the joint's wish: a new one where a new phase begins. */
export function pressOn(press: Press, nowMs: number, wish: number): number {
  const ms = nowMs - press.fromMs;
  const phase = ms >= press.forMs ? pressing.back : ms >= press.settleMs ? pressing.pressing : pressing.standing;
  // What stood back presses no more, even if the clock was set back.
  if (phase === press.phase || press.phase === pressing.back) return wish;
  press.phase = phase;
  return phase === pressing.pressing ? press.to : press.backTo;
}

/** The same step, cut short: it stands back. */
export const pressOver = (press: Press): Press => ({ ...press, phase: pressing.back });
