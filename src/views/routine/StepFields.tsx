import { byId, changeStep, isSwitch, type Routine } from "@core/project";
import { timeUnitsS } from "@core/signal";
import type { Step, StepKind, StepOf } from "@core/steps";
import { edit, editForField, useProject } from "@stores/document";
import type { ComponentType } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";
import { TextField } from "../parts/TextField";
import { EasingField } from "./EasingField";
import { WayFields } from "./WayFields";

interface FieldsProps<Kind extends StepKind = StepKind> {
  readonly routine: Routine;
  readonly step: StepOf<Kind>;
  readonly number: number;
}

/** The numbers of one step. */
export function StepFields(props: FieldsProps) {
  const Fields = fields[props.step.kind] as ComponentType<FieldsProps>;
  return <Fields {...props} />;
}

/** What can be set of each kind of step; the compiler misses any that is left out. */
const fields: { readonly [Kind in StepKind]: ComponentType<FieldsProps<Kind>> } = {
  move: MoveFields,
  hold: ({ routine, step, number }) => (
    <TimeField
      label={`Length of step ${number}`}
      ms={step.holdMs}
      onCommit={(holdMs) => change(routine, "hold", { ...step, holdMs })}
    />
  ),
  wait: WaitFields,
  routine: RoutineFields,
  label: LabelFields,
  cue: ({ routine, step, number }) => (
    <TextField
      label={`Cue of step ${number}`}
      value={step.name}
      maxLength={40}
      onCommit={(name) => change(routine, "cue", { ...step, name })}
    />
  ),
};

/** Changes a step; gives a sentence where that cannot be. */
const change = (routine: Routine, what: string, next: Step): string | null =>
  editForField(changeStep(routine.id, next.id, what, () => next));

function LabelFields({ routine, step }: FieldsProps<"label">) {
  return (
    <label className="block">
      <span className="caption mb-0.5 block">What stands there</span>
      <input
        key={step.text}
        className="input input-sm w-full bg-base-100"
        defaultValue={step.text}
        onBlur={(event) =>
          event.target.value.trim() && change(routine, "label", { ...step, text: event.target.value.trim() })
        }
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
    </label>
  );
}

function RoutineFields({ routine, step }: FieldsProps<"routine">) {
  const routines = useProject((project) => project.routines);
  return (
    <div className="grid grid-cols-2 gap-2">
      <ChoiceField
        label="Plays"
        value={step.routineId}
        choices={routines.filter((one) => one.id !== routine.id).map((one) => [one.id, one.name] as const)}
        onChoose={(routineId) => edit(changeStep(routine.id, step.id, "routine", () => ({ ...step, routineId })))}
      />
      <QuantityField
        label="Times"
        value={step.times}
        unit=""
        decimals={0}
        step={1}
        onCommit={(times) => change(routine, "times", { ...step, times })}
      />
    </div>
  );
}

function MoveFields({ routine, step, number }: FieldsProps<"move">) {
  const project = useProject((current) => current);
  const pose = byId(project.poses, step.poseId);
  const joints = project.joints.filter((joint) => pose.targets[joint.id] !== undefined);
  const { pace } = step;
  return (
    <section className="shrink-0" aria-label={`Step ${number}`}>
      <div className="grid grid-cols-2 gap-x-2 gap-y-1">
        <ChoiceField
          label={`Pose of step ${number}`}
          value={step.poseId}
          choices={project.poses.map((one) => [one.id, one.name] as const)}
          onChoose={(poseId) => change(routine, "pose", { ...step, poseId })}
        />
        <EasingField
          easing={step.easing}
          number={number}
          onEasing={(easing) => change(routine, "easing", { ...step, easing })}
        />
        <ChoiceField
          label="Its length comes from"
          value={pace.kind}
          choices={[
            ["time", "a time"],
            ["speed", "a mean speed"],
          ]}
          onChoose={(kind) =>
            change(routine, "pace", {
              ...step,
              pace: kind === "time" ? { kind, moveMs: 1000 } : { kind, degPerS: 60 },
            })
          }
        />
        {pace.kind === "time" ? (
          <TimeField
            label={`Time of step ${number}`}
            ms={pace.moveMs}
            onCommit={(moveMs) => change(routine, "time", { ...step, pace: { kind: "time", moveMs } })}
          />
        ) : (
          <QuantityField
            label={`Speed of step ${number}`}
            value={pace.degPerS}
            unit="°/s"
            decimals={1}
            step={5}
            onCommit={(degPerS) => change(routine, "speed", { ...step, pace: { kind: "speed", degPerS } })}
          />
        )}
        <TimeField
          label={`Hold of step ${number}`}
          ms={step.holdMs}
          onCommit={(holdMs) => change(routine, "hold", { ...step, holdMs })}
        />
        <TimeField
          label="One after another, by"
          ms={step.staggerMs}
          onCommit={(staggerMs) => change(routine, "stagger", { ...step, staggerMs })}
        />
      </div>
      <WayFields project={project} routine={routine} step={step} />
      <details className="mt-1">
        <summary className="caption cursor-pointer">
          Delays of single joints{Object.values(step.delaysMs).some((ms) => ms > 0) ? " (set)" : ""}
        </summary>
        <div className="mt-1 grid grid-cols-2 gap-2">
          {joints.map((joint) => (
            <TimeField
              key={joint.id}
              label={`${joint.label} waits`}
              ms={step.delaysMs[joint.id] ?? 0}
              onCommit={(ms) => {
                const { [joint.id]: _, ...others } = step.delaysMs;
                return change(routine, "delay", { ...step, delaysMs: ms > 0 ? { ...others, [joint.id]: ms } : others });
              }}
            />
          ))}
        </div>
      </details>
    </section>
  );
}

function WaitFields({ routine, step, number }: FieldsProps<"wait">) {
  const sources = useProject((project) => project.sources);
  const source = sources.find((one) => one.id === step.sourceId);
  const isButton = source !== undefined && isSwitch(source);
  return (
    <section className="grid grid-cols-2 gap-2" aria-label={`Step ${number}`}>
      <ChoiceField
        label="Waits until"
        value={step.sourceId}
        choices={sources.map((one) => [one.id, one.label] as const)}
        onChoose={(sourceId) => {
          const range = sources.find((one) => one.id === sourceId)?.range;
          change(routine, "wait", { ...step, sourceId, level: range ? (range.low + range.high) / 2 : step.level });
        }}
      />
      <ChoiceField
        label="is"
        value={step.side}
        choices={
          isButton
            ? [
                ["above", "pressed"],
                ["below", "let go"],
              ]
            : [
                ["above", "above"],
                ["below", "below"],
              ]
        }
        onChoose={(side) => change(routine, "wait", { ...step, side })}
      />
      {!isButton && (
        <QuantityField
          label="this"
          value={step.level}
          unit=""
          decimals={1}
          onCommit={(level) => change(routine, "level", { ...step, level })}
        />
      )}
      <ChoiceField
        label="It waits at most"
        value={step.timeoutMs === null ? "ever" : "some"}
        choices={[
          ["some", "for a time"],
          ["ever", "for ever"],
        ]}
        onChoose={(how) => change(routine, "time-out", { ...step, timeoutMs: how === "ever" ? null : 10_000 })}
      />
      {step.timeoutMs !== null && (
        <>
          <TimeField
            label={`Time-out of step ${number}`}
            ms={step.timeoutMs}
            onCommit={(timeoutMs) => change(routine, "time-out", { ...step, timeoutMs })}
          />
          <ChoiceField
            label="and then"
            value={step.ifTimeout}
            choices={[
              ["goOn", "it goes on"],
              ["stop", "it stops"],
            ]}
            onChoose={(ifTimeout) => change(routine, "time-out", { ...step, ifTimeout })}
          />
        </>
      )}
    </section>
  );
}

interface TimeFieldProps {
  readonly label: string;
  readonly ms: number;
  readonly onCommit: (ms: number) => string | null;
}

/** A span of time of a routine, in seconds. */
export const TimeField = ({ label, ms, onCommit }: TimeFieldProps) => (
  <QuantityField
    label={label}
    value={ms / 1000}
    unit="s"
    decimals={2}
    units={timeUnitsS}
    step={0.1}
    onCommit={(seconds) =>
      seconds >= 0 && seconds <= 3600 ? onCommit(Math.round(seconds * 1000)) : "From 0 s to one hour."
    }
    className="min-w-0"
  />
);
