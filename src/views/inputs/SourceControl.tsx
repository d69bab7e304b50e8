import { isSteadyOrigin, makesItself, type Origin, type OriginKind, type OriginOf } from "@core/origins";
import type { Source } from "@core/project";
import { command, giveSource, liveSource, onLive, useLive } from "@stores/live";
import { type ComponentType, useCallback, useEffect, useRef } from "react";
import { useWheel } from "../dial/turning";
import { draw, turn, unhurried } from "../parts/draw";
import { Layer, Layers, type View } from "../parts/Layers";
import { useDrag } from "../parts/useDrag";
import { useHeldDown } from "../parts/useHeldDown";
import { Knob } from "./Knob";
import { Stick } from "./Stick";

interface ControlProps<Of extends Origin> {
  readonly source: Source;
  readonly origin: Of;
  /** The other axis of a stick. */
  readonly partner: Source | null;
}

type Control<Kind extends OriginKind> = ControlProps<OriginOf<Kind>>;

/** What a person moves: the on-screen thing itself, or the world behind a simulated sensor; nothing where it is moved elsewhere. */
export function SourceControl({ source, partner }: Omit<ControlProps<Origin>, "origin">) {
  const Control = controls[source.origin.kind] as ComponentType<ControlProps<Origin>> | null;
  return Control && <Control source={source} origin={source.origin} partner={partner} />;
}

/** Whether a source can be moved on the screen. */
export const isOnScreen = ({ origin }: Source): boolean => controls[origin.kind] !== null;

/** How a number of a source is written that spans so much: what a hand moves at once; what goes on by itself so that it can be read. */
export function writes({ origin }: Source, span: number): (value: number) => number {
  if (!isSteadyOrigin(origin)) return (value) => value;
  const isClockwork = makesItself(origin) && controls[origin.kind] === null;
  return unhurried(isClockwork ? Number.POSITIVE_INFINITY : span / 20);
}

/** What each kind is moved by on the screen; null for one that is moved elsewhere. The compiler misses any that is left out. */
const controls: { readonly [Kind in OriginKind]: ComponentType<Control<Kind>> | null } = {
  knob: Knob,
  slider: Slider,
  stick: ({ source, partner, origin }) => partner && <Stick across={source} up={partner} springs={origin.springs} />,
  encoder: Encoder,
  button: PushButton,
  toggle: Toggle,
  keypad: Keypad,
  key: null,
  gamepad: null,
  midi: null,
  line: null,
  mqtt: null,
  osc: null,
  sacn: null,
  cue: null,
  handset: null,
  sensor: World,
  wave: null,
};

function Slider({ source, origin }: Control<"slider">) {
  const input = useRef<HTMLInputElement>(null);
  const { low, high } = source.range;
  useEffect(() => {
    const show = () => {
      const value = liveSource(source.id);
      if (input.current && Number.isFinite(value)) input.current.value = String(value);
    };
    show();
    return onLive(show);
  }, [source.id]);
  const isUpright = origin.lowAt === "bottom" || origin.lowAt === "top";
  return (
    <input
      ref={input}
      type="range"
      aria-label={source.label}
      className={`shrink-0 accent-primary ${isUpright ? "h-24 w-5" : "h-5 w-28"}`}
      style={{
        ...(isUpright && { writingMode: "vertical-lr" }),
        direction: origin.lowAt === "bottom" || origin.lowAt === "right" ? "rtl" : "ltr",
      }}
      min={low}
      max={high}
      step={high - low > 20 ? 1 : "any"}
      defaultValue={(low + high) / 2}
      onInput={(event) => giveSource(source.id, Number(event.currentTarget.value))}
    />
  );
}

const encoderView: View = [-50, -50, 100, 100];

/** An encoder that was not turned for so long has been heard by the bench. */
const restMs = 500;

/** Turns without an end: the wheel, a drag sideways, or the arrow keys; each detent is one step of its count. */
function Encoder({ source, origin }: Control<"encoder">) {
  const wheel = useRef<HTMLDivElement>(null);
  const mark = useRef<SVGSVGElement>(null);
  const read = useCallback(() => {
    const value = liveSource(source.id);
    return Number.isFinite(value) ? value : 0;
  }, [source.id]);
  // Turned quickly, the next detent comes before the bench has told of the last: they are counted here until it is left to rest.
  const counted = useRef({ value: 0, atMs: Number.NEGATIVE_INFINITY });
  const step = useCallback(
    (by: number) => {
      const nowMs = performance.now();
      const from = nowMs - counted.current.atMs < restMs ? counted.current.value : read();
      counted.current = { value: from + by, atMs: nowMs };
      giveSource(source.id, from + by);
    },
    [source.id, read],
  );
  useWheel(wheel, step);
  useEffect(() => {
    const show = () => {
      turn(mark.current, (read() * 360) / origin.detentsPerTurn);
      draw(wheel.current, "aria-valuenow", String(read()));
    };
    show();
    return onLive(show);
  }, [read, origin.detentsPerTurn]);
  const drag = useDrag({
    begin: () => ({ detents: 0 }),
    move(held, _, way) {
      const detents = Math.trunc(way.x / 8);
      if (detents !== held.detents) step(detents - held.detents);
      held.detents = detents;
    },
  });
  return (
    <div
      ref={wheel}
      role="slider"
      tabIndex={0}
      aria-label={source.label}
      aria-valuenow={0}
      className="size-20 shrink-0 cursor-ew-resize touch-none rounded-box select-none"
      {...drag}
      onKeyDown={(event) => {
        const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        step(by);
      }}
    >
      <Layers
        view={encoderView}
        className="size-full"
        still={<circle r={44} className="fill-base-300 stroke-base-content" strokeWidth={1.4} />}
      >
        <Layer view={encoderView} ref={mark}>
          {Array.from({ length: origin.detentsPerTurn }, (_, at) => (
            <line
              // biome-ignore lint/suspicious/noArrayIndexKey: a notch is its place.
              key={at}
              y1={-44}
              y2={at === 0 ? -22 : -38}
              transform={`rotate(${(at * 360) / origin.detentsPerTurn})`}
              className={at === 0 ? "stroke-primary" : "stroke-base-content"}
              strokeWidth={at === 0 ? 4 : 1.2}
            />
          ))}
        </Layer>
      </Layers>
    </div>
  );
}

function PushButton({ source }: { readonly source: Source }) {
  const held = useHeldDown((isOn) => giveSource(source.id, isOn ? source.range.high : source.range.low));
  return (
    <button
      type="button"
      className="btn btn-outline btn-circle btn-lg active:btn-primary"
      aria-label={`Push ${source.label}`}
      {...held}
    >
      <span className="size-7 rounded-full border-2 border-current" />
    </button>
  );
}

/** Stands as its source stands, whoever switched it. */
function Toggle({ source }: { readonly source: Source }) {
  const { low, high } = source.range;
  const isOn = useLive(useCallback(() => liveSource(source.id) >= (low + high) / 2, [source.id, low, high]));
  return (
    <input
      type="checkbox"
      className="toggle toggle-primary toggle-lg"
      aria-label={source.label}
      checked={isOn}
      onChange={(event) => giveSource(source.id, event.target.checked ? high : low)}
    />
  );
}

const keys = [1, 2, 3, 4, 5, 6, 7, 8, 9, 0];

function Keypad({ source }: { readonly source: Source }) {
  return (
    <fieldset className="grid grid-cols-5 gap-1">
      <legend className="sr-only">{source.label}</legend>
      {keys.map((key) => (
        <button
          key={key}
          type="button"
          className="btn btn-outline btn-xs number px-2"
          onClick={() => giveSource(source.id, key)}
        >
          {key}
        </button>
      ))}
    </fieldset>
  );
}

/** The world that a simulated sensor looks at: dark to bright, cold to warm, straight to bent, near to far. */
function World({ source, origin }: Control<"sensor">) {
  const ends = worldWords[origin.sense];
  return (
    <label className="caption flex w-40 items-center gap-1.5">
      {ends[0]}
      <input
        type="range"
        className="range range-xs"
        aria-label={`World of ${source.label}`}
        min={0}
        max={1}
        step="any"
        defaultValue={0.5}
        onInput={(event) => command({ kind: "world", sourceId: source.id, value: Number(event.currentTarget.value) })}
      />
      {ends[1]}
    </label>
  );
}

const worldWords = {
  light: ["dark", "bright"],
  temperature: ["cold", "warm"],
  flex: ["straight", "bent"],
  distance: ["near", "far"],
} as const;
