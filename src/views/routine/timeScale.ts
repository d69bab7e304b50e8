/** How the time of a routine lies on the screen. */
export interface TimeScale {
  /** What stands at the left edge, in ms. */
  readonly fromMs: number;
  readonly msPerPx: number;
  readonly widthPx: number;
}

export const xOf = (scale: TimeScale, ms: number): number => (ms - scale.fromMs) / scale.msPerPx;
export const msAt = (scale: TimeScale, px: number): number => scale.fromMs + px * scale.msPerPx;
export const endOf = (scale: TimeScale): number => msAt(scale, scale.widthPx);

/** A sixtieth of the width stays free at the right. */
const slack = 60 / 59;
/** Shorter than this the whole is not stretched. */
const shortestMs = 2000;
const finestMsPerPx = 0.2;

/** The scale that shows all of a routine. */
export const wholeScale = (lengthMs: number, widthPx: number): TimeScale => ({
  fromMs: 0,
  msPerPx: (Math.max(lengthMs, shortestMs) * slack) / Math.max(widthPx, 1),
  widthPx,
});

/** Zooms by a factor about a place, in px; never further out than the whole. */
export function zoomed(scale: TimeScale, factor: number, aboutPx: number, lengthMs: number): TimeScale {
  const whole = wholeScale(lengthMs, scale.widthPx);
  const msPerPx = Math.min(whole.msPerPx, Math.max(finestMsPerPx, scale.msPerPx / factor));
  return moved({ ...scale, fromMs: msAt(scale, aboutPx) - aboutPx * msPerPx, msPerPx }, 0, lengthMs);
}

/** Moves on by so many px, no further than the ends. */
export function moved(scale: TimeScale, byPx: number, lengthMs: number): TimeScale {
  const whole = wholeScale(lengthMs, scale.widthPx);
  const last = Math.max(0, whole.msPerPx * scale.widthPx - scale.msPerPx * scale.widthPx);
  return { ...scale, fromMs: Math.min(last, Math.max(0, scale.fromMs + byPx * scale.msPerPx)) };
}

/** Round moments to be written on the ruler, at least `gapPx` apart. */
export function moments(scale: TimeScale, gapPx: number): readonly number[] {
  const steps = [10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 30_000, 60_000, 300_000, 600_000, 1_800_000];
  const step = steps.find((one) => one / scale.msPerPx >= gapPx) ?? 3_600_000;
  const first = Math.ceil(scale.fromMs / step) * step;
  const count = Math.max(0, Math.floor((endOf(scale) - first) / step) + 1);
  return Array.from({ length: count }, (_, at) => first + at * step);
}

/** A moment as it stands on the ruler. */
export function momentText(ms: number): string {
  const s = ms / 1000;
  if (s < 60) return Number.isInteger(s) ? `${s} s` : `${s.toFixed(s * 10 === Math.round(s * 10) ? 1 : 2)} s`;
  const rest = s % 60;
  const text = Number.isInteger(rest) ? String(rest).padStart(2, "0") : rest.toFixed(1).padStart(4, "0");
  return `${Math.floor(s / 60)}:${text}`;
}

/** The names of the lanes stand left of the time, in px. */
export const gutterPx = 104;
