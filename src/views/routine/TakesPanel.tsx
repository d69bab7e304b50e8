import { recordingStages } from "@core/engine";
import { writeMotionJson } from "@core/files";
import { addClip, lengthOfTake, type Routine, removeTake, renameTake, type Take, withPartners } from "@core/project";
import { jointsOf } from "@core/routine";
import { edit, projectNow, useProject } from "@stores/document";
import { command, liveHead, useLive } from "@stores/live";
import { startRecording, wholeClip } from "@stores/recording";
import { scoreView, useScoreView } from "@stores/scoreView";
import { useSelectedJoint } from "@stores/selection";
import { useTakes } from "@stores/takes";
import { useCallback, useState } from "react";
import { isOnScreen, SourceControl } from "../inputs/SourceControl";
import { Fetched } from "../parts/Fetched";
import { counted } from "../parts/format";
import { lazily } from "../parts/lazily";
import { NameField } from "../parts/NameField";
import { QuantityField } from "../parts/QuantityField";
import { saveFile } from "../parts/saveFile";
import { ClipFields } from "./ClipFields";

const CleanSheet = lazily(async () => ({ default: (await import("./CleanSheet")).CleanSheet }));
const ImportSheet = lazily(async () => ({ default: (await import("./ImportSheet")).ImportSheet }));

/** Record what the inputs do, keep the takes, and lay them in the routine. */
export function TakesPanel({ routine }: { readonly routine: Routine }) {
  const takes = useProject((project) => project.takes);
  const clipIds = useScoreView((view) => view.clipIds);
  const clip = routine.clips.find((one) => one.id === clipIds[0]);
  const [cleaning, setCleaning] = useState<Take | null>(null);
  const [isImporting, setIsImporting] = useState(false);
  return (
    <div className="flex min-h-0 grow flex-col gap-2 overflow-y-auto shows-more">
      {clip && <ClipFields key={clip.id} routine={routine} clip={clip} onClean={setCleaning} />}
      <Recorder routine={routine} />
      <Controls />
      <div className="flex items-center gap-2">
        <h2 className="heading grow text-sm">Takes ({takes.length})</h2>
        <button type="button" className="btn btn-xs btn-ghost" onClick={() => setIsImporting(true)}>
          From a file
        </button>
      </div>
      <ul aria-label="Takes">
        {takes.length === 0 && (
          <li className="caption">None yet. Choose joints, record, and move them by stick, knob or hand.</li>
        )}
        {takes.map((take) => (
          <TakeLine key={take.id} routine={routine} take={take} onClean={() => setCleaning(take)} />
        ))}
      </ul>
      <Fetched>
        {cleaning && (
          <CleanSheet
            routine={routine}
            take={cleaning}
            clip={clip?.takeId === cleaning.id ? clip : null}
            onDone={() => setCleaning(null)}
          />
        )}
        {isImporting && <ImportSheet routine={routine} onDone={() => setIsImporting(false)} />}
      </Fetched>
    </div>
  );
}

/** Which joints, after which count-in, over what. */
function Recorder({ routine }: { readonly routine: Routine }) {
  const joints = useProject((project) => project.joints);
  const selected = useSelectedJoint();
  const range = useScoreView((view) => view.range);
  const [chosen, setChosen] = useState<readonly string[] | null>(null);
  const [countInS, setCountInS] = useState(2);
  const [isOver, setIsOver] = useState(true);
  const [isByHand, setIsByHand] = useState(false);
  const cards = useProject((project) => project.cards);
  const recording = useLive(useCallback(() => liveHead("recording"), []));
  const armed = chosen ?? (selected ? [selected.id] : []);
  const hasPlan = jointsOf(projectNow(), routine).length > 0;
  const begin = () => {
    const { cursorMs } = scoreView.getState();
    // A run-up of two seconds before the part that is to be replaced.
    const fromMs = range ? Math.max(0, range.fromMs - 2000) : cursorMs;
    if (isByHand) for (const jointId of armed) command({ kind: "release", jointId });
    startRecording({
      jointIds: armed,
      routineId: isOver || range ? routine.id : null,
      fromMs,
      countInMs: countInS * 1000,
      punch: range,
      byHand: isByHand,
    });
  };
  /** Only what its board can read can be recorded as a hand turns it. */
  const canFeel = (cardId: string) => {
    const card = cards.find(({ id }) => id === cardId);
    return card !== undefined && card.kind !== "continuous" && card.feedback !== null;
  };
  const offered = isByHand ? joints.filter(({ cardId }) => canFeel(cardId)) : joints;
  return (
    <section className="border border-base-300 p-2" aria-label="Record">
      <div className="flex items-end gap-2">
        {recording ? (
          <button type="button" className="btn btn-sm btn-error grow" onClick={() => command({ kind: "endRecord" })}>
            {recording === recordingStages.running ? "End recording" : "Do not record"}
          </button>
        ) : (
          <button type="button" className="btn btn-sm btn-outline grow" disabled={armed.length === 0} onClick={begin}>
            <span className="size-2.5 rounded-full bg-error" aria-hidden="true" />
            {range ? "Record the part" : "Record"} {counted(armed.length, "joint")}
          </button>
        )}
        <QuantityField
          label="after"
          value={countInS}
          unit="s"
          decimals={1}
          step={1}
          onCommit={(value) => {
            if (value < 0 || value > 30) return "0 to 30 s.";
            setCountInS(value);
            return null;
          }}
          className="w-20"
        />
      </div>
      <fieldset className="mt-1 grid grid-cols-2 gap-x-2">
        <legend className="sr-only">Joints to record</legend>
        {offered.map((joint) => (
          <label key={joint.id} className="flex min-w-0 cursor-pointer items-center gap-1.5 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              aria-label={`Record ${joint.label}`}
              checked={armed.includes(joint.id)}
              onChange={() =>
                setChosen(armed.includes(joint.id) ? armed.filter((id) => id !== joint.id) : [...armed, joint.id])
              }
            />
            <span className="truncate">{joint.label}</span>
          </label>
        ))}
      </fieldset>
      <label className="mt-1 flex cursor-pointer items-center gap-1.5 text-sm">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={isByHand}
          onChange={() => {
            setIsByHand(!isByHand);
            setChosen(armed.filter((id) => isByHand || canFeel(joints.find((joint) => joint.id === id)?.cardId ?? "")));
          }}
        />
        as a hand turns them: released, and read
      </label>
      {hasPlan && !range && (
        <label className="mt-1 flex cursor-pointer items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={isOver}
            onChange={() => setIsOver(!isOver)}
          />
          while {routine.name} plays the others, from the cursor
        </label>
      )}
      {range && (
        <p className="caption mt-1">Only the marked part is recorded; before and after it the routine plays.</p>
      )}
    </section>
  );
}

/** What is moved while one records, for those without a stick in the hand. */
function Controls() {
  const sources = useProject((project) => project.sources);
  const shown = withPartners(sources).filter(([source]) => isOnScreen(source));
  return (
    <details>
      <summary className="heading cursor-pointer text-sm">Controls on the screen</summary>
      <div className="mt-1 grid grid-cols-2 gap-2">
        {shown.map(([source, partner]) => {
          return (
            <div key={source.id} className="border border-base-300 p-1 text-center">
              <div className="caption truncate">{source.label}</div>
              <SourceControl source={source} partner={partner} />
            </div>
          );
        })}
      </div>
    </details>
  );
}

interface TakeLineProps {
  readonly routine: Routine;
  readonly take: Take;
  readonly onClean: () => void;
}

function TakeLine({ routine, take, onClean }: TakeLineProps) {
  const joints = useProject((project) => project.joints);
  const data = useTakes().get(take.id);
  const names = take.jointIds.map((id) => joints.find((joint) => joint.id === id)?.label ?? "?");
  const place = () => {
    const clip = wholeClip(take, Math.round(scoreView.getState().cursorMs));
    if (edit(addClip(routine.id, clip))) scoreView.setState({ clipIds: [clip.id], stepIds: [], keys: [] });
  };
  const save = () => {
    if (!data) return;
    const motion = {
      jointIds: take.jointIds,
      frameMs: take.frameMs,
      channels: take.jointIds.map((id) => data.channels[id] as Float32Array),
    };
    saveFile(`${take.name}.json`, writeMotionJson(projectNow(), take.name, motion), "application/json");
  };
  return (
    <li className="border-t border-base-300 py-1" data-take={take.id}>
      <div className="flex items-baseline gap-2">
        <NameField
          key={take.id}
          label="Name of the take"
          value={take.name}
          onCommit={(name) => edit(renameTake(take.id, name))}
          className="min-w-0 grow"
        />
        <span className="number shrink-0 text-xs">{(lengthOfTake(take) / 1000).toFixed(2)} s</span>
      </div>
      <p className="caption truncate" title={names.join(", ")}>
        {names.join(", ")}
      </p>
      <div className="mt-0.5 flex flex-wrap gap-1">
        <button type="button" className="btn btn-xs btn-outline" onClick={place}>
          Place at the cursor
        </button>
        <button type="button" className="btn btn-xs btn-outline" disabled={!data} onClick={onClean}>
          Clean up
        </button>
        <button type="button" className="btn btn-xs btn-ghost" disabled={!data} onClick={save}>
          JSON
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs btn-square ml-auto text-base"
          aria-label={`Delete ${take.name}`}
          onClick={() => edit(removeTake(take.id))}
        >
          ×
        </button>
      </div>
    </li>
  );
}
