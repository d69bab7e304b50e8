import type { Source } from "@core/project";
import { giveSource, liveSource, onLive } from "@stores/live";
import { type KeyboardEvent, useCallback, useEffect, useRef } from "react";
import { arcPath, pointAt } from "../dial/geometry";
import { useTurning, useWheel } from "../dial/turning";
import { draw, turn } from "../parts/draw";
import { Layer, Layers, type View } from "../parts/Layers";

const endDeg = 140;
const view: View = [-60, -60, 120, 116];

/** An on-screen knob: drag round it, turn the wheel over it, or use the arrow keys. It gives whole numbers. */
export function Knob({ source }: { readonly source: Source }) {
  const { range } = source;
  const knob = useRef<HTMLDivElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const pointer = useRef<SVGSVGElement>(null);
  const span = range.high - range.low;
  const read = useCallback(() => {
    const value = liveSource(source.id);
    return Number.isFinite(value) ? Math.max(range.low, Math.min(range.high, value)) : (range.low + range.high) / 2;
  }, [source.id, range]);
  const give = useCallback(
    (value: number) =>
      giveSource(source.id, Math.max(range.low, Math.min(range.high, span > 20 ? Math.round(value) : value))),
    [source.id, range, span],
  );

  const onNotch = useCallback(
    (way: 1 | -1, event: WheelEvent) => give(read() + way * span * (event.shiftKey ? 0.05 : 0.01)),
    [give, read, span],
  );
  useWheel(knob, onNotch);

  useEffect(() => {
    const show = () => {
      const value = read();
      turn(pointer.current, (((value - range.low) / span) * 2 - 1) * endDeg);
      draw(knob.current, "aria-valuenow", String(Math.round(value)));
    };
    show();
    return onLive(show);
  }, [read, range.low, span]);

  const turning = useTurning(svg, (turned) => {
    const deg = Math.max(-endDeg, Math.min(endDeg, turned));
    give(range.low + ((deg / endDeg + 1) / 2) * span);
  });

  const onKeyDown = (event: KeyboardEvent) => {
    const step = span * (event.shiftKey ? 0.1 : 0.01);
    const goal = {
      ArrowRight: read() + step,
      ArrowUp: read() + step,
      ArrowLeft: read() - step,
      ArrowDown: read() - step,
      Home: range.low,
      End: range.high,
    }[event.key];
    if (goal === undefined) return;
    event.preventDefault();
    give(goal);
  };

  return (
    <div
      ref={knob}
      className="size-24 shrink-0 cursor-pointer touch-none rounded-box select-none"
      role="slider"
      tabIndex={0}
      aria-label={source.label}
      aria-valuemin={range.low}
      aria-valuemax={range.high}
      aria-valuenow={range.low}
      {...turning}
      onKeyDown={onKeyDown}
    >
      <Layers
        view={view}
        stillRef={svg}
        className="size-full"
        still={
          <>
            <path d={arcPath(-endDeg, endDeg, 52)} className="fill-none stroke-base-content/50" strokeWidth={1.2} />
            {Array.from({ length: 11 }, (_, mark) => {
              const deg = (mark / 5 - 1) * endDeg;
              const a = pointAt(deg, 52);
              const b = pointAt(deg, 46);
              return (
                <line key={deg} x1={a.x} y1={a.y} x2={b.x} y2={b.y} className="stroke-base-content" strokeWidth={1.2} />
              );
            })}
            <circle r={38} className="fill-base-300 stroke-base-content" strokeWidth={1.6} />
          </>
        }
      >
        <Layer view={view} ref={pointer}>
          <path d="M-15 -27A31 31 0 1 0 15 -27L0 -41Z" className="fill-primary stroke-base-content" strokeWidth={1.2} />
          <line y1={-14} y2={-36} className="stroke-primary-content" strokeWidth={2.6} />
        </Layer>
      </Layers>
    </div>
  );
}
