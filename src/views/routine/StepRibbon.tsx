import type { Finding } from "@core/feasible";
import { changeStep, insertSteps, placeSteps, type Routine, removeSteps } from "@core/project";
import type { Score, Span } from "@core/routine";
import { lengthened, type Step, stepWords } from "@core/steps";
import { edit, newId } from "@stores/document";
import { chooseStep, scoreView, snapped, useScoreView } from "@stores/scoreView";
import type { KeyboardEvent } from "react";
import { useDrag } from "../parts/useDrag";
import { endOf, gutterPx, type TimeScale, xOf } from "./timeScale";
import { useNames } from "./useNames";

interface StepRibbonProps {
  readonly routine: Routine;
  readonly score: Score;
  readonly scale: TimeScale;
  readonly findings: readonly Finding[];
}

/** The steps to scale: hatched while they move, a plate while they hold. Edges are dragged for time, the steps themselves for order. */
export function StepRibbon({ routine, score, scale, findings }: StepRibbonProps) {
  const names = useNames();
  const stepIds = useScoreView((view) => view.stepIds);
  const shown = score.spans.filter((span) => span.toMs >= scale.fromMs && span.fromMs <= endOf(scale));
  const wrong = new Set(findings.map((finding) => finding.stepId));
  const order = routine.steps.map((step) => step.id);
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => ribbonKey(event, routine, order);
  return (
    <div className="flex h-12 shrink-0 border-b border-base-300">
      <div className="caption shrink-0 self-center truncate pl-2" style={{ width: gutterPx }}>
        steps
      </div>
      {/* biome-ignore lint/a11y/useSemanticElements: a row of steps that lie on time, not a list to tick. */}
      <div
        className="relative grow overflow-hidden"
        role="group"
        aria-label="Steps over time"
        onKeyDown={onKeyDown}
        data-ribbon
      >
        {shown.length > mostBlocks && <Crowd spans={shown} scale={scale} />}
        {(shown.length > mostBlocks ? noSpans : shown).map((span) => (
          <StepBlock
            key={span.step.id}
            span={span}
            name={stepWords(span.step, names)}
            routine={routine}
            score={score}
            scale={scale}
            isChosen={stepIds.includes(span.step.id)}
            isWrong={wrong.has(span.step.id)}
            order={order}
          />
        ))}
      </div>
    </div>
  );
}

/** More steps than this in view cannot be taken hold of one by one. */
const mostBlocks = 300;
const noSpans: readonly Span[] = [];

/** Very many steps at once: where they begin, and how to get at them. */
function Crowd({ spans, scale }: { readonly spans: readonly Span[]; readonly scale: TimeScale }) {
  const places = new Set(spans.map((span) => Math.round(xOf(scale, span.fromMs))));
  return (
    <svg width={scale.widthPx} height={47} className="block" aria-hidden="true">
      <path d={[...places].map((x) => `M${x} 18V47`).join("")} className="stroke-primary" strokeWidth={0.6} />
      <text x={6} y={12} className="fill-base-content text-[11px]">
        {spans.length} steps in view: zoom in to take hold of one, or choose it in the list
      </text>
    </svg>
  );
}

interface StepBlockProps {
  readonly span: Span;
  readonly name: string;
  readonly routine: Routine;
  readonly score: Score;
  readonly scale: TimeScale;
  readonly isChosen: boolean;
  readonly isWrong: boolean;
  readonly order: readonly string[];
}

function StepBlock({ span, name, routine, score, scale, isChosen, isWrong, order }: StepBlockProps) {
  const { step, fromMs, arriveMs, toMs } = span;
  const left = xOf(scale, fromMs);
  const width = Math.max((toMs - fromMs) / scale.msPerPx, 3);
  const number = order.indexOf(step.id) + 1;
  const drag = useDrag<true, HTMLButtonElement>({
    begin(event) {
      const isKept = isChosen && !event.shiftKey && !event.ctrlKey && !event.metaKey;
      if (!isKept)
        chooseStep(step.id, event.shiftKey ? "range" : event.ctrlKey || event.metaKey ? "toggle" : "alone", order);
      return true;
    },
    move(_, event, way) {
      event.currentTarget.style.translate = `${way.x}px`;
    },
    end(_, event, way, hasMoved) {
      event.currentTarget.style.translate = "";
      if (!hasMoved) return;
      const dropMs = (fromMs + toMs) / 2 + way.x * scale.msPerPx;
      const before = score.spans.findIndex((one) => (one.fromMs + one.toMs) / 2 > dropMs);
      edit(placeSteps(routine.id, new Set(scoreView.getState().stepIds), before < 0 ? order.length : before));
    },
    cancel(_, event) {
      event.currentTarget.style.translate = "";
    },
    leastPx: 6,
  });
  return (
    <div className="absolute inset-y-0" style={{ left, width }}>
      <button
        type="button"
        data-step={step.id}
        aria-pressed={isChosen}
        aria-label={`Step ${number}: ${name}`}
        title={name}
        className={`absolute inset-0 flex cursor-grab flex-col overflow-hidden border-l text-left focus-visible:-outline-offset-2 ${isChosen ? "z-10 border-l-2 border-primary" : "border-base-content/40"}`}
        {...drag}
      >
        <span className={`truncate px-1 text-[0.72rem] leading-4 ${isChosen ? "font-bold" : ""}`}>
          {isWrong && <span className="text-error">▲ </span>}
          {name}
        </span>
        <span className={`flex w-full grow items-stretch ${isChosen ? "" : "opacity-75"}`} aria-hidden="true">
          <span
            className={`border-y border-primary ${step.kind === "routine" ? "bg-secondary/25" : "bg-[repeating-linear-gradient(120deg,transparent_0_5px,var(--color-primary)_5px_6px)]"}`}
            style={{ width: (arriveMs - fromMs) / scale.msPerPx }}
          />
          <span className="grow border-y border-primary bg-primary/35" />
        </span>
      </button>
      {isChosen && <Edges routine={routine} span={span} scale={scale} />}
    </div>
  );
}

/** The two edges of a chosen step that can be dragged: where it arrives, and where its hold ends. */
function Edges({ routine, span, scale }: Pick<StepBlockProps, "routine" | "span" | "scale">) {
  const { step, fromMs, arriveMs, toMs } = span;
  if (step.kind !== "move" && step.kind !== "hold") return null;
  const setHold = (holdMs: number) =>
    edit(changeStep(routine.id, step.id, "hold", (one) => ("holdMs" in one ? { ...one, holdMs } : one)));
  return (
    <>
      {step.kind === "move" && (
        <Edge
          label="Arrives"
          x={(arriveMs - fromMs) / scale.msPerPx}
          onDrag={(ms, isFree) => {
            const lateMs = arriveMs - fromMs - (step.pace.kind === "time" ? step.pace.moveMs : arriveMs - fromMs);
            const moveMs = Math.max(0, snapped(ms, scale.msPerPx, isFree) - fromMs - lateMs);
            edit(
              changeStep(routine.id, step.id, "time", (one) =>
                one.kind === "move" ? { ...one, pace: { kind: "time", moveMs } } : one,
              ),
            );
          }}
          fromMs={arriveMs}
          scale={scale}
        />
      )}
      <Edge
        label="Ends"
        x={(toMs - fromMs) / scale.msPerPx}
        onDrag={(ms, isFree) =>
          setHold(Math.max(0, snapped(ms, scale.msPerPx, isFree) - (step.kind === "hold" ? fromMs : arriveMs)))
        }
        fromMs={toMs}
        scale={scale}
      />
    </>
  );
}

interface EdgeProps {
  readonly label: string;
  readonly x: number;
  readonly fromMs: number;
  readonly scale: TimeScale;
  readonly onDrag: (ms: number, isFree: boolean) => void;
}

function Edge({ label, x, fromMs, scale, onDrag }: EdgeProps) {
  const drag = useDrag({
    begin: () => fromMs,
    move: (startMs, event, way) => onDrag(startMs + way.x * scale.msPerPx, event.altKey),
  });
  return (
    <span
      className="absolute inset-y-0 z-20 w-2 -translate-x-1/2 cursor-ew-resize touch-none border-x-2 border-primary bg-base-100/70"
      style={{ left: x }}
      title={`${label}: drag`}
      {...drag}
    />
  );
}

/** Keys on the ribbon: walk, put elsewhere, lengthen, copy, cut, paste, double, delete. */
function ribbonKey(event: KeyboardEvent<HTMLElement>, routine: Routine, order: readonly string[]): void {
  const { stepIds } = scoreView.getState();
  const chosen = routine.steps.filter((step) => stepIds.includes(step.id));
  const at = order.indexOf(stepIds.at(-1) ?? "");
  const isCtrl = event.ctrlKey || event.metaKey;
  const way = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
  const key = event.key.toLowerCase();
  if (way !== 0 && event.altKey) {
    const first = order.indexOf(chosen[0]?.id ?? "");
    const last = order.indexOf(chosen.at(-1)?.id ?? "");
    edit(placeSteps(routine.id, new Set(stepIds), way > 0 ? last + 2 : Math.max(0, first - 1)));
  } else if (way !== 0) {
    const next = order[Math.max(0, Math.min(order.length - 1, at + way))];
    if (!next) return;
    chooseStep(next, event.shiftKey ? "range" : "alone", order);
    event.currentTarget.querySelector<HTMLElement>(`[data-step="${next}"]`)?.focus();
  } else if ((event.key === "ArrowUp" || event.key === "ArrowDown") && chosen.length > 0) {
    const by = (event.key === "ArrowUp" ? 1 : -1) * (event.shiftKey ? 500 : 50);
    for (const step of chosen) lengthen(routine.id, step, by);
  } else if (event.key === "Delete" || event.key === "Backspace") edit(removeSteps(routine.id, new Set(stepIds)));
  else if (isCtrl && (key === "c" || key === "x")) {
    scoreView.setState({ copied: { kind: "steps", steps: chosen } });
    if (key === "x") edit(removeSteps(routine.id, new Set(stepIds)));
  } else if (isCtrl && key === "v") pasteSteps(routine, at < 0 ? order.length : at + 1);
  else if (isCtrl && key === "d") addCopies(routine, chosen, at + 1, "Double steps");
  else if (isCtrl && key === "a") scoreView.setState({ stepIds: order });
  else return;
  event.preventDefault();
}

const lengthen = (routineId: string, step: Step, byMs: number) =>
  edit(changeStep(routineId, step.id, "time", (one) => lengthened(one, byMs)));

/** Pastes steps that were copied before a place in the routine. */
export function pasteSteps(routine: Routine, at: number): void {
  const { copied } = scoreView.getState();
  if (copied?.kind === "steps") addCopies(routine, copied.steps, at, "Paste steps");
}

function addCopies(routine: Routine, steps: readonly Step[], at: number, name: string): void {
  const copies = steps.map((step) => ({ ...step, id: newId() }));
  if (copies.length > 0 && edit(insertSteps(routine.id, copies, at, name)))
    scoreView.setState({ stepIds: copies.map((step) => step.id) });
}
