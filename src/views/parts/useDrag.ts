import { type PointerEvent, useEffect, useMemo, useRef } from "react";

/** How far a pointer has gone since it was pressed, in px. */
export interface Way {
  readonly x: number;
  readonly y: number;
}

interface DragAsk<Held, Handle extends Element> {
  /** A press: what is held from now on, or null where nothing is there to be held. */
  readonly begin: (event: PointerEvent<Handle>) => Held | null;
  /** The pointer goes on, once it has left the place of the press by more than `leastPx`. */
  readonly move: (held: Held, event: PointerEvent<Handle>, way: Way) => void;
  /** It was let go. */
  readonly end?: (held: Held, event: PointerEvent<Handle>, way: Way, hasMoved: boolean) => void;
  /** The system took the pointer away: what was dragged goes back. Without it, `end` is not called either. */
  readonly cancel?: (held: Held, event: PointerEvent<Handle>) => void;
  /** What is dragged goes from the page under the pointer, which is heard no more: another station was asked for by a key, say. */
  readonly gone?: (held: Held) => void;
  /** A press that goes no further is a click; then the pointer is kept only from there on, so that what lies below may be clicked. */
  readonly leastPx?: number;
}

interface Press<Held> {
  readonly held: Held;
  readonly pointerId: number;
  readonly fromX: number;
  readonly fromY: number;
  hasMoved: boolean;
}

/**
 * One press with the first button, a finger or a pen, and where it goes until it is let go: handlers for the element
 * that is dragged, or holds what is. Another finger meanwhile changes nothing.
 */
export function useDrag<Held, Handle extends Element = HTMLElement>(ask: DragAsk<Held, Handle>) {
  const latest = useRef(ask);
  latest.current = ask;
  const press = useRef<Press<Held> | null>(null);
  useEffect(
    () => () => {
      if (press.current) latest.current.gone?.(press.current.held);
    },
    [],
  );
  return useMemo(() => {
    const mine = (event: PointerEvent<Handle>) =>
      press.current?.pointerId === event.pointerId ? press.current : undefined;
    const wayOf = ({ fromX, fromY }: Press<Held>, event: PointerEvent<Handle>): Way => ({
      x: event.clientX - fromX,
      y: event.clientY - fromY,
    });
    return {
      onPointerDown(event: PointerEvent<Handle>) {
        // A press that never moved may have ended elsewhere, unheard.
        if (event.button !== 0 || press.current?.hasMoved) return;
        const held = latest.current.begin(event);
        if (held === null) return;
        event.stopPropagation();
        const { pointerId, clientX: fromX, clientY: fromY } = event;
        const hasMoved = latest.current.leastPx === undefined;
        press.current = { held, pointerId, fromX, fromY, hasMoved };
        if (hasMoved) event.currentTarget.setPointerCapture(pointerId);
      },
      onPointerMove(event: PointerEvent<Handle>) {
        const one = mine(event);
        if (!one) return;
        const way = wayOf(one, event);
        if (!one.hasMoved) {
          if (Math.hypot(way.x, way.y) < (latest.current.leastPx ?? 0)) return;
          one.hasMoved = true;
          event.currentTarget.setPointerCapture(event.pointerId);
        }
        latest.current.move(one.held, event, way);
      },
      onPointerUp(event: PointerEvent<Handle>) {
        const one = mine(event);
        press.current = null;
        if (one) latest.current.end?.(one.held, event, wayOf(one, event), one.hasMoved);
      },
      onPointerCancel(event: PointerEvent<Handle>) {
        const one = mine(event);
        press.current = null;
        if (one) latest.current.cancel?.(one.held, event);
      },
    };
  }, []);
}
