import { type KeyboardEvent, useRef } from "react";
import { useDrag } from "../parts/useDrag";

interface DrawnCurveProps {
  readonly points: readonly { readonly x: number; readonly y: number }[];
  readonly onPoints: (points: readonly { readonly x: number; readonly y: number }[]) => void;
}

const size = 100;
const leastGap = 0.02;

/** A curve of points that are dragged, or moved with the arrow keys; a double click adds one, Delete takes one away. */
export function DrawnCurve({ points, onPoints }: DrawnCurveProps) {
  const svg = useRef<SVGSVGElement>(null);
  const placeOf = (event: { clientX: number; clientY: number }) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return null;
    return { x: (event.clientX - box.left) / box.width, y: 1 - (event.clientY - box.top) / box.height };
  };
  const put = (at: number, x: number, y: number) => {
    const low = at === 0 ? 0 : (points[at - 1]?.x ?? 0) + leastGap;
    const high = at === points.length - 1 ? 1 : (points[at + 1]?.x ?? 1) - leastGap;
    const isEnd = at === 0 || at === points.length - 1;
    onPoints(
      points.with(at, {
        x: isEnd ? (points[at]?.x ?? 0) : Math.min(Math.max(x, low), high),
        y: Math.min(Math.max(y, 0), 1),
      }),
    );
  };
  const drag = useDrag<number, SVGSVGElement>({
    begin: ({ target }) => (target instanceof SVGCircleElement ? Number(target.dataset.point) : null),
    move(at, event) {
      const place = placeOf(event);
      if (place) put(at, place.x, place.y);
    },
  });
  const onKeyDown = (at: number) => (event: KeyboardEvent) => {
    const point = points[at];
    if (!point) return;
    const step = event.shiftKey ? 0.1 : 0.02;
    if (event.key === "Delete" && points.length > 2 && at > 0 && at < points.length - 1)
      onPoints(points.toSpliced(at, 1));
    else if (event.key === "ArrowUp") put(at, point.x, point.y + step);
    else if (event.key === "ArrowDown") put(at, point.x, point.y - step);
    else if (event.key === "ArrowLeft") put(at, point.x - step, point.y);
    else if (event.key === "ArrowRight") put(at, point.x + step, point.y);
    else return;
    event.preventDefault();
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the points themselves are what is operated; a double click only adds one.
    <svg
      ref={svg}
      viewBox={`-4 -4 ${size + 8} ${size + 8}`}
      className="col-span-2 w-full touch-none rounded-sm bg-base-100"
      role="presentation"
      {...drag}
      onDoubleClick={(event) => {
        const place = placeOf(event);
        const at = place ? points.findIndex((point) => point.x > place.x) : -1;
        if (place && at > 0 && points.length < 20) onPoints(points.toSpliced(at, 0, place));
      }}
    >
      <rect width={size} height={size} className="fill-none stroke-base-300" />
      <polyline
        points={points.map(({ x, y }) => `${x * size},${(1 - y) * size}`).join(" ")}
        className="fill-none stroke-primary"
        strokeWidth={2}
      />
      {points.map(({ x, y }, at) => (
        <circle
          // biome-ignore lint/suspicious/noArrayIndexKey: a point is its place in the row.
          key={at}
          cx={x * size}
          cy={(1 - y) * size}
          r={4.5}
          role="slider"
          tabIndex={0}
          aria-label={`Point ${at + 1} of the curve`}
          aria-valuenow={Math.round(y * 100)}
          className="cursor-grab fill-base-100 stroke-base-content"
          strokeWidth={1.8}
          data-point={at}
          onKeyDown={onKeyDown(at)}
        />
      ))}
    </svg>
  );
}
