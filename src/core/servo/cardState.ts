import type { ServoCard } from "@core/project";
import { calibrationInForce } from "./servoCurve";

/** How a servo stands, from what is on its card and the day it is asked. */
export type CardState =
  | { readonly kind: "new" }
  | { readonly kind: "calibrated"; readonly madeAt: string }
  /** `why` follows "check due". */
  | { readonly kind: "checkDue"; readonly why: string }
  | { readonly kind: "retired" };

const dayMs = 86_400_000;

/** A person's own word comes first; then age. A servo without any calibration is new, whatever else is said of it. */
export function cardState(card: ServoCard, nowMs: number): CardState {
  if (card.standing === "retired") return { kind: "retired" };
  const made = calibrationInForce(card);
  if (!made) return { kind: "new" };
  if (card.standing === "checkDue") return { kind: "checkDue", why: "marked by hand" };
  const lastMs = Math.max(Date.parse(made.madeAt), ...card.checks.map((check) => Date.parse(check.madeAt)));
  const days = Math.floor((nowMs - lastMs) / dayMs);
  if (card.checkEveryDays !== null && days >= card.checkEveryDays)
    return { kind: "checkDue", why: `${days} days since it was last looked at` };
  return { kind: "calibrated", madeAt: made.madeAt };
}
