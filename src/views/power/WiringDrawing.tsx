import {
  amps,
  type Box,
  type Drawing,
  type Found,
  labelPlace,
  mayCarryA,
  runWords,
  supplyWords,
  volts,
  type Wire,
  wireColour,
} from "@core/power";
import { byId, type Project } from "@core/project";
import { type Chosen, choosePower } from "@stores/powerView";
import { type KeyboardEvent, memo, useMemo, useRef } from "react";
import { type Pull, useFeedDrag } from "./useFeedDrag";
import type { Flow } from "./useFlow";

interface WiringDrawingProps {
  readonly drawing: Drawing;
  readonly project: Project;
  readonly flow: Flow;
  readonly found: readonly Found[];
  readonly chosen: Chosen | null;
}

/** Drawn no smaller than this, in px per mm: beyond it the sheet is scrolled. */
const leastPxPerMm = 3.6;

/** The wiring as a sheet: what stands in the table, laid out, with what flows in the case that is shown. Arrow keys walk through its things. */
export function WiringDrawing({ drawing, project, flow, found, chosen }: WiringDrawingProps) {
  const { widthMm, heightMm, boxes, wires } = drawing;
  const wrong = useMemo(() => new Set(found.map(({ about }) => `${about.kind}:${about.id}`)), [found]);
  const runIds = useMemo(() => [...new Set(wires.flatMap(({ of }) => (of.kind === "run" ? [of.id] : [])))], [wires]);
  const order: readonly Chosen[] = useMemo(() => {
    const things = boxes.filter(({ part }) => part === 0).map(({ kind, id }) => ({ kind, id }));
    return [...things, ...runIds.map((id) => ({ kind: "run" as const, id }))];
  }, [boxes, runIds]);
  const sheet = useRef<SVGSVGElement>(null);
  const { pulled, handlers } = useFeedDrag(sheet, drawing);
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.key];
    if (step === undefined || order.length === 0) return;
    event.preventDefault();
    const at = order.findIndex(({ kind, id }) => kind === chosen?.kind && id === chosen.id);
    choosePower(order[(at + step + order.length) % order.length] ?? null);
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset does not scroll.
    <div
      role="group"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the sheet scrolls, and arrow keys walk through its things.
      tabIndex={0}
      aria-label="Wiring, as a drawing. Arrow keys walk through its things."
      className="min-h-0 grow overflow-auto rounded-box border border-base-300 bg-base-100"
      onKeyDown={onKeyDown}
    >
      <svg
        data-wiring
        ref={sheet}
        {...handlers}
        viewBox={`0 0 ${widthMm} ${heightMm}`}
        style={{ minWidth: widthMm * leastPxPerMm, width: "100%" }}
        className="block"
        aria-hidden="true"
      >
        {runIds.map((id) => (
          <RunDrawing
            key={id}
            id={id}
            wires={wires.filter(({ of }) => of.kind === "run" && of.id === id)}
            project={project}
            flow={flow}
            isChosen={chosen?.kind === "run" && chosen.id === id}
            isWrong={wrong.has(`run:${id}`)}
          />
        ))}
        {wires
          .filter(({ role }) => role === "signal")
          .map((wire) => (
            <WirePath key={wire.of.kind === "signal" ? wire.of.jointId : ""} wire={wire} />
          ))}
        {boxes.map((box) => (
          <BoxDrawing
            key={`${box.kind}${box.id}${box.part}`}
            box={box}
            what={box.kind === "supply" ? supplyWords(byId(project.supplies, box.id)) : ""}
            says={saysOf(box, flow)}
            isChosen={chosen?.kind === box.kind && chosen.id === box.id}
            isWrong={wrong.has(`${box.kind}:${box.id}`)}
          />
        ))}
        {pulled && <Pulled pulled={pulled} />}
      </svg>
    </div>
  );
}

/** What stands in a box under its name: what it is, and how it stands. */
function saysOf({ kind, id }: Box, { net, solved }: Flow): string {
  const at = net.places.findIndex((place) => place.kind === kind && place.id === id);
  if (!net.isFed[at]) return "not fed";
  return kind === "supply" ? `gives ${amps(solved.givenA[at] ?? 0)}` : volts(solved.volts[at] ?? 0);
}

/** A thing that is being fed from elsewhere: a line from it to the pointer, and what it would hang on. */
function Pulled({ pulled: { from, toXMm, toYMm, target } }: { readonly pulled: Pull }) {
  return (
    <g className="pointer-events-none" data-pulled={target ? `${target.kind}:${target.id}` : ""}>
      {target && (
        <rect
          x={target.xMm - 1}
          y={target.yMm - 1}
          width={target.wMm + 2}
          height={target.hMm + 2}
          rx={1.6}
          className="fill-primary/20 stroke-primary"
          strokeWidth={0.6}
        />
      )}
      <line
        x1={from.xMm}
        y1={from.yMm + from.hMm / 2}
        x2={toXMm}
        y2={toYMm}
        className="stroke-primary"
        strokeWidth={0.8}
        strokeDasharray="2 1.2"
      />
    </g>
  );
}

/** The glow of a wire that carries all it may, and of one that carries next to nothing. */
const [brightest, faintest] = [0.85, 0.05];

interface RunDrawingProps {
  readonly id: string;
  readonly wires: readonly Wire[];
  readonly project: Project;
  readonly flow: Flow;
  readonly isChosen: boolean;
  readonly isWrong: boolean;
}

function RunDrawing({ id, wires, project, flow, isChosen, isWrong }: RunDrawingProps) {
  const run = byId(project.runs, id);
  const { net, solved } = flow;
  const carried = solved.amps[net.runs.indexOf(run)] ?? 0;
  const bearsA = useMemo(() => mayCarryA(run.areaMm2), [run.areaMm2]);
  // By its root: a tenth of what it may carry is seen already, and all of it is not ten times as bright.
  const loaded = Math.sqrt(Math.min(1, carried / bearsA));
  const first = wires[0]?.points ?? [];
  const begin = first[0] ?? [0, 0];
  const last = first.at(-1) ?? begin;
  const isShort = run.to.kind === "rail" && run.from.kind === "supply";
  const { x, y } = labelPlace(run, first);
  const path = lineOf(first);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the sheet itself takes keys.
    <g className="cursor-pointer" data-run={id} onClick={() => choosePower({ kind: "run", id })}>
      <path d={path} className="fill-none stroke-transparent" strokeWidth={4} />
      {(isChosen || isWrong) && (
        <path
          d={path}
          transform="translate(0 0.75)"
          className={`fill-none ${isWrong ? "stroke-error/30" : "stroke-primary/30"}`}
          strokeWidth={isChosen ? 4.4 : 3.4}
        />
      )}
      {carried > 0 && (
        <path
          d={path}
          transform="translate(0 0.75)"
          className="pointer-events-none fill-none stroke-warning"
          data-glow={loaded.toFixed(2)}
          strokeOpacity={faintest + (brightest - faintest) * loaded}
          strokeWidth={2.4 + 2.4 * loaded}
        />
      )}
      {wires.map((wire) => (
        <WirePath key={wire.role} wire={wire} />
      ))}
      <text x={x + 0.8} y={y - 1.3} className="fill-base-content/80 font-sans" fontSize={2.2}>
        {runWords(run).replace(/ \(.*\)/, "")}
      </text>
      {run.carries !== "ground" && !isShort && (
        <text x={last[0] - 0.8} y={last[1] + 4} textAnchor="end" className="fill-base-content number" fontSize={2.1}>
          {amps(carried)}
        </text>
      )}
      {run.fuse && (
        <rect
          x={begin[0] + 0.8}
          y={begin[1] - 1.1}
          width={4}
          height={2.2}
          className="fill-base-100 stroke-base-content"
          strokeWidth={0.25}
        />
      )}
    </g>
  );
}

const lineOf = (points: Wire["points"]): string =>
  points.map(([x, y], at) => `${at === 0 ? "M" : "L"}${x} ${y}`).join("");

/** A wire in its own colour, cased in ink so that a white one is seen on paper and a black one by night. */
const WirePath = memo(function WirePath({ wire }: { readonly wire: Wire }) {
  const d = lineOf(wire.points);
  return (
    <>
      <path d={d} className="fill-none stroke-base-content" strokeWidth={0.78} />
      <path d={d} fill="none" stroke={wireColour(wire)} strokeWidth={0.5} />
    </>
  );
});

/** Name, what it is and how it stands: beside each other in a low box, below each other in a high one. */
function BoxWords({ box, what, says }: { readonly box: Box; readonly what: string; readonly says: string }) {
  const { kind, label, xMm, yMm, wMm, hMm } = box;
  const x = xMm + (kind === "board" ? 5 : 2);
  const isLow = hMm < 8;
  const room = Math.floor((wMm - (x - xMm) - (isLow ? 10 : 1)) / 1.32);
  return (
    <>
      <text x={x} y={yMm + (isLow ? hMm / 2 + 0.9 : 4)} fontSize={2.6} className="fill-base-content font-semibold">
        {shortened(label, room)}
      </text>
      {!isLow && what !== "" && (
        <text x={x} y={yMm + 7.4} fontSize={2.2} className="fill-base-content">
          {what}
        </text>
      )}
      <text
        x={isLow ? xMm + wMm - 2 : x}
        y={yMm + (isLow ? hMm / 2 + 0.8 : what === "" ? 7.4 : 10.6)}
        textAnchor={isLow ? "end" : "start"}
        fontSize={2.2}
        className="fill-base-content number"
      >
        {says}
      </text>
    </>
  );
}

interface BoxDrawingProps {
  readonly box: Box;
  /** What it is, in a few words; empty for what its name says. */
  readonly what: string;
  readonly says: string;
  readonly isChosen: boolean;
  readonly isWrong: boolean;
}

const BoxDrawing = memo(function BoxDrawing({ box, what, says, isChosen, isWrong }: BoxDrawingProps) {
  const { kind, id, label, xMm, yMm, wMm, hMm, pins } = box;
  const isRail = kind === "rail";
  const look = isWrong ? "stroke-error" : isChosen ? "stroke-primary" : "stroke-base-content";
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the sheet itself takes keys.
    <g className="cursor-pointer" data-thing={`${kind}:${id}`} onClick={() => choosePower({ kind, id })}>
      <rect
        x={xMm}
        y={yMm}
        width={wMm}
        height={hMm}
        rx={kind === "joint" ? hMm / 2 : 0.6}
        className={`${isRail ? "fill-base-300" : kind === "supply" ? "fill-base-300" : "fill-base-200"} ${look}`}
        strokeWidth={isChosen || isWrong ? 0.75 : 0.35}
        strokeDasharray={isWrong ? "1.6 0.8" : undefined}
      />
      {isRail ? (
        <text x={xMm + wMm} y={yMm - 1.3} textAnchor="end" fontSize={2.5} className="fill-base-content font-semibold">
          {label} <tspan className="number font-normal">{says}</tspan>
        </text>
      ) : (
        <BoxWords box={box} what={what} says={says} />
      )}
      {pins.map(({ yMm: y, number }) => (
        <g key={y}>
          <rect
            x={xMm}
            y={y - 1.3}
            width={4}
            height={2.6}
            className="fill-base-100 stroke-base-content"
            strokeWidth={0.25}
          />
          <text x={xMm + 2} y={y + 0.8} textAnchor="middle" fontSize={2.1} className="fill-base-content number">
            {number}
          </text>
        </g>
      ))}
    </g>
  );
});

const shortened = (text: string, most: number): string => (text.length <= most ? text : `${text.slice(0, most - 1)}…`);
