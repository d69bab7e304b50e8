import { diagnose } from "@core/calibrate";
import type { ServoCard } from "@core/project";
import { curveFrom } from "./servoCurve";

/**
 * The play in the gears, in degrees, as the newest check tells that was read from both sides; 0 where it found none, null where none tells.
 * Points of a curve may all have been come to from one side: then the curve is off by half of it from the middle.
 */
export function knownPlayDeg(card: ServoCard): number | null {
  if (card.kind === "continuous") return null;
  for (const check of card.checks.toSorted((a, b) => b.madeAt.localeCompare(a.madeAt))) {
    const made = card.calibrations.find((one) => one.id === check.calibrationId);
    const play = diagnose(curveFrom(card, made), check.readings)?.shares.play;
    if (play && play.verdict !== "open") return play.verdict === "there" ? Math.abs(play.deg) : 0;
  }
  return null;
}
