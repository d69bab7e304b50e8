import type { Routine } from "@core/project";
import { alsoChosen, type ChosenKey, keysWithin } from "@core/routine";
import { scoreView } from "@stores/scoreView";
import { type PointerEvent, useRef, useState } from "react";
import { msAt, type TimeScale } from "./timeScale";

/** A frame that is being drawn over the lanes, in px of them. */
export interface KeyFrame {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** A press that goes no further than this is a click. */
const leastPx = 4;

/**
 * Keys are chosen by a frame drawn over the lanes: all those between its sides, of each lane that it crosses. With Shift or
 * Ctrl they come to those already chosen. A click beside all keys lets go of them.
 */
export function useKeyFrame(routine: Routine, scale: TimeScale, gutterPx: number) {
  const [frame, setFrame] = useState<KeyFrame | null>(null);
  const held = useRef<{ x: number; y: number; before: readonly ChosenKey[]; isDrawn: boolean } | null>(null);
  return {
    frame,
    onPointerDown(event: PointerEvent<HTMLElement>) {
      const rect = event.currentTarget.getBoundingClientRect();
      if (event.button !== 0 || event.clientX < rect.left + gutterPx) return;
      const isMore = event.shiftKey || event.ctrlKey || event.metaKey;
      const before = isMore ? scoreView.getState().keys : [];
      held.current = { x: event.clientX, y: event.clientY, before, isDrawn: false };
    },
    onPointerMove(event: PointerEvent<HTMLElement>) {
      const start = held.current;
      if (!start) return;
      if (!start.isDrawn) {
        if (Math.hypot(event.clientX - start.x, event.clientY - start.y) < leastPx) return;
        start.isDrawn = true;
        event.currentTarget.setPointerCapture(event.pointerId);
      }
      const lanes = event.currentTarget;
      const rect = lanes.getBoundingClientRect();
      const left = Math.max(Math.min(start.x, event.clientX), rect.left + gutterPx);
      const top = Math.min(start.y, event.clientY);
      const right = Math.max(start.x, event.clientX);
      const bottom = Math.max(start.y, event.clientY);
      const msOf = (x: number) => msAt(scale, x - rect.left - gutterPx);
      const found = keysWithin(routine.lanes, lanesBetween(lanes, top, bottom), msOf(left), msOf(right));
      scoreView.setState({ keys: alsoChosen(start.before, found), stepIds: [], clipIds: [] });
      setFrame({
        left: left - rect.left,
        top: top - rect.top + lanes.scrollTop,
        width: right - left,
        height: bottom - top,
      });
    },
    onPointerUp() {
      const start = held.current;
      held.current = null;
      setFrame(null);
      if (start && !start.isDrawn) scoreView.setState({ keys: start.before });
    },
    onPointerCancel() {
      held.current = null;
      setFrame(null);
    },
  };
}

function lanesBetween(lanes: HTMLElement, top: number, bottom: number): ReadonlySet<string> {
  const crossed = new Set<string>();
  for (const row of lanes.querySelectorAll<HTMLElement>("[data-lane]")) {
    const rect = row.getBoundingClientRect();
    if (rect.bottom > top && rect.top < bottom && row.dataset.lane) crossed.add(row.dataset.lane);
  }
  return crossed;
}
