import { type RefObject, useEffect, useMemo, useRef } from "react";

/** A line from one end to the other of a picture: places and heights as shares of it, 0 to 1, from the left and from the bottom. */
export interface Stroke {
  readonly points: readonly (readonly [number, number])[];
  /** The colour, as a variable of the theme. */
  readonly colour: "--color-primary" | "--color-base-content";
  readonly widthPx: number;
  readonly dashPx?: readonly number[];
}

/** No line is cut off at the edge of its picture. */
const edgePx = 2;

/**
 * Lines that move on by themselves, on a canvas: the page lays nothing out while they do. Gives the canvas its ref, and the way to draw anew.
 */
export function useStrokes(): {
  readonly canvas: RefObject<HTMLCanvasElement | null>;
  readonly stroke: (strokes: readonly Stroke[]) => void;
} {
  const canvas = useRef<HTMLCanvasElement>(null);
  const size = useRef({ width: 0, height: 0 });
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      const { width = 0, height = 0 } = entry?.contentRect ?? {};
      const dense = Math.min(window.devicePixelRatio || 1, 2);
      size.current = { width, height };
      element.width = Math.max(1, Math.round(width * dense));
      element.height = Math.max(1, Math.round(height * dense));
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return useMemo(
    () => ({ canvas, stroke: (strokes) => canvas.current && drawStrokes(canvas.current, size.current, strokes) }),
    [],
  );
}

function drawStrokes(
  canvas: HTMLCanvasElement,
  { width, height }: { readonly width: number; readonly height: number },
  strokes: readonly Stroke[],
): void {
  const to = width > 0 ? canvas.getContext("2d") : null;
  if (!to) return;
  const theme = getComputedStyle(canvas);
  const dense = canvas.width / width;
  to.setTransform(dense, 0, 0, dense, 0, 0);
  to.clearRect(0, 0, width, height);
  for (const { points, colour, widthPx, dashPx = [] } of strokes) {
    to.beginPath();
    for (const [x, y] of points) to.lineTo(x * width, height - edgePx - y * (height - 2 * edgePx));
    to.strokeStyle = theme.getPropertyValue(colour);
    to.lineWidth = widthPx;
    to.setLineDash([...dashPx]);
    to.stroke();
  }
}
