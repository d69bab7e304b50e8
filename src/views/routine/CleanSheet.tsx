import {
  addTake,
  allOf,
  type Clip,
  changeClip,
  type Edit,
  lengthOfTake,
  type Routine,
  removeClips,
  setKeys,
  type Take,
} from "@core/project";
import { type CleanedChannel, type Cleaning, cleaned, keysInPlace } from "@core/take";
import { edit, useProject } from "@stores/document";
import { takeOf } from "@stores/recording";
import { keepSamples } from "@stores/session";
import { useTakes } from "@stores/takes";
import { useDeferredValue, useMemo, useState } from "react";
import { Fetched } from "../parts/Fetched";
import { counted } from "../parts/format";
import { LinesChart } from "../parts/LinesChart";
import { QuantityField } from "../parts/QuantityField";
import { Sheet } from "../parts/Sheet";

interface CleanSheetProps {
  readonly routine: Routine;
  readonly take: Take;
  /** Where it lies in the routine; null for a take that is nowhere yet. */
  readonly clip: Clip | null;
  readonly onDone: () => void;
}

/** Smoothing without lag, and as few keys as a largest error allows: the take as recorded under the one that is left, with the error as a number. */
export function CleanSheet({ routine, take, clip, onDone }: CleanSheetProps) {
  const data = useTakes().get(take.id);
  const joints = useProject((project) => project.joints);
  const [cleaning, setCleaning] = useState<Cleaning>({ smoothMs: 200, largest: 0.5 });
  const [jointId, setJointId] = useState(take.jointIds[0] ?? "");
  const asked = useDeferredValue(cleaning);
  const channels = useMemo(
    () => (data ? cleaned(take, data, asked, clip?.fromMs, clip?.toMs) : []),
    [take, data, asked, clip],
  );
  const shown = channels.find((channel) => channel.jointId === jointId) ?? channels[0];
  if (!data || !shown) return null;
  const keys = channels.reduce((sum, channel) => sum + channel.keys.length, 0);
  const set = (change: Partial<Cleaning>) => {
    setCleaning({ ...cleaning, ...change });
    return null;
  };

  const toKeys = () => {
    const place = clip ?? { atMs: 0, fromMs: 0, stretch: 1 };
    const used = channels.filter((channel) => !clip?.jointIds || clip.jointIds.includes(channel.jointId));
    const edits: Edit[] = used.map((channel) =>
      setKeys(routine.id, channel.jointId, keysInPlace(routine, place, channel)),
    );
    if (clip) edits.push(removeClips(routine.id, new Set([clip.id])));
    if (edit(allOf("Turn take into keys", edits))) onDone();
  };
  const toTake = async () => {
    const made = takeOf(
      { jointIds: take.jointIds, frameMs: take.frameMs, channels: channels.map((channel) => channel.samples) },
      `${take.name}, smoothed`.slice(0, 80),
    );
    await keepSamples(made.data);
    const swap = clip ? [changeClip(routine.id, clip.id, "take", (one) => ({ ...one, takeId: made.take.id }))] : [];
    if (edit(allOf("Smooth take", [addTake(made.take), ...swap]))) onDone();
  };
  return (
    <Sheet label={`Clean up ${take.name}`} onClose={onDone} isWide>
      <h2 className="heading text-lg">Clean up {take.name}</h2>
      <div className="mt-2 flex items-end gap-3">
        <QuantityField
          label="Smooth over"
          value={cleaning.smoothMs}
          unit="ms"
          decimals={0}
          units={{ ms: 1, s: 1000 }}
          step={20}
          onCommit={(smoothMs) => (smoothMs >= 0 && smoothMs <= 2000 ? set({ smoothMs }) : "From 0 to 2000 ms.")}
          className="w-28"
        />
        <QuantityField
          label="Largest error of the keys"
          value={cleaning.largest}
          unit="°"
          decimals={2}
          step={0.1}
          onCommit={(largest) => (largest >= 0.01 && largest <= 45 ? set({ largest }) : "From 0.01° to 45°.")}
          className="w-40"
        />
        <label className="min-w-0 grow">
          <span className="caption mb-0.5 block">Shown</span>
          <select
            className="select select-sm w-full bg-base-100"
            value={shown.jointId}
            onChange={(event) => setJointId(event.target.value)}
          >
            {channels.map((channel) => (
              <option key={channel.jointId} value={channel.jointId}>
                {joints.find((joint) => joint.id === channel.jointId)?.label}: {channel.keys.length} keys
              </option>
            ))}
          </select>
        </label>
      </div>
      <div className="mt-2 h-64">
        <Fetched>
          <LinesChart
            label="The take as recorded, and what is left of it"
            points={pointsOf(take, data.channels[shown.jointId] as Float32Array, shown)}
            lines={[
              { key: "recorded", label: "as recorded" },
              { key: "keys", label: `${shown.keys.length} keys` },
            ]}
            xUnit=" s"
            yUnit="°"
          />
        </Fetched>
      </div>
      <p className="number text-sm" role="status" data-readout="cleaned">
        {channels.length * take.frames} samples → {keys} keys; the keys are off by {shown.errorOfKeys.toFixed(3)}° at
        most, the smoothing changed {shown.errorOfSmoothing.toFixed(2)}° at most.
      </p>
      <p className="caption">
        Smoothing looks as far ahead as back, so nothing comes later than it was played. No straight lines with fewer
        keys stay within that error.
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        <button type="button" className="btn btn-sm btn-primary" disabled={clip?.mode === "add"} onClick={toKeys}>
          Put {counted(keys, "key")} into the lanes{clip ? ", in place of the clip" : ""}
        </button>
        <button type="button" className="btn btn-sm btn-outline" onClick={() => void toTake()}>
          Keep it as a smoothed take
        </button>
        <button type="button" className="btn btn-sm btn-ghost ml-auto" onClick={onDone}>
          Cancel
        </button>
      </div>
      {clip?.mode === "add" && <p className="caption mt-1">A clip that lies on top stays a clip.</p>}
    </Sheet>
  );
}

/** Points for a chart: as many as can be told apart. */
function pointsOf(take: Take, recorded: Float32Array, { keys }: CleanedChannel): Record<string, number | null>[] {
  const every = Math.max(1, Math.floor(recorded.length / 400));
  const moments = new Set(keys.map((key) => key.atMs));
  for (let frame = 0; frame < recorded.length; frame += every) moments.add(frame * take.frameMs);
  const sorted = [...moments].filter((ms) => ms <= lengthOfTake(take)).toSorted((a, b) => a - b);
  let at = 0;
  return sorted.map((ms) => {
    while (at < keys.length - 2 && (keys[at + 1]?.atMs ?? 0) <= ms) at += 1;
    const a = keys[at];
    const b = keys[at + 1] ?? a;
    const isWithin = a && b && ms >= a.atMs && ms <= b.atMs;
    const share = a && b && b.atMs > a.atMs ? (ms - a.atMs) / (b.atMs - a.atMs) : 0;
    return {
      x: ms / 1000,
      recorded: recorded[Math.round(ms / take.frameMs)] ?? null,
      keys: isWithin ? a.target + (b.target - a.target) * share : null,
    };
  });
}
