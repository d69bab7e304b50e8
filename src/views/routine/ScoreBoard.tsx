import type { Finding } from "@core/feasible";
import type { Routine } from "@core/project";
import { phase, type Score } from "@core/routine";
import { useProject } from "@stores/document";
import { useExamination } from "@stores/examination";
import { showGhost } from "@stores/ghost";
import { command, liveHead, onLive } from "@stores/live";
import { scoreView, snapped, useScoreView } from "@stores/scoreView";
import { type PointerEvent, type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { ClipRow } from "./ClipRow";
import { CurrentStrip } from "./CurrentStrip";
import { LaneRow } from "./LaneRow";
import { Ruler } from "./Ruler";
import { ScoreTools } from "./ScoreTools";
import { StepRibbon } from "./StepRibbon";
import { gutterPx, moved, msAt, type TimeScale, wholeScale, xOf, zoomed } from "./timeScale";
import { useKeyFrame } from "./useKeyFrame";
import { targetsAt, usePhase } from "./useScore";

interface ScoreBoardProps {
  readonly routine: Routine;
  readonly score: Score;
}

const noFindings: readonly Finding[] = [];

/**
 * A routine over time: its steps as a ribbon, takes as slips of paper, and under them a lane for each joint with what is asked, what the
 * servos will do, and where they cannot. All of it shares one scale of time.
 */
export function ScoreBoard({ routine, score }: ScoreBoardProps) {
  const board = useRef<HTMLDivElement>(null);
  const joints = useProject((project) => project.joints);
  const { examination } = useExamination(routine.id);
  const window_ = useScoreView((view) => view.window);
  const widthPx = useWidth(board) - gutterPx;
  const at = usePhase(routine);
  const lengthMs = score.lengthMs;
  const scale: TimeScale = useMemo(
    () => (window_ && widthPx > 0 ? moved({ ...window_, widthPx }, 0, lengthMs) : wholeScale(lengthMs, widthPx)),
    [window_, widthPx, lengthMs],
  );
  const scaleNow = useRef(scale);
  scaleNow.current = scale;
  useZoomWheel(board, scaleNow, lengthMs);
  useCursorGhost(score, at === phase.idle);

  const scrub = useCallback(
    (event: PointerEvent<HTMLElement>) => {
      const px = event.clientX - (board.current?.getBoundingClientRect().left ?? 0) - gutterPx;
      const ms = Math.min(snapped(msAt(scaleNow.current, px), scaleNow.current.msPerPx, event.altKey), lengthMs);
      if (event.shiftKey && event.type === "pointermove") {
        const fromMs = scoreView.getState().cursorMs;
        if (ms > fromMs) scoreView.setState({ range: { fromMs, toMs: ms } });
        return;
      }
      scoreView.setState({ cursorMs: ms });
      if (liveHead("routineIndex") >= 0) command({ kind: "seek", atMs: ms });
    },
    [lengthMs],
  );
  const findings = examination?.findings ?? noFindings;
  return (
    <div className="flex min-h-0 grow flex-col">
      <ScoreTools scale={scale} lengthMs={lengthMs} />
      <div ref={board} className="relative flex min-h-0 grow flex-col rounded-box border border-base-300 bg-base-100">
        {widthPx > 0 && (
          <>
            <Ruler score={score} scale={scale} findings={findings} onScrub={scrub} />
            <StepRibbon routine={routine} score={score} scale={scale} findings={findings} />
            {routine.clips.length > 0 && <ClipRow routine={routine} scale={scale} />}
            <Lanes routine={routine} scale={scale}>
              {score.tracks.map((track, place) => {
                const joint = joints[track.joint];
                return (
                  joint && (
                    <LaneRow
                      key={joint.id}
                      routine={routine}
                      joint={joint}
                      track={track}
                      start={score.starts[place] as number}
                      scale={scale}
                      ghost={examination?.ghosts[joint.id] ?? null}
                      ghostStepMs={examination?.stepMs ?? 20}
                      findings={findings}
                    />
                  )
                );
              })}
              {score.tracks.length === 0 && (
                <p className="caption p-6 text-center">
                  Add a move, place a take, or record one: each joint that it moves gets a lane here.
                </p>
              )}
            </Lanes>
            {examination?.currents.map((current) => (
              <CurrentStrip key={current.supply.id} current={current} scale={scale} />
            ))}
            <Cursor scale={scale} isPlaying={at !== phase.idle} />
          </>
        )}
      </div>
    </div>
  );
}

/** The lanes under each other; over them the frame that somebody draws to choose keys. */
function Lanes({ routine, scale, children }: { routine: Routine; scale: TimeScale; children: ReactNode }) {
  const { frame, drag } = useKeyFrame(routine, scale, gutterPx);
  return (
    <div className="relative min-h-0 grow overflow-y-auto shows-more overflow-x-hidden" {...drag}>
      {children}
      {frame && (
        <div
          aria-hidden="true"
          className="pointer-events-none absolute border border-dashed border-secondary bg-secondary/10"
          style={frame}
        />
      )}
    </div>
  );
}

/** The line at the moment that plays, or that is looked at. It is moved without a render while it plays. */
function Cursor({ scale, isPlaying }: { readonly scale: TimeScale; readonly isPlaying: boolean }) {
  const line = useRef<HTMLDivElement>(null);
  const cursorMs = useScoreView((view) => view.cursorMs);
  const range = useScoreView((view) => view.range);
  useEffect(() => {
    const show = () => {
      if (!line.current) return;
      const x = xOf(scale, isPlaying ? liveHead("scoreMs") : cursorMs);
      line.current.style.transform = `translateX(${x.toFixed(1)}px)`;
      line.current.style.visibility = x >= -1 && x <= scale.widthPx ? "visible" : "hidden";
    };
    show();
    return isPlaying ? onLive(show) : undefined;
  }, [scale, isPlaying, cursorMs]);
  return (
    <div
      className="pointer-events-none absolute inset-y-0 overflow-hidden"
      style={{ left: gutterPx, width: scale.widthPx }}
      aria-hidden="true"
    >
      {range && (
        <div
          className="absolute inset-y-0 border-x-2 border-dotted border-secondary bg-secondary/10"
          style={{ left: xOf(scale, range.fromMs), width: (range.toMs - range.fromMs) / scale.msPerPx }}
        />
      )}
      <div
        ref={line}
        data-cursor
        className={`absolute inset-y-0 w-0 border-l-2 ${isPlaying ? "border-error will-change-transform" : "border-secondary border-dashed"}`}
      />
    </div>
  );
}

/** While nothing plays, the moment under the cursor stands on the dials and in the scene. */
function useCursorGhost(score: Score, isIdle: boolean): void {
  const cursorMs = useScoreView((view) => view.cursorMs);
  const joints = useProject((project) => project.joints);
  useEffect(() => {
    showGhost(isIdle && cursorMs > 0 ? targetsAt(score, (place) => joints[place]?.id ?? "", cursorMs) : null);
  }, [score, joints, cursorMs, isIdle]);
  useEffect(() => () => showGhost(null), []);
}

/** With Ctrl the wheel zooms about the pointer; sideways, or with Shift, it moves on. */
function useZoomWheel(
  board: React.RefObject<HTMLDivElement | null>,
  scale: React.RefObject<TimeScale>,
  lengthMs: number,
) {
  useEffect(() => {
    const element = board.current;
    const onWheel = (event: WheelEvent) => {
      const sideways = event.shiftKey ? event.deltaY : event.deltaX;
      if (!event.ctrlKey && !event.metaKey && Math.abs(sideways) < 1) return;
      event.preventDefault();
      const px = event.clientX - (element?.getBoundingClientRect().left ?? 0) - gutterPx;
      const { fromMs, msPerPx } =
        event.ctrlKey || event.metaKey
          ? zoomed(scale.current, Math.exp(-event.deltaY / 300), Math.max(0, px), lengthMs)
          : moved(scale.current, sideways, lengthMs);
      scoreView.setState({ window: { fromMs, msPerPx } });
    };
    element?.addEventListener("wheel", onWheel, { passive: false });
    return () => element?.removeEventListener("wheel", onWheel);
  }, [board, scale, lengthMs]);
}

function useWidth(element: React.RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry?.contentRect.width ?? 0)));
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [element]);
  return width;
}
