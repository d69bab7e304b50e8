import { insertSteps, placeSteps, type Routine, removeSteps } from "@core/project";
import { type Score, stepAt } from "@core/routine";
import { lengthWords, newStep, type Step, type StepKind, stepNames, stepWords } from "@core/steps";
import { edit, newId, projectNow, useProject } from "@stores/document";
import { liveHead, useLive } from "@stores/live";
import { notify } from "@stores/notices";
import { chooseStep, useScoreView } from "@stores/scoreView";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useEffect, useRef } from "react";
import { StepFields } from "./StepFields";
import { pasteSteps } from "./StepRibbon";
import { useNames } from "./useNames";

interface StepListProps {
  readonly routine: Routine;
  readonly score: Score;
}

/** Kinds of step besides the usual one, which has a button of its own. */
const otherSteps = (Object.entries(stepNames) as [StepKind, string][]).filter(([kind]) => kind !== "move");

/** The height of a line, in px. */
const rowPx = 27;

/** The steps in order, each to be changed where it stands. The one that plays is marked. */
export function StepList({ routine, score }: StepListProps) {
  const project = useProject((current) => current);
  const names = useNames();
  const stepIds = useScoreView((view) => view.stepIds);
  const copied = useScoreView((view) => view.copied);
  const index = project.routines.indexOf(routine);
  const current = useLive(
    useCallback(() => (liveHead("routineIndex") === index ? stepAt(score, liveHead("scoreMs")) : -1), [index, score]),
  );
  const order = routine.steps.map((step) => step.id);
  const chosen = routine.steps.find((step) => step.id === stepIds.at(-1));
  const list = useRef<HTMLDivElement>(null);
  // A routine of an hour has thousands of steps: only those in view are drawn.
  const rows = useVirtualizer({
    count: routine.steps.length,
    getScrollElement: () => list.current,
    estimateSize: () => rowPx,
    overscan: 8,
  });
  const chosenAt = chosen ? order.indexOf(chosen.id) : -1;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is chosen comes into view once, when it is chosen.
  useEffect(() => {
    if (chosenAt >= 0) rows.scrollToIndex(chosenAt);
  }, [chosenAt]);
  const at = chosen ? order.indexOf(chosen.id) + 1 : order.length;
  return (
    <div className="flex min-h-0 grow flex-col gap-2">
      <div className="flex flex-wrap items-center gap-1.5">
        <button type="button" className="btn btn-xs btn-primary" onClick={() => addStep(routine, "move", at)}>
          Add a move
        </button>
        <select
          className="select select-xs w-28 bg-base-100"
          aria-label="Add another step"
          value=""
          onChange={(event) => addStep(routine, event.target.value as StepKind, at)}
        >
          <option value="" disabled>
            or add…
          </option>
          {otherSteps.map(([kind, name]) => (
            <option key={kind} value={kind}>
              {name}
            </option>
          ))}
        </select>
        {copied?.kind === "steps" && (
          <button type="button" className="btn btn-xs btn-ghost" onClick={() => pasteSteps(routine, at)}>
            Paste {copied.steps.length}
          </button>
        )}
      </div>
      <div ref={list} className="min-h-16 shrink grow overflow-y-auto shows-more border-y border-base-300">
        {routine.steps.length === 0 && (
          <p className="caption p-2">
            {project.poses.length === 0
              ? "There are no poses to move to yet. Capture some at the station Poses."
              : "No steps yet. A move goes to your newest pose, and you can choose another."}
          </p>
        )}
        <ol className="relative" aria-label="Steps" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index: place, start }) => {
            const step = routine.steps[place] as Step;
            return (
              <StepLine
                key={step.id}
                routine={routine}
                step={step}
                place={place}
                top={start}
                name={stepWords(step, names)}
                isCurrent={place === current}
                isChosen={stepIds.includes(step.id)}
                onChoose={(how) => chooseStep(step.id, how, order)}
              />
            );
          })}
        </ol>
      </div>
      {chosen && stepIds.length === 1 && (
        <StepFields key={chosen.id} routine={routine} step={chosen} number={order.indexOf(chosen.id) + 1} />
      )}
      {stepIds.length > 1 && (
        <p className="caption">
          {stepIds.length} steps are chosen: drag them, Ctrl C and Ctrl V, Delete, or ↑ ↓ for their time.
        </p>
      )}
    </div>
  );
}

interface StepLineProps {
  readonly routine: Routine;
  readonly step: Step;
  readonly place: number;
  /** Where its line stands in the list, in px. */
  readonly top: number;
  readonly name: string;
  readonly isCurrent: boolean;
  readonly isChosen: boolean;
  readonly onChoose: (how: "alone" | "toggle" | "range") => void;
}

function StepLine({ routine, step, place, top, name, isCurrent, isChosen, onChoose }: StepLineProps) {
  const number = place + 1;
  const put = (to: number) => edit(placeSteps(routine.id, new Set([step.id]), to));
  return (
    <li
      style={{ top, height: rowPx }}
      className={`absolute inset-x-0 flex items-center gap-1 ${isChosen ? "bg-primary/15" : ""} ${isCurrent ? "shadow-[inset_4px_0_0_var(--color-error)]" : ""}`}
      aria-current={isCurrent ? "step" : undefined}
    >
      <button
        type="button"
        className="flex min-w-0 grow cursor-pointer items-baseline gap-1.5 py-0.5 pl-2 text-left"
        onClick={(event) => onChoose(event.shiftKey ? "range" : event.ctrlKey || event.metaKey ? "toggle" : "alone")}
      >
        <span className="number w-5 shrink-0 text-right text-xs">{isCurrent ? "▸" : number}</span>
        <span className="truncate">{name}</span>
        <span className="caption ml-auto shrink-0">{lengthWords(step)}</span>
      </button>
      <LineButton label={`Step ${number} up`} sign="↑" isOff={place === 0} run={() => put(place - 1)} />
      <LineButton
        label={`Step ${number} down`}
        sign="↓"
        isOff={place === routine.steps.length - 1}
        run={() => put(place + 2)}
      />
      <LineButton
        label={`Remove step ${number}`}
        sign="×"
        run={() => edit(removeSteps(routine.id, new Set([step.id])))}
      />
    </li>
  );
}

interface LineButtonProps {
  readonly label: string;
  readonly sign: string;
  readonly isOff?: boolean;
  readonly run: () => void;
}

const LineButton = ({ label, sign, isOff = false, run }: LineButtonProps) => (
  <button
    type="button"
    className="btn btn-ghost btn-xs btn-square h-5 min-h-0 w-5 text-sm"
    aria-label={label}
    disabled={isOff}
    onClick={run}
  >
    {sign}
  </button>
);

/** Adds a step of a kind before a place, with what is nearest at hand, and chooses it. */
function addStep(routine: Routine, kind: StepKind, at: number): void {
  const { poses, sources, routines } = projectNow();
  const id = newId();
  const step = newStep(kind, id, { poses, sources, routines: routines.filter((one) => one.id !== routine.id) });
  if (!step.ok) {
    notify(step.problem, "warning");
    return;
  }
  if (edit(insertSteps(routine.id, [step.value], at, `Add ${stepNames[kind].replace(/^an? /, "")}`)))
    chooseStep(id, "alone", [id]);
}
