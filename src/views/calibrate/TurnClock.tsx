import type { CountedSpeed } from "@core/calibrate";
import type { Result } from "@core/result";
import { useEffect, useRef } from "react";
import { Fact } from "../parts/Fact";
import { formatNumber } from "../parts/format";

interface TurnClockProps {
  readonly tapsMs: readonly number[];
  readonly counted: Result<CountedSpeed>;
}

/** The clock that the first tap starts, and the speed so far with how far it may be off. */
export function TurnClock({ tapsMs, counted }: TurnClockProps) {
  const clock = useRef<HTMLSpanElement>(null);
  const fromMs = tapsMs[0];
  useEffect(() => {
    if (fromMs === undefined) return;
    const tick = setInterval(() => {
      if (clock.current) clock.current.textContent = `${((performance.now() - fromMs) / 1000).toFixed(1)} s`;
    }, 100);
    return () => clearInterval(tick);
  }, [fromMs]);
  return (
    <div className="flex items-end justify-between">
      <span ref={clock} className="number text-3xl">
        0.0 s
      </span>
      <dl className="flex gap-5">
        <Fact
          name="speed"
          value={
            counted.ok
              ? `${formatNumber(counted.value.degPerS, 1)} ± ${formatNumber(counted.value.errorDegPerS, 1)} °/s`
              : "—"
          }
        />
      </dl>
    </div>
  );
}
