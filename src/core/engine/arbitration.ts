import type { Claimant } from "@core/project";
import type { LiveJoint } from "./liveJoint";
import { owner } from "./snapshot";

/** Who somebody is, among those who may want a joint; null for nobody. */
export function claimantOf(code: number): Claimant | null {
  if (code === owner.hand) return "hand";
  if (code === owner.routine) return "routine";
  return code >= owner.lead ? "lead" : null;
}

/**
 * Whether somebody may have a joint now.
 * The hand always may. By touch, whoever moves may, but what goes on by itself (`isSteady`) takes nothing from others. By order, only who stands
 * higher, or as high and moves. What nobody has, anybody may have.
 */
export function mayTake(live: LiveJoint, code: number, isTouched: boolean, isSteady: boolean): boolean {
  const claimant = claimantOf(code);
  const current = claimantOf(live.owner);
  if (claimant === null) return false;
  if (claimant === "hand") return true;
  if (current === null) return isTouched || isSteady;
  const { takes, order } = live.joint.control;
  if (takes === "touch") return isTouched && !isSteady;
  const rank = order.indexOf(claimant) - order.indexOf(current);
  return rank < 0 ? isTouched || isSteady : rank === 0 && isTouched && !isSteady;
}

/**
 * Gives a joint into other hands. It goes over softly, from where it stands, but for a hand that takes what nobody has: a person sees what they ask for.
 * Only a hand measures: in any other, the travel limits are in force again.
 */
export function handOver(live: LiveJoint, code: number, nowMs: number): void {
  if (live.owner === code) return;
  if (code !== owner.hand) {
    live.isCalibrating = false;
    live.press = null;
  }
  if (live.owner !== owner.nobody || code !== owner.hand) soften(live, nowMs);
  live.owner = code;
}

/** From here on a joint goes softly from where it stands to what is wished. */
export function soften(live: LiveJoint, nowMs: number): void {
  if (live.joint.control.blendMs > 0)
    live.handover = { from: live.passage.target, sinceMs: nowMs, ms: live.joint.control.blendMs };
}

/** What a joint is really asked for while it goes over from one hand to the next. */
export function blended(live: LiveJoint, wish: number, nowMs: number): number {
  const { handover } = live;
  if (!handover || !Number.isFinite(wish)) return wish;
  // A clock that was set back begins the blend anew, and never runs it backwards.
  const share = Math.max(0, nowMs - handover.sinceMs) / handover.ms;
  if (!(share < 1)) {
    live.handover = null;
    return wish;
  }
  return handover.from + (wish - handover.from) * share * share * (3 - 2 * share);
}

/** Whether the one who has a joint has left it alone for so long that it goes back to others who want it. */
export function isIdle(live: LiveJoint, nowMs: number): boolean {
  const { giveBackMs } = live.joint.control;
  // Who measures reads a protractor meanwhile: that is no idleness.
  if (live.isCalibrating) return false;
  const claimant = claimantOf(live.owner);
  return giveBackMs !== null && (claimant === "hand" || claimant === "lead") && nowMs - live.touchedMs > giveBackMs;
}
