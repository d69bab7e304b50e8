import type { Joint } from "@core/project";
import { msAt, type TimeScale } from "./timeScale";

/** The box of a lane: which targets it spans from its foot to its head. */
export interface LaneBox {
  readonly heightPx: number;
  readonly low: number;
  readonly high: number;
  readonly travelLow: number;
  readonly travelHigh: number;
  readonly middle: number;
}

export const yOf = (box: LaneBox, target: number): number =>
  box.heightPx * (1 - (target - box.low) / (box.high - box.low));

/** The target at a height; differences of two are right wherever the lane lies on the page. */
export const targetAt = (box: LaneBox, px: number): number => box.high - (px / box.heightPx) * (box.high - box.low);

/** A target as a person would give it: tenths of a degree, hundredths of a spin. */
export const asGiven = (target: number, { axis }: Joint): number =>
  axis.kind === "angle" ? Math.round(target * 10) / 10 : Math.round(target * 100) / 100;

/** From one point of a drawn curve to the next, in px. */
const stepPx = 2;

/**
 * A value over the time in view as the path of an SVG, a point every other pixel. Where there is no value the line is broken, and what leaves
 * the box stays at its edge.
 */
export function curvePath(valueAt: (ms: number) => number, scale: TimeScale, box: LaneBox): string {
  const parts: string[] = [];
  let isDrawing = false;
  for (let px = 0; px <= scale.widthPx; px += stepPx) {
    const value = valueAt(msAt(scale, px));
    if (!Number.isFinite(value)) {
      isDrawing = false;
      continue;
    }
    const y = Math.min(box.heightPx - 1, Math.max(1, yOf(box, value)));
    parts.push(`${isDrawing ? "L" : "M"}${px} ${y.toFixed(1)}`);
    isDrawing = true;
  }
  return parts.join("");
}
