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
} from "@core/routine";
import { edit, projectNow } from "@stores/document";
import { scoreView, snapped } from "@stores/scoreView";
import type { KeyboardEvent } from "react";
import { useDrag } from "../parts/useDrag";
import { asGiven, type LaneBox, targetAt } from "./curves";
import type { TimeScale } from "./timeScale";

/** Drags the chosen keys of a lane, in time and, those of the lane that is dragged, in angle. All that a drag does is one step to undo. */
export function useKeyDrag(routine: Routine, joint: Joint, scale: TimeScale, box: LaneBox) {
  return useDrag<{ readonly from: readonly Lane[]; readonly keys: readonly ChosenKey[] }, HTMLDivElement>({
    begin({ target, shiftKey, ctrlKey }) {
      const pin = target instanceof Element ? target.closest<SVGElement>("[data-key]") : null;
      if (!pin) return null;
      const key = { jointId: joint.id, atMs: Number(pin.dataset.key) };
      const { keys } = scoreView.getState();
      const isIn = keys.some((one) => isSameKey(one, key));
      const next = shiftKey || ctrlKey ? (isIn ? keys : [...keys, key]) : isIn ? keys : [key];
      scoreView.setState({ keys: next, stepIds: [], clipIds: [] });
      return { from: routine.lanes, keys: next };
    },
    move({ from, keys }, event, way) {
      const byMs = snapped(Math.abs(way.x) * scale.msPerPx, scale.msPerPx, event.altKey) * Math.sign(way.x);
      const byTarget = event.shiftKey ? 0 : targetAt(box, event.clientY) - targetAt(box, event.clientY - way.y);
      applyShift(
        routine.id,
        shift(from, keys, byMs, (jointId) => (jointId === joint.id ? byTarget : 0)),
      );
    },
    cancel: ({ from, keys }) =>
      applyShift(
        routine.id,
        shift(from, keys, 0, () => 0),
      ),
    leastPx: 3,
  });
}

function applyShift(routineId: string, { lanes, chosen }: ShiftedKeys): void {
  const edits = lanes.map(({ jointId, keys }) => setKeys(routineId, jointId, keys));
  const mergeKey = `drag:${routineId}:${lanes.map((lane) => lane.jointId).join()}`;
  if (edit(allOf("Move keys", edits, mergeKey))) scoreView.setState({ keys: chosen });
}

/** Keys on a lane: walk from key to key, move them, add, delete, copy and paste. */
export function laneKey(
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
