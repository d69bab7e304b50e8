import type { BusDevice } from "@core/bus";
import { toAngleDeg } from "@core/calibrate";
import { byId, type Joint, type Project, type SmartCard } from "@core/project";
import { curveOf } from "@core/servo";

/** A device that comes back is led to its place no faster than this. */
const calmDegPerS = 60;

/** How a joint's device may be led: calmly, and never faster than the joint may go; and within the hard window of its card. */
export function boundsOf(
  joint: Joint,
  project: Project,
  periodS: number,
): Pick<BusDevice, "calmTicksPerFrame" | "fastestTicksPerFrame" | "window"> {
  const card = byId(project.cards, joint.cardId) as SmartCard;
  const ticksPerDeg = steepestOf(card);
  const limit = joint.axis.kind === "angle" ? joint.axis.speedLimitDegPerS : null;
  const degPerS = Math.min(calmDegPerS, limit ?? calmDegPerS);
  return {
    calmTicksPerFrame: degPerS * ticksPerDeg * periodS,
    // The gate keeps the limit itself; rounding to whole ticks comes on top of it.
    fastestTicksPerFrame: limit === null ? Number.POSITIVE_INFINITY : limit * ticksPerDeg * periodS + 1,
    window: card.window,
  };
}

/** Ticks per degree where the calibration in force is steepest. */
function steepestOf(card: SmartCard): number {
  const curve = curveOf(card);
  const { low, high } = card.window;
  const places = 256;
  let steepest = Math.abs(card.nominal.high - card.nominal.low) / card.travelDeg;
  for (let at = 0; at < places; at += 1) {
    const [from, to] = [at, at + 1].map((place) => low + ((high - low) * place) / places) as [number, number];
    const turnDeg = Math.abs(toAngleDeg(curve, to) - toAngleDeg(curve, from));
    if (turnDeg > 0) steepest = Math.max(steepest, (to - from) / turnDeg);
  }
  return steepest;
}
