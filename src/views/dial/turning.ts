import { type PointerEvent, type RefObject, useEffect } from "react";

/** Nearer to the hub than this, an angle is mostly chance. */
const deadRadius = 14;

/**
 * The angle at which a pointer presses or drags round the origin of a drawing, in degrees from the top, clockwise.
 * Captures the pointer when it is pressed; null for what is neither press nor drag, and too near to the hub.
 */
export function turnedDeg(event: PointerEvent<HTMLElement>, drawing: SVGSVGElement | null): number | null {
  if (event.type === "pointerdown") {
    if (event.button !== 0) return null;
    event.currentTarget.setPointerCapture(event.pointerId);
    event.currentTarget.focus();
  } else if (!event.currentTarget.hasPointerCapture(event.pointerId)) return null;
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
