import { type KeyboardEvent, type MouseEvent, type PointerEvent, useEffect, useMemo, useRef } from "react";
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
  const { put: putOn, lift: liftOff } = useDesk();
  const latest = useRef(ask);
  latest.current = ask;
  const pointer = useRef<number | null>(null);
  /** Some thumb, finger or key, is on it. */
  const isOn = useRef(false);
  // A control that goes from the screen under a thumb hears no more of it: another pad was chosen, or the pad was changed at the bench.
  useEffect(
    () => () => {
      if (isOn.current) liftOff(latest.current.controlId, latest.current.springs);
    },
    [liftOff],
  );
  return useMemo(() => {
    const put = (controlId: string, x: number | null, y: number | null) => {
      isOn.current = true;
      putOn(controlId, x, y);
    };
    const lift = (controlId: string, springs?: boolean) => {
      isOn.current = false;
      liftOff(controlId, springs);
    };
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
  }, [putOn, liftOff]);
}

export const within = (share: number): number => Math.min(Math.max(share, 0), 1);
