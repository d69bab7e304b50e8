import { type Origin, type OriginKind, type OriginOf, originWords } from "@core/origins";
import { editSource, type Source } from "@core/project";
import { editForField, useProject } from "@stores/document";
import { learnOrigin } from "@stores/windowInputs";
import { type ComponentType, useCallback, useEffect, useState } from "react";
import { keyedActions } from "../frame/actions";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";
import { ShareField } from "../parts/ShareField";
import { CueFields, HandsetFields, MqttFields, OscFields, SacnFields } from "./AfarFields";

interface FieldsProps<Of extends Origin> {
  readonly origin: Of;
  /** Takes the changed origin; gives a sentence where it cannot be. */
  readonly onOrigin: (origin: Origin) => string | null;
}

type Fields<Kind extends OriginKind> = FieldsProps<OriginOf<Kind>>;

/** The settings that only one kind of source has. */
export function OriginFields({ source }: { readonly source: Source }) {
  const Fields = fields[source.origin.kind] as ComponentType<FieldsProps<Origin>> | null;
  const set = useCallback(
    (next: Origin) => editForField(editSource(source.id, "kind", (one) => ({ ...one, origin: next }))),
    [source.id],
  );
  return Fields && <Fields origin={source.origin} onOrigin={set} />;
}

/** What can be set of each kind; null for one that is what it is. The compiler misses any that is left out. */
const fields: { readonly [Kind in OriginKind]: ComponentType<Fields<Kind>> | null } = {
  knob: null,
  slider: ({ origin, onOrigin }) => (
    <ChoiceField
      label="Its low end lies"
      value={origin.lowAt}
      choices={[
        ["bottom", "at the bottom"],
        ["top", "at the top"],
        ["left", "at the left"],
        ["right", "at the right"],
      ]}
      onChoose={(lowAt) => onOrigin({ ...origin, lowAt })}
    />
  ),
  stick: null,
  encoder: ({ origin, onOrigin }) => (
    <QuantityField
      label="Detents in a turn"
      value={origin.detentsPerTurn}
      unit=""
      decimals={0}
      onCommit={(detentsPerTurn) => onOrigin({ ...origin, detentsPerTurn })}
    />
  ),
  button: null,
  toggle: null,
  keypad: null,
  key: LearnOrigin,
  gamepad: LearnOrigin,
  midi: LearnOrigin,
  line: LineFields,
  mqtt: MqttFields,
  osc: OscFields,
  sacn: SacnFields,
  cue: CueFields,
  handset: HandsetFields,
  sensor: SensorFields,
  wave: WaveFields,
};

const anyBoard = "";

function LineFields({ origin, onOrigin }: Fields<"line">) {
  const boards = useProject((project) => project.boards);
  return (
    <div className="grid grid-cols-2 gap-3">
      <label className="block">
        <span className="caption mb-0.5 block">Name in the line “name=value”</span>
        <input
          className="input input-sm w-full bg-base-100"
          defaultValue={origin.name}
          maxLength={40}
          onBlur={(event) => onOrigin({ ...origin, name: event.target.value.trim() })}
        />
      </label>
      <ChoiceField
        label="It comes from"
        value={origin.boardId ?? anyBoard}
        choices={[[anyBoard, "any board"], ...boards.map((board) => [board.id, board.label] as const)]}
        onChoose={(id) => onOrigin({ ...origin, boardId: id === anyBoard ? null : id })}
      />
    </div>
  );
}

function SensorFields({ origin, onOrigin }: Fields<"sensor">) {
  return (
    <div className="grid grid-cols-3 gap-3">
      <ChoiceField
        label="Senses"
        value={origin.sense}
        choices={(["light", "temperature", "flex", "distance"] as const).map((one) => [one, one])}
        onChoose={(sense) => onOrigin({ ...origin, sense })}
      />
      <ShareField
        label="Noise"
        share={origin.noise}
        high={0.5}
        decimals={1}
        onCommit={(noise) => onOrigin({ ...origin, noise })}
      />
      <ShareField
        label="Drift in a minute"
        share={origin.driftPerMin}
        low={-1}
        decimals={1}
        onCommit={(driftPerMin) => onOrigin({ ...origin, driftPerMin })}
      />
    </div>
  );
}

function WaveFields({ origin, onOrigin }: Fields<"wave">) {
  return (
    <div className="grid grid-cols-4 gap-3">
      <ChoiceField
        label="Shape"
        value={origin.shape}
        choices={(["sine", "triangle", "square", "steps", "noise"] as const).map((one) => [one, one])}
        onChoose={(shape) => onOrigin({ ...origin, shape })}
      />
      <QuantityField
        label="Rate"
        value={origin.rateHz}
        unit="Hz"
        decimals={2}
        onCommit={(rateHz) => onOrigin({ ...origin, rateHz })}
      />
      <ShareField label="Depth" share={origin.depth} onCommit={(depth) => onOrigin({ ...origin, depth })} />
      <QuantityField
        label="Phase"
        value={origin.phaseDeg}
        unit="°"
        decimals={0}
        onCommit={(phaseDeg) => onOrigin({ ...origin, phaseDeg })}
      />
    </div>
  );
}

/** What the bench does at a key by itself, or null: a key cannot serve two. */
function benchKeyOf(code: string): string | null {
  const key = code.replace(/^Key|^Digit/, "");
  const places: Readonly<Record<string, string>> = { Comma: ",", Period: "." };
  const action = keyedActions.find((one) => one.keys?.includes(places[key] ?? key));
  return action?.name ?? null;
}

/** Binds a source to the next thing of its kind that is pressed or moved. */
function LearnOrigin({ origin, onOrigin }: Fields<"key" | "gamepad" | "midi">) {
  const [isLearning, setIsLearning] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    if (!isLearning) return;
    return learnOrigin((heard) => {
      setIsLearning(false);
      const used = heard.kind === "key" ? benchKeyOf(heard.code) : null;
      if (used) {
        setTrouble(`The bench itself uses that key: ${used}. Press another.`);
        return;
      }
      setTrouble(heard.kind === origin.kind ? onOrigin(heard) : `That was ${originWords(heard)}, not of this kind.`);
    });
  }, [isLearning, origin.kind, onOrigin]);
  return (
    <div>
      <button type="button" className="btn btn-outline btn-sm" onClick={() => setIsLearning(true)}>
        {isLearning ? "press or move one now…" : `${originWords(origin)}: learn another`}
      </button>
      {trouble && (
        <p role="alert" className="mt-1 text-sm text-error">
          {trouble}
        </p>
      )}
    </div>
  );
}
