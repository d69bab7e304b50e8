import type { OriginOf } from "@core/origins";
import type { Source } from "@core/project";
import { giveSource, liveSource, onLive } from "@stores/live";
import { type KeyboardEvent, type PointerEvent, useCallback, useEffect, useRef } from "react";
import { draw, shift } from "../parts/draw";
import { Layer, Layers, type View } from "../parts/Layers";
import { useDrag } from "../parts/useDrag";

interface StickProps {
  readonly across: Source;
  readonly up: Source;
  readonly springs: OriginOf<"stick">["springs"];
}

const half = 46;
const view: View = [-60, -60, 120, 120];

/** A two-axis stick: drag it, or use the arrow keys. One with springs goes back to its middle when it is let go. */
export function Stick({ across, up, springs }: StickProps) {
  const pad = useRef<HTMLDivElement>(null);
  const handle = useRef<SVGSVGElement>(null);
  const shareOf = useCallback(({ id, range }: Source) => {
    const value = liveSource(id);
    return Number.isFinite(value) ? (value - range.low) / (range.high - range.low) : 0.5;
  }, []);
  const give = (x: number, y: number) => {
    const onto = ({ id, range }: Source, share: number) =>
      giveSource(id, range.low + Math.max(0, Math.min(1, share)) * (range.high - range.low));
    onto(across, x);
    onto(up, y);
  };
  useEffect(() => {
    const show = () => {
      const x = (shareOf(across) - 0.5) * 2 * half;
      const y = (0.5 - shareOf(up)) * 2 * half;
      shift(handle.current, x, y);
      const text = `${Math.round(100 * shareOf(across))} % across, ${Math.round(100 * shareOf(up))} % up`;
      draw(pad.current, "aria-valuetext", text);
    };
    show();
    return onLive(show);
  }, [across, up, shareOf]);

  const follow = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    // The handle reaches a little less far than the pad.
    const share = (at: number, from: number, size: number) => 0.5 + ((at - from) / size - 0.5) * (60 / half);
    give(share(event.clientX, box.left, box.width), 1 - share(event.clientY, box.top, box.height));
  };
  const letGo = () => {
    if (springs) give(0.5, 0.5);
  };
  const drag = useDrag({
    begin(event) {
      follow(event);
      return true;
    },
    move: (_, event) => follow(event),
    end: letGo,
    cancel: letGo,
    gone: letGo,
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 0.2 : 0.04;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key];
    if (event.key === "Home") give(0.5, 0.5);
    else if (by) give(shareOf(across) + (by[0] as number), shareOf(up) + (by[1] as number));
    else return;
    event.preventDefault();
  };
  return (
    <div
      ref={pad}
      role="slider"
      tabIndex={0}
      aria-label={`${across.label} and ${up.label}`}
      aria-valuenow={0}
      className="size-24 shrink-0 cursor-grab touch-none rounded-box select-none"
      {...drag}
      onKeyDown={onKeyDown}
    >
      <Layers
        view={view}
        className="size-full"
        still={
          <>
            <rect
              x={-56}
              y={-56}
              width={112}
              height={112}
              rx={18}
              className="fill-base-300 stroke-base-content"
              strokeWidth={1.2}
            />
            <path d="M-50 0H50M0 -50V50" className="stroke-base-content/40" strokeWidth={1} />
          </>
        }
      >
        <Layer view={view} ref={handle}>
          <circle r={15} className="fill-primary stroke-base-content" strokeWidth={1.6} />
          <circle r={5} className="fill-primary-content" />
        </Layer>
      </Layers>
    </div>
  );
}
