import { type KeyboardEvent, type MouseEvent, type PointerEvent, useMemo, useRef } from "react";
import { useDesk } from "./desk";

/** Where a thumb would be on a control: shares of what it moves. */
export interface Spot {
  readonly x: number | null;
  readonly y: number | null;
}

interface ThumbAsk {
  readonly controlId: string;
  /** It goes back to its middle when it is left. */
  readonly springs?: boolean;
  /** Where a finger is; `isFirst` where it was just put down. */
  readonly spotOf: (event: PointerEvent<HTMLElement>, isFirst: boolean) => Spot;
  /** Where a key would bring it; null for a key that says nothing. */
  readonly keySpot: (key: string, isCoarse: boolean) => Spot | null;
}

/**
 * One thumb on one control, by finger, pen, mouse or keys: handlers for its element. The finger that came first has it, wherever it goes on the screen, until it
 * is lifted or taken away by the system; others on the same control change nothing.
 */
export function useThumb(ask: ThumbAsk) {
  const { put, lift } = useDesk();
  const latest = useRef(ask);
  latest.current = ask;
  const pointer = useRef<number | null>(null);
  return useMemo(() => {
    const leave = (event: PointerEvent<HTMLElement>) => {
      if (pointer.current !== event.pointerId) return;
      pointer.current = null;
      lift(latest.current.controlId, latest.current.springs);
    };
    const at = (event: PointerEvent<HTMLElement>, isFirst: boolean) => {
      const { x, y } = latest.current.spotOf(event, isFirst);
      put(latest.current.controlId, x, y);
    };
    return {
      onPointerDown(event: PointerEvent<HTMLElement>) {
        if (pointer.current !== null || event.button !== 0) return;
        pointer.current = event.pointerId;
        event.currentTarget.setPointerCapture(event.pointerId);
        at(event, true);
      },
      onPointerMove(event: PointerEvent<HTMLElement>) {
        if (pointer.current === event.pointerId) at(event, false);
      },
      onPointerUp: leave,
      onPointerCancel: leave,
      onLostPointerCapture: leave,
      onKeyDown(event: KeyboardEvent<HTMLElement>) {
        const spot = latest.current.keySpot(event.key, event.shiftKey);
        if (!spot) return;
        event.preventDefault();
        if (!event.repeat || spot.x !== null) put(latest.current.controlId, spot.x, spot.y);
      },
      onKeyUp(event: KeyboardEvent<HTMLElement>) {
        if (latest.current.keySpot(event.key, event.shiftKey)) lift(latest.current.controlId);
      },
      onBlur() {
        if (pointer.current === null) lift(latest.current.controlId, latest.current.springs);
      },
      // What presses without a pointer: a screen reader.
      onClick(event: MouseEvent<HTMLElement>) {
        if (event.detail !== 0 || pointer.current !== null) return;
        const spot = latest.current.keySpot("Enter", false);
        if (!spot) return;
        put(latest.current.controlId, spot.x, spot.y);
        lift(latest.current.controlId, latest.current.springs);
      },
    };
  }, [put, lift]);
}

export const within = (share: number): number => Math.min(Math.max(share, 0), 1);
