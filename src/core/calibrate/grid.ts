/** What a board can make: `origin` and every whole number of steps from there, in set points. */
export interface Grid {
  readonly origin: number;
  readonly step: number;
}

/** Below this share of a step, a difference is an error of arithmetic. */
const tiny = 1e-9;

/** The place on the grid that is nearest, or the next one below or above. */
export function onGrid({ origin, step }: Grid, setPoint: number, side: "nearest" | "down" | "up" = "nearest"): number {
  const exact = (setPoint - origin) / step;
  const steps =
    side === "nearest" ? Math.round(exact) : side === "down" ? Math.floor(exact + tiny) : Math.ceil(exact - tiny);
  return origin + steps * step;
}

/** The least whole number of steps, and at least one, that is as wide as this: in set points. */
export const stepsUp = ({ step }: Grid, width: number): number => Math.max(1, Math.ceil(width / step - tiny)) * step;
