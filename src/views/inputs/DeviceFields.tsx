import { type Device, type DeviceOf, editSource, type Source } from "@core/project";
import { learnDevice } from "@stores/devices";
import { edit } from "@stores/document";
import { useEffect, useState } from "react";
import { keyedActions } from "../frame/actions";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";
import { ShareField } from "../parts/ShareField";
import { deviceWords } from "./deviceWords";

interface DeviceFieldsProps {
  readonly source: Source;
  readonly device: Device;
}

/** The settings that only one kind of source has. */
export function DeviceFields({ source, device }: DeviceFieldsProps) {
  const set = (next: Device) =>
    edit(
      editSource(source.id, "kind", (one) => ({ ...one, device: next })),
      { tell: false },
    )?.problem ?? null;
  switch (device.kind) {
    case "slider":
      return (
        <ChoiceField
          label="Its low end lies"
          value={device.lowAt}
          choices={[
            ["bottom", "at the bottom"],
            ["top", "at the top"],
            ["left", "at the left"],
            ["right", "at the right"],
          ]}
          onChoose={(lowAt) => set({ ...device, lowAt })}
        />
      );
    case "encoder":
      return (
        <QuantityField
          label="Detents in a turn"
          value={device.detentsPerTurn}
          unit=""
          decimals={0}
          onCommit={(detentsPerTurn) => set({ ...device, detentsPerTurn })}
        />
      );
    case "key":
    case "gamepad":
    case "midi":
      return <LearnDevice device={device} onDevice={set} />;
    case "line":
      return (
        <label className="block">
          <span className="caption mb-0.5 block">Name in the line “name=value”</span>
          <input
            className="input input-sm w-full bg-base-100"
            defaultValue={device.name}
            maxLength={40}
            onBlur={(event) => set({ ...device, name: event.target.value.trim() })}
          />
        </label>
      );
    case "sensor":
      return (
        <div className="grid grid-cols-3 gap-3">
          <ChoiceField
            label="Senses"
            value={device.sense}
            choices={(["light", "temperature", "flex", "distance"] as const).map((one) => [one, one])}
            onChoose={(sense) => set({ ...device, sense })}
          />
          <ShareField
            label="Noise"
            share={device.noise}
            high={0.5}
            decimals={1}
            onCommit={(noise) => set({ ...device, noise })}
          />
          <ShareField
            label="Drift in a minute"
            share={device.driftPerMin}
            low={-1}
            decimals={1}
            onCommit={(driftPerMin) => set({ ...device, driftPerMin })}
          />
        </div>
      );
    case "wave":
      return <WaveFields device={device} onDevice={set} />;
    default:
      return null;
  }
}

interface WaveFieldsProps {
  readonly device: DeviceOf<"wave">;
  readonly onDevice: (device: Device) => string | null;
}

function WaveFields({ device, onDevice }: WaveFieldsProps) {
  return (
    <div className="grid grid-cols-4 gap-3">
      <ChoiceField
        label="Shape"
        value={device.shape}
        choices={(["sine", "triangle", "square", "steps", "noise"] as const).map((one) => [one, one])}
        onChoose={(shape) => onDevice({ ...device, shape })}
      />
      <QuantityField
        label="Rate"
        value={device.rateHz}
        unit="Hz"
        decimals={2}
        onCommit={(rateHz) => onDevice({ ...device, rateHz })}
      />
      <ShareField label="Depth" share={device.depth} onCommit={(depth) => onDevice({ ...device, depth })} />
      <QuantityField
        label="Phase"
        value={device.phaseDeg}
        unit="°"
        decimals={0}
        onCommit={(phaseDeg) => onDevice({ ...device, phaseDeg })}
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

interface LearnDeviceProps {
  readonly device: DeviceOf<"key" | "gamepad" | "midi">;
  readonly onDevice: (device: Device) => string | null;
}

/** Binds a source to the next thing of its kind that is pressed or moved. */
function LearnDevice({ device, onDevice }: LearnDeviceProps) {
  const [isLearning, setIsLearning] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    if (!isLearning) return;
    return learnDevice((heard) => {
      setIsLearning(false);
      const used = heard.kind === "key" ? benchKeyOf(heard.code) : null;
      if (used) {
        setTrouble(`The bench itself uses that key: ${used}. Press another.`);
        return;
      }
      setTrouble(heard.kind === device.kind ? onDevice(heard) : `That was ${deviceWords(heard)}, not of this kind.`);
    });
  }, [isLearning, device.kind, onDevice]);
  return (
    <div>
      <button type="button" className="btn btn-outline btn-sm" onClick={() => setIsLearning(true)}>
        {isLearning ? "press or move one now…" : `${deviceWords(device)}: learn another`}
      </button>
      {trouble && (
        <p role="alert" className="mt-1 text-sm text-error">
          {trouble}
        </p>
      )}
    </div>
  );
}
