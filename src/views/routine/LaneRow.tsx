import type { Finding } from "@core/feasible";
import { type Joint, type Key, type Routine, setKeys } from "@core/project";
import type { Track } from "@core/routine";
import { edit } from "@stores/document";
import { scoreView, snapped, useScoreView } from "@stores/scoreView";
import { select } from "@stores/selection";
import { type KeyboardEvent, memo, useMemo, useRef } from "react";
import { formatIn } from "../parts/format";
import { asGiven, curvePath, type LaneBox, yOf } from "./curves";
import { laneKey, useKeyDrag } from "./laneKeys";
import { endOf, gutterPx, momentText, msAt, type TimeScale, xOf } from "./timeScale";
import { useIsNear } from "./useIsNear";

interface LaneRowProps {
  readonly routine: Routine;
  readonly joint: Joint;
  readonly track: Track;
  readonly start: number;
  readonly scale: TimeScale;
  readonly ghost: Float32Array | null;
  readonly ghostStepMs: number;
  readonly findings: readonly Finding[];
}

const heightPx = 50;
const noKeys: readonly Key[] = [];
/** More pins than this in view are not drawn one by one. */
const mostPins = 400;

/** One joint over time: what it is asked, what its servo will do, where it cannot, and the keys of its lane to be moved. */
export const LaneRow = memo(function LaneRow(props: LaneRowProps) {
  const { routine, joint, track, start, scale, ghost, ghostStepMs, findings } = props;
  const lane = routine.lanes.find((one) => one.jointId === joint.id);
  const keys = lane?.keys ?? noKeys;
  const chosen = useScoreView((view) => view.keys);
  const box: LaneBox = useMemo(() => laneBox(joint), [joint]);
  const row = useRef<HTMLDivElement>(null);
  const isNear = useIsNear(row);
  const asked = useMemo(
    () => (isNear ? curvePath((ms) => track.valueAt(ms, start), scale, box) : ""),
    [isNear, track, start, scale, box],
  );
  const seen = useMemo(
    () => (isNear && ghost ? curvePath((ms) => ghost[Math.round(ms / ghostStepMs)] ?? Number.NaN, scale, box) : ""),
    [isNear, ghost, ghostStepMs, scale, box],
  );
  const own = useMemo(() => findings.filter((finding) => finding.jointId === joint.id), [findings, joint.id]);
  const marks = own.filter((one) => one.toMs >= scale.fromMs && one.fromMs <= endOf(scale)).slice(0, mostPins);
  const pins = keys.filter((key) => key.atMs >= scale.fromMs && key.atMs <= endOf(scale));
  const chosenMs = useMemo(
    () => new Set(chosen.filter((one) => one.jointId === joint.id).map((one) => one.atMs)),
    [chosen, joint.id],
  );
  const isChosen = (key: Key) => chosenMs.has(key.atMs);
  const last = chosen.findLast((one) => one.jointId === joint.id);
  const drag = useKeyDrag(routine, joint, scale, box);
  const unit = joint.axis.kind === "angle" ? "°" : "spin";
  const addAt = (ms: number, target: number) => {
    const atMs = Math.round(ms);
    if (
      edit(
        setKeys(routine.id, joint.id, [...keys, { atMs, target: asGiven(target, joint), shape: "smooth" }], "Add key"),
      )
    )
      scoreView.setState({ keys: [{ jointId: joint.id, atMs }], stepIds: [], clipIds: [] });
  };
  const onKeyDown = (event: KeyboardEvent) =>
    laneKey(event, routine, joint, keys, last ?? null, () => {
      const { cursorMs } = scoreView.getState();
      addAt(cursorMs, track.valueAt(cursorMs, start));
    });
  const lastKey = keys.find((key) => key.atMs === last?.atMs);
  return (
    <div ref={row} className="flex border-b border-base-300" data-lane={joint.id}>
      <button
        type="button"
        className="caption shrink-0 cursor-pointer self-center truncate pl-2 text-left hover:underline"
        style={{ width: gutterPx }}
        onClick={() => select(joint.id)}
        title={`${joint.label}: show it on the dial`}
      >
        {own.length > 0 && <span className="text-error">▲ </span>}
        {joint.label}
      </button>
      <div
        className="touch-none"
        role="slider"
        tabIndex={0}
        aria-label={`Lane of ${joint.label}`}
        aria-valuemin={box.low}
        aria-valuemax={box.high}
        aria-valuenow={lastKey?.target ?? 0}
        aria-valuetext={
          lastKey
            ? `key ${keys.indexOf(lastKey) + 1} of ${keys.length}, at ${momentText(lastKey.atMs)}, ${formatIn(lastKey.target, unit)}`
            : `${keys.length} keys. Enter adds one at the cursor.`
        }
        onKeyDown={onKeyDown}
        onDoubleClick={(event) => {
          const rect = event.currentTarget.getBoundingClientRect();
          const ms = snapped(msAt(scale, event.clientX - rect.left), scale.msPerPx, event.altKey);
          addAt(ms, track.valueAt(ms, start));
        }}
        {...drag}
      >
        <svg width={scale.widthPx} height={heightPx} className="block" aria-hidden="true">
          {[box.travelLow, box.travelHigh].map((target) => (
            <line
              key={target}
              x2={scale.widthPx}
              y1={yOf(box, target)}
              y2={yOf(box, target)}
              className="stroke-base-content/35"
              strokeDasharray="6 4"
            />
          ))}
          {marks.map((finding) => (
            <rect
              key={`${finding.kind}${finding.fromMs}`}
              x={xOf(scale, finding.fromMs)}
              width={Math.max(3, (finding.toMs - finding.fromMs) / scale.msPerPx)}
              height={heightPx}
              className="fill-error/20 stroke-error/60"
              strokeWidth={0.7}
            >
              <title>{finding.sentence}</title>
            </rect>
          ))}
          <path d={seen} className="fill-none stroke-base-content/70" strokeWidth={1.2} strokeDasharray="2 3" />
          <path d={asked} className="fill-none stroke-primary" strokeWidth={1.8} />
          {pins.length <= mostPins &&
            pins.map((key) => (
              <g
                key={key.atMs}
                transform={`translate(${xOf(scale, key.atMs).toFixed(1)} ${yOf(box, lane?.mode === "add" ? box.middle + key.target : key.target).toFixed(1)})`}
                className="cursor-move"
                data-key={key.atMs}
              >
                <circle r={8} fill="transparent" />
                <path
                  d="M0 -7V7M-4 -7H4"
                  className={isChosen(key) ? "stroke-secondary" : "stroke-base-content"}
                  strokeWidth={isChosen(key) ? 2.6 : 1.4}
                />
                <circle
                  r={3.4}
                  className={isChosen(key) ? "fill-secondary stroke-secondary" : "fill-base-100 stroke-base-content"}
                  strokeWidth={1.4}
                />
              </g>
            ))}
          {pins.length > mostPins && (
            <text x={8} y={heightPx - 6} className="fill-base-content text-[11px]">
              {pins.length} keys: zoom in to see them
            </text>
          )}
        </svg>
      </div>
    </div>
  );
});

function laneBox({ axis }: Joint): LaneBox {
  const [low, high] = axis.kind === "angle" ? [axis.travel.low, axis.travel.high] : [-axis.limit, axis.limit];
  const room = (high - low) * 0.14;
  return { heightPx, low: low - room, high: high + room, travelLow: low, travelHigh: high, middle: (low + high) / 2 };
}
