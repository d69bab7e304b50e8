import type { ControlOf } from "@core/controls";
import { type ReactNode, useCallback, useRef } from "react";
import { useBenchState, useDesk } from "./desk";
import { useThumb, within } from "./thumb";

/** What moves a source by an amount: sliders, knobs, sticks, places. Each stands where this thumb has put it, else where its source stands. */
interface MoverProps<Kind extends "slider" | "knob" | "stick" | "places"> {
  readonly control: ControlOf<Kind>;
  readonly label: string;
}

const fine = 0.01;
const coarse = 0.1;

/** The share at which a source stands; the middle while nobody knows. */
function useShareOf(): (sourceId: string) => number {
  const { book, state } = useDesk();
  return useCallback(
    (sourceId) => state()?.sources[book.sources.findIndex(({ id }) => id === sourceId)] ?? 0.5,
    [book, state],
  );
}

const setShare = (element: HTMLElement | null, name: string, share: number) => {
  const value = String(Math.round(share * 2000) / 2000);
  if (element && element.style.getPropertyValue(name) !== value) element.style.setProperty(name, value);
};

const tell = (element: HTMLElement | null, words: string) => {
  if (element && element.getAttribute("aria-valuetext") !== words) element.setAttribute("aria-valuetext", words);
};

const percent = (share: number) => `${Math.round(share * 100)} %`;

export function PadSlider({ control, label }: MoverProps<"slider">) {
  const desk = useDesk();
  const shareOf = useShareOf();
  const track = useRef<HTMLDivElement>(null);
  const grab = useRef(0);
  const isUpright = control.lowAt === "bottom" || control.lowAt === "top";
  const isTurned = control.lowAt === "bottom" || control.lowAt === "right";
  const now = useCallback(
    () => desk.thumbOn(control.id)?.x ?? shareOf(control.sourceId),
    [desk, control.id, control.sourceId, shareOf],
  );
  const draw = useCallback(() => {
    const share = now();
    setShare(track.current, "--share", isTurned ? 1 - share : share);
    tell(track.current, percent(share));
  }, [now, isTurned]);
  useBenchState(draw);
  const thumb = useThumb({
    controlId: control.id,
    spotOf(event, isFirst) {
      const box = event.currentTarget.getBoundingClientRect();
      const handlePx = handleRem * 16;
      const along = isUpright
        ? (event.clientY - box.top - handlePx / 2) / (box.height - handlePx)
        : (event.clientX - box.left - handlePx / 2) / (box.width - handlePx);
      const share = isTurned ? 1 - along : along;
      const size = isUpright ? box.height : box.width;
      // Who takes the handle moves it from where it is; elsewhere it comes to the thumb.
      if (isFirst) grab.current = Math.abs(share - now()) * (size - handlePx) < handlePx * 0.6 ? now() - share : 0;
      return { x: within(share + grab.current), y: null };
    },
    keySpot: (key, isCoarse) => {
      const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[key];
      if (by !== undefined) return { x: within(now() + by * (isCoarse ? coarse : fine)), y: null };
      return key === "Home" ? { x: 0, y: null } : key === "End" ? { x: 1, y: null } : null;
    },
  });
  return (
    <div
      ref={track}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-orientation={isUpright ? "vertical" : "horizontal"}
      aria-valuenow={0}
      className={`relative min-h-0 w-full grow touch-none [container-type:size] ${isUpright ? "" : "min-h-14"}`}
      {...redrawn(thumb, draw)}
    >
      <span
        className={`absolute rounded-full bg-base-content/25 ${isUpright ? "inset-y-2 left-1/2 w-1.5 -translate-x-1/2" : "inset-x-2 top-1/2 h-1.5 -translate-y-1/2"}`}
      />
      <span
        className={`absolute flex items-center justify-center border border-base-content bg-primary shadow-[0_2px_0_var(--color-base-content)] ${
          isUpright
            ? "top-0 left-[12%] h-12 w-[76%] rounded-[0.5rem_0.5rem_0.9rem_0.9rem] [transform:translateY(calc(var(--share,0.5)*(100cqh-3rem)))]"
            : "top-[10%] left-0 h-[80%] w-12 rounded-[0.5rem_0.9rem_0.9rem_0.5rem] [transform:translateX(calc(var(--share,0.5)*(100cqw-3rem)))]"
        }`}
      >
        <span className={`bg-primary-content ${isUpright ? "h-0.5 w-3/5" : "h-3/5 w-0.5"}`} />
      </span>
    </div>
  );
}

/** The size of what a thumb takes hold of. */
const handleRem = 3;

type Thumb = ReturnType<typeof useThumb>;

/** A thumb sees at once what it does, before the bench has said so. */
function redrawn(thumb: Thumb, draw: () => void): Thumb {
  const after =
    <Event,>(handler: (event: Event) => void) =>
    (event: Event) => {
      handler(event);
      draw();
    };
  return {
    ...thumb,
    onPointerDown: after(thumb.onPointerDown),
    onPointerMove: after(thumb.onPointerMove),
    onKeyDown: after(thumb.onKeyDown),
  };
}

export function PadKnob({ control, label }: MoverProps<"knob">) {
  const desk = useDesk();
  const shareOf = useShareOf();
  const disc = useRef<HTMLDivElement>(null);
  const from = useRef({ x: 0, y: 0, share: 0 });
  const now = useCallback(
    () => desk.thumbOn(control.id)?.x ?? shareOf(control.sourceId),
    [desk, control.id, control.sourceId, shareOf],
  );
  const draw = useCallback(() => {
    setShare(disc.current, "--share", now());
    tell(disc.current, percent(now()));
  }, [now]);
  useBenchState(draw);
  const thumb = useThumb({
    controlId: control.id,
    spotOf(event, isFirst) {
      if (isFirst) from.current = { x: event.clientX, y: event.clientY, share: now() };
      const { x, y, share } = from.current;
      // Up and to the right is more; a hand's breadth is the whole way.
      return { x: within(share + (event.clientX - x - (event.clientY - y)) / 220), y: null };
    },
    keySpot: (key, isCoarse) => {
      const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[key];
      return by === undefined ? null : { x: within(now() + by * (isCoarse ? coarse : fine)), y: null };
    },
  });
  return (
    <div className="flex min-h-0 w-full grow items-center justify-center [container-type:size]">
      <div
        ref={disc}
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuenow={0}
        className="relative size-[min(92cqw,92cqh)] touch-none rounded-full border-2 border-base-content bg-base-300 [transform:rotate(calc((var(--share,0.5)-0.5)*270deg))]"
        {...redrawn(thumb, draw)}
      >
        <span className="absolute top-1 left-1/2 h-[34%] w-2 -translate-x-1/2 rounded-full bg-primary" />
        <span className="absolute inset-[30%] rounded-full border border-base-content/50 bg-base-200" />
      </div>
    </div>
  );
}

export function PadStick({ control, label }: MoverProps<"stick">) {
  const desk = useDesk();
  const shareOf = useShareOf();
  const field = useRef<HTMLDivElement>(null);
  const { acrossId, upId } = control;
  const now = useCallback(() => {
    const own = desk.thumbOn(control.id);
    return { x: own?.x ?? shareOf(acrossId), y: own?.y ?? shareOf(upId) };
  }, [desk, control.id, acrossId, upId, shareOf]);
  const draw = useCallback(() => {
    const { x, y } = now();
    setShare(field.current, "--x", x);
    setShare(field.current, "--y", 1 - y);
    tell(field.current, `${percent(x)} across, ${percent(y)} up`);
  }, [now]);
  useBenchState(draw);
  const thumb = useThumb({
    controlId: control.id,
    springs: control.springs,
    spotOf(event) {
      const box = event.currentTarget.getBoundingClientRect();
      const handlePx = handleRem * 16;
      const along = (at: number, start: number, size: number) =>
        within((at - start - handlePx / 2) / (size - handlePx));
      return { x: along(event.clientX, box.left, box.width), y: 1 - along(event.clientY, box.top, box.height) };
    },
    keySpot: (key, isCoarse) => {
      const step = isCoarse ? 2 * coarse : 4 * fine;
      const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[key];
      if (key === "Home") return { x: 0.5, y: 0.5 };
      return by ? { x: within(now().x + (by[0] as number)), y: within(now().y + (by[1] as number)) } : null;
    },
  });
  return (
    <div
      ref={field}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={0}
      className="relative min-h-0 w-full grow touch-none rounded-[1.4rem_0.4rem] border-2 border-base-content bg-base-300 [container-type:size]"
      {...redrawn(thumb, draw)}
    >
      <span className="absolute inset-x-3 top-1/2 h-px bg-base-content/40" />
      <span className="absolute inset-y-3 left-1/2 w-px bg-base-content/40" />
      <span className="absolute top-0 left-0 size-12 rounded-full border-2 border-base-content bg-primary [transform:translate(calc(var(--x,0.5)*(100cqw-3rem)),calc(var(--y,0.5)*(100cqh-3rem)))]">
        <span className="absolute inset-3.5 rounded-full bg-primary-content" />
      </span>
    </div>
  );
}

export function PadPlaces({ control, label }: MoverProps<"places">) {
  const desk = useDesk();
  const shareOf = useShareOf();
  const group = useRef<HTMLFieldSetElement>(null);
  const draw = useCallback(() => {
    const share = desk.thumbOn(control.id)?.x ?? shareOf(control.sourceId);
    for (const [at, button] of [...(group.current?.querySelectorAll("button") ?? [])].entries()) {
      const isThere = String(Math.abs((control.places[at]?.share ?? 0) - share) < 0.02);
      if (button.getAttribute("aria-pressed") !== isThere) button.setAttribute("aria-pressed", isThere);
    }
  }, [desk, control, shareOf]);
  useBenchState(draw);
  return (
    <fieldset ref={group} className="flex min-h-12 w-full grow gap-1.5">
      <legend className="sr-only">{label}</legend>
      {control.places.map((place) => (
        <Place key={place.label} controlId={control.id} share={place.share}>
          {place.label}
        </Place>
      ))}
    </fieldset>
  );
}

function Place({
  controlId,
  share,
  children,
}: {
  readonly controlId: string;
  readonly share: number;
  readonly children: ReactNode;
}) {
  const spot = { x: share, y: null };
  const thumb = useThumb({ controlId, spotOf: () => spot, keySpot: (key) => (isPress(key) ? spot : null) });
  return (
    <button
      type="button"
      className="btn h-full min-w-0 grow touch-none px-1 text-base aria-pressed:btn-primary"
      aria-pressed={false}
      {...thumb}
    >
      {children}
    </button>
  );
}

export const isPress = (key: string): boolean => key === "Enter" || key === " ";
