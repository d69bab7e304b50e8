import { scoreView, useScoreView } from "@stores/scoreView";
import { useRef } from "react";
import { useDrag } from "../parts/useDrag";
import { moved, type TimeScale, wholeScale, zoomed } from "./timeScale";

interface ScoreToolsProps {
  readonly scale: TimeScale;
  readonly lengthMs: number;
}

/** What is in view of the whole, to be dragged; zoom, snapping, and the part that is played over and over. */
export function ScoreTools({ scale, lengthMs }: ScoreToolsProps) {
  const isSnapping = useScoreView((view) => view.isSnapping);
  const range = useScoreView((view) => view.range);
  const cursorMs = useScoreView((view) => view.cursorMs);
  const bar = useRef<HTMLDivElement>(null);
  const whole = wholeScale(lengthMs, scale.widthPx);
  const share = scale.msPerPx / whole.msPerPx;
  const from = scale.fromMs / (whole.msPerPx * scale.widthPx);
  const show = ({ fromMs, msPerPx }: TimeScale) => scoreView.setState({ window: { fromMs, msPerPx } });
  const zoom = (factor: number) => show(zoomed(scale, factor, (cursorMs - scale.fromMs) / scale.msPerPx, lengthMs));
  const drag = useDrag({
    begin: () => scale,
    move(held, _, way) {
      const width = bar.current?.getBoundingClientRect().width ?? 1;
      show(moved(held, (way.x / width) * ((whole.msPerPx * held.widthPx) / held.msPerPx), lengthMs));
    },
  });
  return (
    <div className="mb-1 flex items-center gap-1.5">
      <div
        ref={bar}
        className="relative h-3 grow touch-none rounded-sm border border-base-300 bg-base-200"
        role="scrollbar"
        tabIndex={0}
        aria-label="What of the time is in view"
        aria-controls="score"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round((from / Math.max(1e-9, 1 - share)) * 100) || 0}
        {...drag}
        onKeyDown={(event) => {
          const way = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
          if (way !== 0) show(moved(scale, way * 60, lengthMs));
          else if (event.key === "+") zoom(1.5);
          else if (event.key === "-") zoom(1 / 1.5);
          else return;
          event.preventDefault();
        }}
      >
        <div
          className="absolute inset-y-0 rounded-sm bg-primary/50"
          style={{ left: `${from * 100}%`, width: `${Math.max(1, share * 100)}%` }}
        />
      </div>
      <button type="button" className="btn btn-xs btn-ghost" aria-label="Zoom out" onClick={() => zoom(1 / 1.6)}>
        −
      </button>
      <button type="button" className="btn btn-xs btn-ghost" aria-label="Zoom in" onClick={() => zoom(1.6)}>
        +
      </button>
      <button type="button" className="btn btn-xs btn-ghost" onClick={() => scoreView.setState({ window: null })}>
        All
      </button>
      <label className="caption flex cursor-pointer items-center gap-1" title="Hold Alt to leave the grid once">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={isSnapping}
          onChange={() => scoreView.setState({ isSnapping: !isSnapping })}
        />
        grid
      </label>
      {range ? (
        <button type="button" className="btn btn-xs btn-outline" onClick={() => scoreView.setState({ range: null })}>
          Play all of it
        </button>
      ) : (
        <span className="caption" title="Drag along the ruler with Shift held: that part is played over and over">
          Shift-drag: a part
        </span>
      )}
    </div>
  );
}
