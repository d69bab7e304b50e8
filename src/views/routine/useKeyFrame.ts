import type { Routine } from "@core/project";
import { alsoChosen, type ChosenKey, keysWithin } from "@core/routine";
import { scoreView } from "@stores/scoreView";
import { useState } from "react";
import { useDrag } from "../parts/useDrag";
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
  const drag = useDrag<readonly ChosenKey[]>({
    begin(event) {
      const rect = event.currentTarget.getBoundingClientRect();
      if (event.clientX < rect.left + gutterPx) return null;
      return event.shiftKey || event.ctrlKey || event.metaKey ? scoreView.getState().keys : [];
    },
    move(before, event, way) {
      const start = { x: event.clientX - way.x, y: event.clientY - way.y };
      const lanes = event.currentTarget;
      const rect = lanes.getBoundingClientRect();
      const left = Math.max(Math.min(start.x, event.clientX), rect.left + gutterPx);
      const top = Math.min(start.y, event.clientY);
      const right = Math.max(start.x, event.clientX);
      const bottom = Math.max(start.y, event.clientY);
      const msOf = (x: number) => msAt(scale, x - rect.left - gutterPx);
      const found = keysWithin(routine.lanes, lanesBetween(lanes, top, bottom), msOf(left), msOf(right));
      scoreView.setState({ keys: alsoChosen(before, found), stepIds: [], clipIds: [] });
      setFrame({
        left: left - rect.left,
        top: top - rect.top + lanes.scrollTop,
        width: right - left,
        height: bottom - top,
      });
    },
    end(before, _event, _way, hasMoved) {
      setFrame(null);
      if (!hasMoved) scoreView.setState({ keys: before });
    },
    cancel: () => setFrame(null),
    leastPx,
  });
  return { frame, drag };
}

function lanesBetween(lanes: HTMLElement, top: number, bottom: number): ReadonlySet<string> {
  const crossed = new Set<string>();
  for (const row of lanes.querySelectorAll<HTMLElement>("[data-lane]")) {
    const rect = row.getBoundingClientRect();
    if (rect.bottom > top && rect.top < bottom && row.dataset.lane) crossed.add(row.dataset.lane);
  }
  return crossed;
}
