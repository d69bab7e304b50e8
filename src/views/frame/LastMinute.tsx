interface LastMinuteProps {
  /** Of each of the last sixty seconds, oldest first: frames that were taken, and frames that were lost. */
  readonly taken: readonly number[];
  readonly missing: readonly number[];
}

/** The last minute of a link: a stroke for each second, as high as frames were taken in it; what was lost stands on top. */
export function LastMinute({ taken, missing }: LastMinuteProps) {
  // The second that runs is not over yet.
  const most = Math.max(10, ...taken.slice(0, -1).map((count, at) => count + (missing[at] ?? 0)));
  const stroke = (at: number, from: number, to: number) =>
    `M${at * 4 + 5.3} ${29 - (28 * from) / most}V${29 - (28 * to) / most}`;
  const whole = taken.slice(0, -1);
  const lostOn = whole.flatMap((count, at) => (missing[at] ? [stroke(at, count, count + missing[at])] : []));
  return (
    <svg viewBox="0 0 240 30" className="mt-1 h-8 w-full" preserveAspectRatio="none" role="img">
      <title>Frames taken in each of the last sixty seconds, {most} at most</title>
      <path d="M0 29.5H240" className="stroke-base-content/40" strokeWidth={0.6} />
      <path
        d={whole.map((count, at) => (count ? stroke(at, 0, count) : "")).join("")}
        className="stroke-primary"
        strokeWidth={2.6}
      />
      <path d={lostOn.join("")} className="stroke-error" strokeWidth={2.6} />
    </svg>
  );
}
