import type { Finding } from "@core/feasible";
import { allOf, type Joint, type Key, type Lane, type Routine, setKeys } from "@core/project";
import {
  type ChosenKey,
  type CopiedKey,
  copiedKeys,
  isSameKey,
  keysWith,
  keysWithin,
  keysWithout,
  type ShiftedKeys,
  shiftedKeys,
  type Track,
} from "@core/routine";
import { edit, projectNow } from "@stores/document";
import { scoreView, snapped, useScoreView } from "@stores/scoreView";
import { select } from "@stores/selection";
import { type KeyboardEvent, memo, type PointerEvent, useMemo, useRef } from "react";
import { formatIn } from "../parts/format";
import { asGiven, curvePath, type LaneBox, targetAt, yOf } from "./curves";
import { endOf, gutterPx, momentText, msAt, type TimeScale, xOf } from "./timeScale";

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
  const asked = useMemo(() => curvePath((ms) => track.valueAt(ms, start), scale, box), [track, start, scale, box]);
  const seen = useMemo(
    () => (ghost ? curvePath((ms) => ghost[Math.round(ms / ghostStepMs)] ?? Number.NaN, scale, box) : ""),
    [ghost, ghostStepMs, scale, box],
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
  const svg = useRef<SVGSVGElement>(null);
  const drag = useKeyDrag(routine, scale, box);
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
    <div className="flex border-b border-base-300" data-lane={joint.id}>
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
        onPointerMove={drag.onMove}
        onPointerUp={drag.onEnd}
      >
        <svg ref={svg} width={scale.widthPx} height={heightPx} className="block" aria-hidden="true">
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
                onPointerDown={(event) => drag.onStart(event, { jointId: joint.id, atMs: key.atMs }, svg.current)}
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

/** Drags the chosen keys, in time and, those of the lane that is dragged, in angle. All that a drag does is one step to undo. */
function useKeyDrag(routine: Routine, scale: TimeScale, box: LaneBox) {
  const held = useRef<{
    readonly x: number;
    readonly y: number;
    readonly jointId: string;
    readonly from: readonly Lane[];
    readonly keys: readonly ChosenKey[];
  } | null>(null);
  return {
    onStart(event: PointerEvent, key: ChosenKey, svg: SVGSVGElement | null) {
      event.stopPropagation();
      svg?.setPointerCapture(event.pointerId);
      const { keys } = scoreView.getState();
      const isIn = keys.some((one) => isSameKey(one, key));
      const next = event.shiftKey || event.ctrlKey ? (isIn ? keys : [...keys, key]) : isIn ? keys : [key];
      scoreView.setState({ keys: next, stepIds: [], clipIds: [] });
      held.current = { x: event.clientX, y: event.clientY, jointId: key.jointId, from: routine.lanes, keys: next };
    },
    onMove(event: PointerEvent) {
      const start = held.current;
      if (!start || Math.hypot(event.clientX - start.x, event.clientY - start.y) < 3) return;
      const byMs =
        snapped(Math.abs(event.clientX - start.x) * scale.msPerPx, scale.msPerPx, event.altKey) *
        Math.sign(event.clientX - start.x);
      const byTarget = event.shiftKey ? 0 : targetAt(box, event.clientY) - targetAt(box, start.y);
      const shifted = shift(start.from, start.keys, byMs, (jointId) => (jointId === start.jointId ? byTarget : 0));
      applyShift(routine.id, shifted);
    },
    onEnd() {
      held.current = null;
    },
  };
}

function applyShift(routineId: string, { lanes, chosen }: ShiftedKeys): void {
  const edits = lanes.map(({ jointId, keys }) => setKeys(routineId, jointId, keys));
  const mergeKey = `drag:${routineId}:${lanes.map((lane) => lane.jointId).join()}`;
  if (edit(allOf("Move keys", edits, mergeKey))) scoreView.setState({ keys: chosen });
}

/** Keys on a lane: walk from key to key, move them, add, delete, copy and paste. */
function laneKey(
  event: KeyboardEvent,
  routine: Routine,
  joint: Joint,
  keys: readonly Key[],
  last: ChosenKey | null,
  addAtCursor: () => void,
): void {
  const { keys: chosen, copied, cursorMs } = scoreView.getState();
  const isCtrl = event.ctrlKey || event.metaKey;
  const across = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
  const up = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
  const at = keys.findIndex((key) => key.atMs === last?.atMs);
  const letter = event.key.toLowerCase();
  const choose = (key: Key | undefined) =>
    key &&
    scoreView.setState({
      keys: [...(event.shiftKey ? chosen : []), { jointId: joint.id, atMs: key.atMs }],
      stepIds: [],
      clipIds: [],
    });
  if (across !== 0 && isCtrl && chosen.length > 0)
    applyShift(
      routine.id,
      shift(routine.lanes, chosen, across * (event.shiftKey ? 100 : 10), () => 0),
    );
  else if (across !== 0)
    choose(keys[at < 0 ? (across > 0 ? 0 : keys.length - 1) : Math.max(0, Math.min(keys.length - 1, at + across))]);
  else if (up !== 0 && chosen.length > 0) {
    const one = joint.axis.kind === "angle" ? 1 : 0.01;
    const by = up * one * (event.shiftKey ? 5 : event.altKey ? 0.1 : 1);
    applyShift(
      routine.id,
      shift(routine.lanes, chosen, 0, () => by),
    );
  } else if (event.key === "Enter" || event.key === "Insert") addAtCursor();
  else if (event.key === "Delete" || event.key === "Backspace") removeKeys(routine, chosen);
  else if (isCtrl && letter === "a") {
    // Of this lane, or with Shift of all of them; within the part that is marked, if there is one.
    const ids = event.shiftKey ? routine.lanes.map((lane) => lane.jointId) : [joint.id];
    const { fromMs, toMs } = scoreView.getState().range ?? { fromMs: 0, toMs: Number.POSITIVE_INFINITY };
    scoreView.setState({ keys: keysWithin(routine.lanes, new Set(ids), fromMs, toMs), stepIds: [], clipIds: [] });
  } else if (isCtrl && (letter === "c" || letter === "x")) {
    scoreView.setState({
      copied: {
        kind: "keys",
        keys: copiedKeys(routine.lanes, chosen),
      },
    });
    if (letter === "x") removeKeys(routine, chosen);
  } else if (isCtrl && letter === "v" && copied?.kind === "keys") pasteKeys(routine, copied.keys, cursorMs);
  else return;
  event.preventDefault();
  event.stopPropagation();
}

function removeKeys(routine: Routine, chosen: readonly ChosenKey[]): void {
  const edits = keysWithout(routine.lanes, chosen).map(({ jointId, keys }) =>
    setKeys(routine.id, jointId, keys, "Remove keys"),
  );
  if (edits.length > 0 && edit(allOf("Remove keys", edits))) scoreView.setState({ keys: [] });
}

/** Keys that were copied, the first of them at the cursor. */
function pasteKeys(routine: Routine, copied: readonly CopiedKey[], atMs: number): void {
  const { lanes, chosen } = keysWith(routine.lanes, copied, atMs);
  const edits = lanes.map(({ jointId, keys }) => setKeys(routine.id, jointId, keys, "Paste keys"));
  if (edit(allOf("Paste keys", edits))) scoreView.setState({ keys: chosen });
}

/** Chosen keys moved by a time and a difference of target, each kept as a person would give it. */
function shift(
  lanes: readonly Lane[],
  chosen: readonly ChosenKey[],
  byMs: number,
  byTarget: (jointId: string) => number,
): ShiftedKeys {
  const { joints } = projectNow();
  return shiftedKeys(lanes, chosen, byMs, (jointId, target) => {
    const joint = joints.find((one) => one.id === jointId);
    return joint ? asGiven(target + byTarget(jointId), joint) : target;
  });
}
