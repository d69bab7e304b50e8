import type { SupplyCurrent } from "@core/feasible";
import { useMemo } from "react";
import { curvePath, type LaneBox, yOf } from "./curves";
import { gutterPx, type TimeScale } from "./timeScale";

interface CurrentStripProps {
  readonly current: SupplyCurrent;
  readonly scale: TimeScale;
}

/** What a supply has to give over time, under its limit or above it. */
export function CurrentStrip({ current, scale }: CurrentStripProps) {
  const { supply, totalMa, stepMs, highestMa } = current;
  const box: LaneBox = useMemo(() => {
    const high = Math.max(supply.limitMa, highestMa) * 1.1;
    return { heightPx: 34, low: 0, high, travelLow: 0, travelHigh: supply.limitMa, middle: 0 };
  }, [supply, highestMa]);
  const path = useMemo(
    () => curvePath((ms) => mostNear(totalMa, ms / stepMs, scale.msPerPx / stepMs), scale, box),
    [totalMa, stepMs, scale, box],
  );
  const isOver = highestMa > supply.limitMa;
  return (
    <div className="flex shrink-0 border-t border-base-300" data-supply={supply.id}>
      <div className="shrink-0 self-center pl-2 leading-tight" style={{ width: gutterPx }}>
        <div className="caption truncate" title={supply.label}>
          {supply.label}
        </div>
        <div className={`number text-xs ${isOver ? "font-bold text-error" : ""}`}>
          {(highestMa / 1000).toFixed(1)} of {(supply.limitMa / 1000).toFixed(1)} A
        </div>
      </div>
      <svg width={scale.widthPx} height={box.heightPx} className="block" aria-hidden="true">
        <line
          x2={scale.widthPx}
          y1={yOf(box, supply.limitMa)}
          y2={yOf(box, supply.limitMa)}
          className="stroke-error"
          strokeDasharray="6 4"
        />
        <path d={path} className="fill-none stroke-base-content" strokeWidth={1.3} />
      </svg>
    </div>
  );
}

/** The highest of the samples that fall on one place of the screen: a short start must not slip through. */
function mostNear(samples: Float32Array, place: number, width: number): number {
  const from = Math.floor(place);
  const to = Math.min(samples.length - 1, Math.max(from, Math.floor(place + 2 * width)));
  if (from >= samples.length) return Number.NaN;
  let most = 0;
  for (let at = from; at <= to; at += 1) most = Math.max(most, samples[at] as number);
  return most;
}
