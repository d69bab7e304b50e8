import { changeStep, type Easing, type Routine, removeStep, type Step, shiftStep } from "@core/project";
import { timeUnitsS } from "@core/signal";
import { edit, useProject } from "@stores/document";
import { liveHead, useLive } from "@stores/live";
import { useCallback } from "react";
import { QuantityField } from "../parts/QuantityField";

/** The moves in order, each to be changed where it stands. The one that plays is marked. */
export function MoveList({ routine }: { readonly routine: Routine }) {
  const index = useProject((project) => project.routines.indexOf(routine));
  const current = useLive(
    useCallback(() => (liveHead("routineIndex") === index ? liveHead("moveIndex") : -1), [index]),
  );
  return (
    <table className="w-full">
      <thead className="sticky top-0 z-10 bg-base-200">
        <tr className="caption text-left">
          <th className="w-8 font-normal" />
          <th className="font-normal">Move to</th>
          <th className="w-28 font-normal">in</th>
          <th className="w-28 pl-2 font-normal">then hold</th>
          <th className="w-24 pl-2 font-normal">start and end</th>
          <th className="w-28" />
        </tr>
      </thead>
      <tbody>
        {routine.steps.map((step, at) => (
          <MoveRow key={step.id} routine={routine} step={step} at={at} isCurrent={at === current} />
        ))}
      </tbody>
    </table>
  );
}

interface MoveRowProps {
  readonly routine: Routine;
  readonly step: Step;
  readonly at: number;
  readonly isCurrent: boolean;
}

function MoveRow({ routine, step, at, isCurrent }: MoveRowProps) {
  const poses = useProject((project) => project.poses);
  const number = at + 1;
  const setTime = (field: "moveMs" | "holdMs") => (seconds: number) =>
    edit(changeStep(routine.id, step.id, { [field]: Math.round(seconds * 1000) }), { tell: false })?.problem ?? null;
  return (
    <tr className={isCurrent ? "bg-primary/15" : undefined} aria-current={isCurrent ? "step" : undefined}>
      <td className="number pr-1 text-right">{isCurrent ? "▸" : number}</td>
      <td className="py-0.5">
        <select
          className="select select-sm w-full bg-base-100"
          aria-label={`Pose of move ${number}`}
          value={step.poseId}
          onChange={(event) => edit(changeStep(routine.id, step.id, { poseId: event.target.value }))}
        >
          {poses.map((pose) => (
            <option key={pose.id} value={pose.id}>
              {pose.name}
            </option>
          ))}
        </select>
      </td>
      <td className="pl-2">
        <TimeField label={`Time of move ${number}`} ms={step.moveMs} onCommit={setTime("moveMs")} />
      </td>
      <td className="pl-2">
        <TimeField label={`Hold of move ${number}`} ms={step.holdMs} onCommit={setTime("holdMs")} />
      </td>
      <td className="pl-2">
        <select
          className="select select-sm w-full bg-base-100"
          aria-label={`Start and end of move ${number}`}
          value={step.easing}
          onChange={(event) => edit(changeStep(routine.id, step.id, { easing: event.target.value as Easing }))}
        >
          <option value="soft">soft</option>
          <option value="even">even</option>
        </select>
      </td>
      <td className="text-right whitespace-nowrap">
        <RowButton
          label={`Move ${number} up`}
          sign="↑"
          isOff={at === 0}
          run={() => edit(shiftStep(routine.id, step.id, -1))}
        />
        <RowButton
          label={`Move ${number} down`}
          sign="↓"
          isOff={at === routine.steps.length - 1}
          run={() => edit(shiftStep(routine.id, step.id, 1))}
        />
        <RowButton label={`Remove move ${number}`} sign="×" run={() => edit(removeStep(routine.id, step.id))} />
      </td>
    </tr>
  );
}

interface TimeFieldProps {
  readonly label: string;
  readonly ms: number;
  readonly onCommit: (seconds: number) => string | null;
}

const TimeField = ({ label, ms, onCommit }: TimeFieldProps) => (
  <QuantityField
    label={label}
    hidesLabel
    value={ms / 1000}
    unit="s"
    decimals={2}
    units={timeUnitsS}
    step={0.1}
    onCommit={onCommit}
  />
);

interface RowButtonProps {
  readonly label: string;
  readonly sign: string;
  readonly isOff?: boolean;
  readonly run: () => void;
}

const RowButton = ({ label, sign, isOff = false, run }: RowButtonProps) => (
  <button
    type="button"
    className="btn btn-ghost btn-xs btn-square text-base"
    aria-label={label}
    disabled={isOff}
    onClick={run}
  >
    {sign}
  </button>
);
