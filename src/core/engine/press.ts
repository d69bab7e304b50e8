import type { Command } from "./commands";
import { pressing } from "./snapshot";

/** A step against a possible stop, as it runs: the wishes it goes through, and since when. */
export interface Press {
  /** When it was asked for. */
  readonly begunMs: number;
  /** Its time runs from here: put off until the joint has got to where the step begins. */
  fromMs: number;
  readonly settleMs: number;
  readonly forMs: number;
  readonly to: number;
  readonly backTo: number;
  phase: (typeof pressing)[keyof typeof pressing];
}

type PressCommand = Extract<Command, { kind: "press" }>;

/** A joint whose speed limit is low takes its time to get there; one that never does (its window may end before) is not waited for longer. */
const longestWayMs = 3000;
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
  return { press: { begunMs: nowMs, fromMs: nowMs, settleMs, forMs, to, backTo, phase: pressing.standing }, from };
}

/**
 * Lets time pass on a step. Gives the joint's wish: a new one where a new phase begins.
 * @param isThere the gate has let the joint go as far as it was asked: before that, nothing seen of the horn would be an answer to the step
 */
export function pressOn(press: Press, nowMs: number, wish: number, isThere: boolean): number {
  if (press.phase === pressing.standing && !isThere && nowMs - press.begunMs < longestWayMs) press.fromMs = nowMs;
  const ms = nowMs - press.fromMs;
  const phase = ms >= press.forMs ? pressing.back : ms >= press.settleMs ? pressing.pressing : pressing.standing;
  // What stood back presses no more, even if the clock was set back.
  if (phase === press.phase || press.phase === pressing.back) return wish;
  press.phase = phase;
  return phase === pressing.pressing ? press.to : press.backTo;
}

/** The same step, cut short: it stands back. */
export const pressOver = (press: Press): Press => ({ ...press, phase: pressing.back });
