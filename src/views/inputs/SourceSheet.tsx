import { converterRanges } from "@core/inputs";
import { type Device, type DeviceOf, editSource, removeSource, type Source, setSourceRange } from "@core/project";
import { learnDevice } from "@stores/devices";
import { edit } from "@stores/document";
import { liveSource } from "@stores/live";
import { useEffect, useState } from "react";
import { keyedActions } from "../frame/actions";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";
import { Sheet } from "../parts/Sheet";
import { deviceWords } from "./deviceWords";

interface SourceSheetProps {
  readonly source: Source;
  readonly onClose: () => void;
}

/** What a source counts from and to, what moves it, and what becomes of its joints when it vanishes. */
export function SourceSheet({ source, onClose }: SourceSheetProps) {
  const { range, device, ifLost } = source;
  const setRange = (low: number, high: number) =>
    edit(setSourceRange(source.id, { low, high }), { tell: false })?.problem ?? null;
  const setLost = (next: Source["ifLost"]) =>
    edit(
      editSource(source.id, "what it does when lost", (one) => ({ ...one, ifLost: next })),
      { tell: false },
    )?.problem ?? null;
  return (
    <Sheet label={`Settings of ${source.label}`} onClose={onClose}>
      <div className="space-y-3">
        <h2 className="heading text-lg">{source.label}</h2>
        <div className="grid grid-cols-2 gap-3">
          <QuantityField
            label="Lowest"
            value={range.low}
            unit=""
            decimals={0}
            onCommit={(low) => setRange(low, range.high)}
          />
          <QuantityField
            label="Highest"
            value={range.high}
            unit=""
            decimals={0}
            onCommit={(high) => setRange(range.low, high)}
          />
        </div>
        <div className="flex flex-wrap gap-1">
          {converterRanges.map(({ bits, low, high }) => (
            <button key={bits} type="button" className="btn btn-outline btn-xs" onClick={() => setRange(low, high)}>
              {bits} bits
            </button>
          ))}
          <LearnRange source={source} onRange={setRange} />
        </div>
        <DeviceFields source={source} device={device} />
        <div className="grid grid-cols-3 gap-3 border-t border-base-300 pt-3">
          <ChoiceField
            label="When it vanishes"
            value={ifLost.kind}
            choices={[
              ["hold", "stay where it is"],
              ["value", "go to a value"],
            ]}
            onChoose={(kind) => setLost(kind === "hold" ? { kind } : { kind, value: range.low, afterMs: 2000 })}
          />
          {ifLost.kind === "value" && (
            <>
              <QuantityField
                label="Value"
                value={ifLost.value}
                unit=""
                decimals={1}
                onCommit={(value) => setLost({ ...ifLost, value })}
              />
              <QuantityField
                label="After"
                value={ifLost.afterMs / 1000}
                unit="s"
                decimals={1}
                units={{ s: 1, ms: 0.001 }}
                onCommit={(seconds) => setLost({ ...ifLost, afterMs: seconds * 1000 })}
              />
            </>
          )}
        </div>
        <div className="flex gap-2">
          <button type="button" className="btn btn-primary btn-sm" onClick={onClose}>
            Done
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-sm ml-auto text-error"
            onClick={() => {
              edit(removeSource(source.id));
              onClose();
            }}
          >
            Remove {source.label} and its leads
          </button>
        </div>
      </div>
    </Sheet>
  );
}

const watchMs = 4000;

/** Learns a range by its being moved from end to end. */
function LearnRange({
  source,
  onRange,
}: {
  readonly source: Source;
  readonly onRange: (low: number, high: number) => void;
}) {
  const [isLearning, setIsLearning] = useState(false);
  useEffect(() => {
    if (!isLearning) return;
    let low = Number.POSITIVE_INFINITY;
    let high = Number.NEGATIVE_INFINITY;
    const look = setInterval(() => {
      const value = liveSource(source.id);
      if (!Number.isFinite(value)) return;
      low = Math.min(low, value);
      high = Math.max(high, value);
    }, 15);
    const end = setTimeout(() => {
      setIsLearning(false);
      if (high > low) onRange(low, high);
    }, watchMs);
    return () => {
      clearInterval(look);
      clearTimeout(end);
    };
  }, [isLearning, source.id, onRange]);
  return (
    <button type="button" className="btn btn-outline btn-xs" disabled={isLearning} onClick={() => setIsLearning(true)}>
      {isLearning ? "move it from end to end…" : "learn it by moving"}
    </button>
  );
}

interface DeviceFieldsProps {
  readonly source: Source;
  readonly device: Device;
}

/** The settings that only one kind of source has. */
function DeviceFields({ source, device }: DeviceFieldsProps) {
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
          <QuantityField
            label="Noise"
            value={device.noise * 100}
            unit="%"
            decimals={1}
            onCommit={(value) => set({ ...device, noise: value / 100 })}
          />
          <QuantityField
            label="Drift in a minute"
            value={device.driftPerMin * 100}
            unit="%"
            decimals={1}
            onCommit={(value) => set({ ...device, driftPerMin: value / 100 })}
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
      <QuantityField
        label="Depth"
        value={device.depth * 100}
        unit="%"
        decimals={0}
        onCommit={(depth) => onDevice({ ...device, depth: depth / 100 })}
      />
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
        {isLearning ? "press or move it now…" : `${deviceWords(device)}: learn another`}
      </button>
      {trouble && (
        <p role="alert" className="mt-1 text-sm text-error">
          {trouble}
        </p>
      )}
    </div>
  );
}
