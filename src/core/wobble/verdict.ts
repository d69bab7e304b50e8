import type { WobbleRun } from "./simulate";

/** What a wobble run means, as plain numbers that cross from a worker to a view. */
export interface WobbleReport {
  readonly frames: number;
  readonly lostFrames: number;
  readonly meanPeriodUs: number;
  readonly longestPeriodUs: number;
  readonly askedUs: number;
  readonly medianUs: number;
  readonly p95Us: number;
  readonly p999Us: number;
  readonly worstUs: number;
  /** Frames whose pulse is further from the median than the deadband, as a share. */
  readonly twitchShare: number;
  readonly histogram: readonly { readonly fromUs: number; readonly count: number }[];
}

const columns = 60;

/** Sums a run up against a servo's deadband, in µs. */
export function reportOf(run: WobbleRun, deadbandUs: number): WobbleReport {
  const { pulses } = run;
  const p999Us = pulses.quantileUs(0.999);
  return {
    frames: run.frames,
    lostFrames: run.lostFrames,
    meanPeriodUs: run.meanPeriodUs,
    longestPeriodUs: run.longestPeriodUs,
    askedUs: pulses.askedUs,
    medianUs: pulses.quantileUs(0.5),
    p95Us: pulses.quantileUs(0.95),
    p999Us,
    worstUs: pulses.worstUs,
    twitchShare: pulses.shareBeyond(deadbandUs),
    histogram: pulses.histogram(columns, Math.max(p999Us + (p999Us - pulses.askedUs) * 0.1, pulses.askedUs + 6)),
  };
}

/** The report in a sentence: whether this servo will stand still, and what would help where it will not. */
export function verdictOf(report: WobbleReport, deadbandUs: number, usPerDeg: number): string {
  const framesPerS = 1e6 / report.meanPeriodUs;
  const twitchesPerS = report.twitchShare * framesPerS;
  const offsetUs = report.medianUs - report.askedUs;
  const offset =
    offsetUs > deadbandUs
      ? ` Every pulse is about ${offsetUs.toFixed(0)} µs (${(offsetUs / Math.abs(usPerDeg)).toFixed(1)}°) too long; calibrate with this program running, or subtract it.`
      : "";
  if (twitchesPerS < 1 / 60)
    return `It stands still: less than one pulse a minute leaves the deadband of ${deadbandUs} µs.${offset}`;
  const rate =
    twitchesPerS >= 1
      ? `${twitchesPerS.toFixed(1)} times a second`
      : `${(twitchesPerS * 60).toFixed(0)} times a minute`;
  const wanderDeg = (report.p999Us - report.medianUs) / Math.abs(usPerDeg);
  const mend =
    twitchesPerS >= 1
      ? "Use a timer or a pulse chip, or pin the program to a core of its own."
      : "For a display it may do; for an arm use a timer or a pulse chip.";
  return `It twitches about ${rate}: pulses leave the deadband of ${deadbandUs} µs, and one in a thousand is ${wanderDeg.toFixed(1)}° off or more. ${mend}${offset}`;
}
