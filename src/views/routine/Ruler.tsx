import type { Finding } from "@core/feasible";
import type { Score } from "@core/routine";
import { flagOf } from "@core/steps";
import { gridMs, scoreView, useScoreView } from "@stores/scoreView";
import type { PointerEvent } from "react";
import { useDrag } from "../parts/useDrag";
import { endOf, gutterPx, moments, momentText, type TimeScale, xOf } from "./timeScale";

/** The words at a mark need so much room. */
const wordsPx = 40;

interface RulerProps {
  readonly score: Score;
  readonly scale: TimeScale;
  readonly findings: readonly Finding[];
  readonly onScrub: (event: PointerEvent<HTMLElement>) => void;
}

/** The time itself, with the marks of labels and waits, and where something is wrong. Dragged, it shows that moment. */
export function Ruler({ score, scale, findings, onScrub }: RulerProps) {
  const cursorMs = useScoreView((view) => view.cursorMs);
  const drag = useDrag({
    begin(event) {
      onScrub(event);
      return true;
    },
    move: (_, event) => onScrub(event),
  });
  const go = (ms: number) => scoreView.setState({ cursorMs: Math.max(0, Math.min(score.lengthMs, ms)) });
  const flags = score.spans.flatMap(({ step, fromMs }) => {
    const words = fromMs >= scale.fromMs && fromMs <= endOf(scale) ? flagOf(step) : null;
    return words === null ? [] : [{ step, fromMs, words }];
  });
  return (
    <div className="flex h-9 shrink-0 border-b border-base-300">
      <div className="shrink-0" style={{ width: gutterPx }} />
      <div
        className="relative grow cursor-col-resize touch-none overflow-hidden select-none"
        role="slider"
        tabIndex={0}
        aria-label="Moment of the routine"
        aria-valuemin={0}
        aria-valuemax={score.lengthMs}
        aria-valuenow={Math.round(cursorMs)}
        aria-valuetext={momentText(cursorMs)}
        {...drag}
        onKeyDown={(event) => {
          const grid = gridMs(scale.msPerPx) * (event.shiftKey ? 10 : 1);
          if (event.key === "ArrowRight") go(cursorMs + grid);
          else if (event.key === "ArrowLeft") go(cursorMs - grid);
          else if (event.key === "Home") go(0);
          else if (event.key === "End") go(score.lengthMs);
          else return;
          event.preventDefault();
        }}
      >
        {moments(scale, 62).map((ms) => {
          const px = xOf(scale, ms);
          // At the right edge it stands before its mark: behind it there is no room.
          const isLast = px > scale.widthPx - wordsPx;
          return (
            <span
              key={ms}
              className={`number absolute top-0 border-base-content/40 text-[0.68rem] leading-3 whitespace-nowrap ${isLast ? "border-r pr-1" : "border-l pl-1"}`}
              style={isLast ? { right: scale.widthPx - px } : { left: px }}
            >
              {momentText(ms)}
            </span>
          );
        })}
        {flags.map(({ step, fromMs, words }) => (
          <span
            key={step.id}
            className={`absolute top-3.5 border-l-2 pl-1 text-[0.68rem] leading-3 font-semibold whitespace-nowrap ${step.kind === "wait" ? "border-secondary text-secondary" : "border-base-content"}`}
            style={{ left: xOf(scale, fromMs) }}
          >
            {words}
          </span>
        ))}
        {findings
          .filter((one) => one.toMs >= scale.fromMs && one.fromMs <= endOf(scale))
          .slice(0, 300)
          .map((finding) => (
            <span
              key={`${finding.kind}${finding.jointId}${finding.fromMs}`}
              title={finding.sentence}
              className="absolute bottom-0 h-2 min-w-1.5 bg-[repeating-linear-gradient(60deg,var(--color-error)_0_2px,transparent_2px_4px)]"
              style={{ left: xOf(scale, finding.fromMs), width: (finding.toMs - finding.fromMs) / scale.msPerPx }}
            />
          ))}
      </div>
    </div>
  );
}
