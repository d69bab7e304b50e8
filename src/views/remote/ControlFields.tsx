import type { Control } from "@core/controls";
import { isSwitch } from "@core/project";
import { useProject } from "@stores/document";
import { ChoiceField } from "../parts/ChoiceField";
import { NameField } from "../parts/NameField";
import { QuantityField } from "../parts/QuantityField";
import { movable } from "./newControl";

interface ControlFieldsProps {
  readonly control: Control;
  /** Takes the changed control; `what` names the change for undo. */
  readonly onChange: (what: string, control: Control) => void;
}

const spans = [1, 2, 3, 4] as const;

/** What can be set of a control: its name, what it works, how it lies, how large it is. */
export function ControlFields({ control, onChange }: ControlFieldsProps) {
  const { wide, high } = control.span;
  return (
    <div className="space-y-2 border-t border-base-300 p-2">
      <div className="grid grid-cols-[minmax(0,1fr)_5.5rem_5.5rem] gap-2">
        <div>
          <span className="caption mb-0.5 block">Name on the pad (empty: that of what it works)</span>
          <NameField
            label="Name on the pad"
            value={control.label}
            onCommit={(label) => onChange("name", { ...control, label: label.trim().slice(0, 40) })}
            className="w-full border-base-300! bg-base-100 py-0.5"
          />
        </div>
        <ChoiceField
          label="Wide"
          value={String(wide)}
          choices={spans.map((one) => [String(one), `${one} of 4`])}
          onChoose={(next) => onChange("width", { ...control, span: { wide: Number(next), high } })}
        />
        <ChoiceField
          label="High"
          value={String(high)}
          choices={spans.map((one) => [String(one), String(one)])}
          onChoose={(next) => onChange("height", { ...control, span: { wide, high: Number(next) } })}
        />
      </div>
      <Works control={control} onChange={onChange} />
      {"isHeldToMove" in control && (
        <label className="flex items-start gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm mt-0.5"
            checked={control.isHeldToMove}
            onChange={(event) => onChange("hold to move", { ...control, isHeldToMove: event.target.checked })}
          />
          <span>Hold to move: its joints stop where they are as soon as the thumb, or the network, is gone.</span>
        </label>
      )}
    </div>
  );
}

function Works({ control, onChange }: ControlFieldsProps) {
  const project = useProject((one) => one);
  const sources = movable(project.sources);
  const amounts = sources.filter((source) => !isSwitch(source)).map(({ id, label }) => [id, label] as const);
  const switches = sources.filter(isSwitch).map(({ id, label }) => [id, label] as const);
  switch (control.kind) {
    case "slider":
      return (
        <div className="grid grid-cols-2 gap-2">
          <ChoiceField
            label="Moves"
            value={control.sourceId}
            choices={amounts}
            onChoose={(sourceId) => onChange("source", { ...control, sourceId })}
          />
          <ChoiceField
            label="Its low end lies"
            value={control.lowAt}
            choices={[
              ["bottom", "at the bottom"],
              ["top", "at the top"],
              ["left", "at the left"],
              ["right", "at the right"],
            ]}
            onChoose={(lowAt) => onChange("low end", { ...control, lowAt })}
          />
        </div>
      );
    case "knob":
      return (
        <ChoiceField
          label="Moves"
          value={control.sourceId}
          choices={amounts}
          onChoose={(sourceId) => onChange("source", { ...control, sourceId })}
        />
      );
    case "stick":
      return (
        <div className="grid grid-cols-3 items-end gap-2">
          <ChoiceField
            label="Across moves"
            value={control.acrossId}
            choices={amounts}
            onChoose={(acrossId) => onChange("source", { ...control, acrossId })}
          />
          <ChoiceField
            label="Up moves"
            value={control.upId}
            choices={amounts}
            onChoose={(upId) => onChange("source", { ...control, upId })}
          />
          <ChoiceField
            label="When it is let go"
            value={control.springs ? "springs" : "stays"}
            choices={[
              ["springs", "it springs to the middle"],
              ["stays", "it stays"],
            ]}
            onChoose={(how) => onChange("spring", { ...control, springs: how === "springs" })}
          />
        </div>
      );
    case "button":
      return (
        <div className="grid grid-cols-2 gap-2">
          <ChoiceField
            label="Switches"
            value={control.sourceId}
            choices={switches}
            onChoose={(sourceId) => onChange("source", { ...control, sourceId })}
          />
          <ChoiceField
            label="It is on"
            value={control.how}
            choices={[
              ["press", "for a moment"],
              ["hold", "while it is held"],
              ["toggle", "until it is touched again"],
            ]}
            onChoose={(how) => onChange("how it switches", { ...control, how })}
          />
        </div>
      );
    case "places":
      return <PlaceFields control={control} amounts={amounts} onChange={onChange} />;
    case "grip":
      return (
        <ChoiceField
          label="Holds and releases"
          value={control.jointId}
          choices={project.joints.map(({ id, label }) => [id, label])}
          onChoose={(jointId) => onChange("joint", { ...control, jointId })}
        />
      );
    case "pose":
      return (
        <div className="grid grid-cols-2 gap-2">
          <ChoiceField
            label="Goes to"
            value={control.poseId}
            choices={project.poses.map(({ id, name }) => [id, name])}
            onChoose={(poseId) => onChange("pose", { ...control, poseId })}
          />
          <QuantityField
            label="Within"
            value={control.moveMs / 1000}
            unit="s"
            decimals={1}
            units={{ s: 1, ms: 0.001 }}
            onCommit={(seconds) => {
              if (!(seconds >= 0 && seconds <= 600)) return "A move takes 0 to 600 s.";
              onChange("time", { ...control, moveMs: seconds * 1000 });
              return null;
            }}
          />
        </div>
      );
    case "routine":
      return (
        <ChoiceField
          label="Plays"
          value={control.routineId}
          choices={project.routines.map(({ id, name }) => [id, name])}
          onChoose={(routineId) => onChange("routine", { ...control, routineId })}
        />
      );
    case "stop":
      return null;
    default:
      return control satisfies never;
  }
}

interface PlaceFieldsProps extends ControlFieldsProps {
  readonly control: Extract<Control, { kind: "places" }>;
  readonly amounts: readonly (readonly [string, string])[];
}

function PlaceFields({ control, amounts, onChange }: PlaceFieldsProps) {
  const { places } = control;
  const set = (next: typeof places) => onChange("places", { ...control, places: [...next] });
  return (
    <div className="space-y-2">
      <ChoiceField
        label="Moves"
        value={control.sourceId}
        choices={amounts}
        onChoose={(sourceId) => onChange("source", { ...control, sourceId })}
      />
      <ul className="space-y-1" aria-label="Places">
        {places.map((place, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a place is its place in the row.
          <li key={at} className="flex items-center gap-2">
            <NameField
              label={`Name of place ${at + 1}`}
              value={place.label}
              onCommit={(label) => set(places.with(at, { ...place, label: label.trim().slice(0, 16) }))}
              className="w-28 border-base-300! bg-base-100 py-0.5"
            />
            <QuantityField
              label={`Place ${at + 1}`}
              hidesLabel
              value={place.share * 100}
              unit="%"
              decimals={1}
              className="w-28"
              onCommit={(percent) => {
                if (!(percent >= 0 && percent <= 100)) return "A place lies at 0 to 100 %.";
                set(places.with(at, { ...place, share: percent / 100 }));
                return null;
              }}
            />
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              disabled={places.length <= 2}
              onClick={() => set(places.toSpliced(at, 1))}
            >
              remove
            </button>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn btn-outline btn-xs"
        disabled={places.length >= 8}
        onClick={() => set([...places, { label: String(places.length + 1), share: 1 }])}
      >
        one more place
      </button>
    </div>
  );
}
