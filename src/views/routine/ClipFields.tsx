import { type Clip, changeClip, layClip, lengthOfTake, type Routine, removeClips, type Take } from "@core/project";
import { timeUnitsS } from "@core/signal";
import { edit, editForField, useProject } from "@stores/document";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";
import { TimeField } from "./StepFields";

interface ClipFieldsProps {
  readonly routine: Routine;
  readonly clip: Clip;
  readonly onClean: (take: Take) => void;
}

/** Where a take lies in the routine, which part of it, how stretched, faded and laid. */
export function ClipFields({ routine, clip, onClean }: ClipFieldsProps) {
  const takes = useProject((project) => project.takes);
  const joints = useProject((project) => project.joints);
  const take = takes.find((one) => one.id === clip.takeId);
  if (!take) return null;
  const change = (what: string, next: Partial<Clip>) =>
    editForField(changeClip(routine.id, clip.id, what, (one) => ({ ...one, ...next })));
  const place = routine.clips.indexOf(clip);
  const used = clip.jointIds ?? take.jointIds;
  const others = takes.filter((one) => one.jointIds.some((id) => take.jointIds.includes(id)));
  return (
    <section className="space-y-2 border border-secondary p-2" aria-label={`Clip of ${take.name}`}>
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField
          label="Take"
          value={clip.takeId}
          choices={others.map((one) => [one.id, one.name] as const)}
          onChoose={(takeId) => {
            const other = takes.find((one) => one.id === takeId);
            if (!other) return;
            const toMs = Math.min(clip.toMs, lengthOfTake(other));
            change("take", { takeId, jointIds: null, fromMs: Math.min(clip.fromMs, toMs / 2), toMs });
          }}
        />
        <ChoiceField
          label="It is laid"
          value={clip.mode}
          choices={[
            ["replace", "in place of the rest"],
            ["add", "on top of the rest"],
          ]}
          onChoose={(mode) => change("laying", { mode })}
        />
        <TimeField label="Begins at" ms={clip.atMs} onCommit={(atMs) => change("place", { atMs })} />
        <QuantityField
          label="Stretched to"
          value={clip.stretch * 100}
          unit="%"
          decimals={0}
          step={5}
          onCommit={(percent) =>
            percent >= 5 && percent <= 2000 ? change("stretch", { stretch: percent / 100 }) : "From 5 % to 2000 %."
          }
        />
        <TimeField label="Uses the take from" ms={clip.fromMs} onCommit={(fromMs) => change("part", { fromMs })} />
        <QuantityField
          label="to"
          value={clip.toMs / 1000}
          unit="s"
          decimals={2}
          units={timeUnitsS}
          step={0.1}
          onCommit={(seconds) => change("part", { toMs: seconds * 1000 })}
        />
        <TimeField label="Fades in over" ms={clip.fadeInMs} onCommit={(fadeInMs) => change("fades", { fadeInMs })} />
        <TimeField
          label="Fades out over"
          ms={clip.fadeOutMs}
          onCommit={(fadeOutMs) => change("fades", { fadeOutMs })}
        />
      </div>
      {take.jointIds.length > 1 && (
        <div className="flex flex-wrap gap-x-3">
          {take.jointIds.map((id) => (
            <label key={id} className="caption flex cursor-pointer items-center gap-1">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={used.includes(id)}
                onChange={() =>
                  change("joints", { jointIds: used.includes(id) ? used.filter((one) => one !== id) : [...used, id] })
                }
              />
              {joints.find((joint) => joint.id === id)?.label}
            </label>
          ))}
        </div>
      )}
      <div className="flex flex-wrap items-center gap-1">
        <label className="flex cursor-pointer items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={clip.isMuted}
            onChange={() => change("mute", { isMuted: !clip.isMuted })}
          />
          muted
        </label>
        <button
          type="button"
          className="btn btn-xs btn-ghost"
          disabled={place === routine.clips.length - 1}
          onClick={() => edit(layClip(routine.id, clip.id, 1))}
        >
          Higher
        </button>
        <button
          type="button"
          className="btn btn-xs btn-ghost"
          disabled={place === 0}
          onClick={() => edit(layClip(routine.id, clip.id, -1))}
        >
          Lower
        </button>
        <button type="button" className="btn btn-xs btn-outline" onClick={() => onClean(take)}>
          Clean up
        </button>
        <button
          type="button"
          className="btn btn-xs btn-ghost text-error"
          onClick={() => edit(removeClips(routine.id, new Set([clip.id])))}
        >
          Remove
        </button>
      </div>
    </section>
  );
}
