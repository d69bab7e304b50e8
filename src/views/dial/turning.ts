import { type PointerEvent, type RefObject, useEffect } from "react";
import { useDrag } from "../parts/useDrag";

/** Nearer to the hub than this, an angle is mostly chance. */
const deadRadius = 14;

/** Calls back with the angle at which a pointer presses, or drags, round the origin of a drawing: in degrees from the top, clockwise. */
export function useTurning(drawing: RefObject<SVGSVGElement | null>, onTurned: (deg: number) => void) {
  const follow = (event: PointerEvent<HTMLElement>) => {
    const deg = turnedDeg(event, drawing.current);
    if (deg !== null) onTurned(deg);
  };
  return useDrag({
    begin(event) {
      event.currentTarget.focus();
      follow(event);
      return true;
    },
    move: (_, event) => follow(event),
  });
}

/** Null where it is too near to the hub to say. */
function turnedDeg(event: PointerEvent<HTMLElement>, drawing: SVGSVGElement | null): number | null {
  const matrix = drawing?.getScreenCTM();
  if (!matrix) return null;
  const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
  return Math.hypot(x, y) < deadRadius ? null : (Math.atan2(x, -y) * 180) / Math.PI;
}

/** Calls back with +1 or −1 for each notch of the wheel, and keeps the page from scrolling meanwhile. */
export function useWheel(
  element: RefObject<HTMLElement | null>,
  onNotch: (way: 1 | -1, event: WheelEvent) => void,
): void {
  useEffect(() => {
    const target = element.current;
    if (!target) return;
    // Not a React handler: those are passive, and the page would scroll with the instrument.
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      onNotch(event.deltaY + event.deltaX < 0 ? 1 : -1, event);
    };
    target.addEventListener("wheel", onWheel, { passive: false });
    return () => target.removeEventListener("wheel", onWheel);
  }, [element, onNotch]);
}
