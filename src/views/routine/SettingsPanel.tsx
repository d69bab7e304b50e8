import { type Motion, writeMotionJson, writeMotionTable } from "@core/files";
import {
  addRoutine,
  type Routine,
  removeRoutine,
  renameRoutine,
  setLaneMode,
  setRoutine,
  type Timetable,
} from "@core/project";
import { type Score, sampleTrack } from "@core/routine";
import { edit, editForField, newId, projectNow, useProject } from "@stores/document";
import { notify } from "@stores/notices";
import { openRoutine } from "@stores/scoreView";
import { useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { writeCsv } from "../parts/csv";
import { NameField } from "../parts/NameField";
import { QuantityField } from "../parts/QuantityField";
import { saveFile } from "../parts/saveFile";

interface SettingsPanelProps {
  readonly routine: Routine;
  readonly score: Score;
}

/** How often it runs, how it ends, when it starts by itself, and the way out as a file. */
export function SettingsPanel({ routine, score }: SettingsPanelProps) {
  const joints = useProject((project) => project.joints);
  const set = (what: string, change: Parameters<typeof setRoutine>[2]) =>
    editForField(setRoutine(routine.id, what, change));
  return (
    <div className="min-h-0 grow space-y-3 overflow-y-auto shows-more">
      <NameField
        key={routine.name}
        label="Name of the routine"
        value={routine.name}
        onCommit={(name) => edit(renameRoutine(routine.id, name))}
        className="heading w-full"
      />
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField
          label="It plays"
          value={routine.repeat.kind}
          choices={[
            ["times", "so many times"],
            ["forever", "over and over"],
          ]}
          onChoose={(kind) => set("repeat", { repeat: kind === "forever" ? { kind } : { kind: "times", times: 1 } })}
        />
        {routine.repeat.kind === "times" && (
          <QuantityField
            label="Times"
            value={routine.repeat.times}
            unit=""
            decimals={0}
            step={1}
            onCommit={(times) =>
              Number.isInteger(times) && times >= 1 && times <= 100_000
                ? set("repeat", { repeat: { kind: "times", times } })
                : "A whole number from 1."
            }
          />
        )}
        <ChoiceField
          label="Each round goes"
          value={routine.isThereAndBack ? "back" : "there"}
          choices={[
            ["there", "from start to end"],
            ["back", "there and back"],
          ]}
          onChoose={(way) => set("way", { isThereAndBack: way === "back" })}
        />
        <ChoiceField
          label="At the end its joints"
          value={routine.atEnd}
          choices={[
            ["hold", "stay held"],
            ["release", "are released"],
          ]}
          onChoose={(atEnd) => set("end", { atEnd })}
        />
      </div>
      <TimetableFields timetable={routine.timetable} onTimetable={(timetable) => set("timetable", { timetable })} />
      {routine.lanes.length > 0 && (
        <fieldset>
          <legend className="heading text-sm">Lanes with keys</legend>
          {routine.lanes.map((lane) => (
            <div key={lane.jointId} className="flex items-center gap-2 py-0.5">
              <span className="min-w-0 grow truncate">
                {joints.find((joint) => joint.id === lane.jointId)?.label}: {lane.keys.length} keys
              </span>
              <select
                className="select select-sm w-44 bg-base-100"
                aria-label={`How the lane of ${joints.find((joint) => joint.id === lane.jointId)?.label} is laid`}
                value={lane.mode}
                onChange={(event) =>
                  edit(setLaneMode(routine.id, lane.jointId, event.target.value as "replace" | "add"))
                }
              >
                <option value="replace">in place of the moves</option>
                <option value="add">on top of the moves</option>
              </select>
            </div>
          ))}
        </fieldset>
      )}
      <label className="block">
        <span className="heading text-sm">Notes</span>
        <textarea
          key={routine.notes}
          className="textarea mt-1 h-16 w-full bg-base-100 text-sm"
          defaultValue={routine.notes}
          maxLength={4000}
          onBlur={(event) => {
            if (event.target.value !== routine.notes) set("notes", { notes: event.target.value });
          }}
        />
      </label>
      <FileOut routine={routine} score={score} />
      <div className="flex gap-2">
        <button type="button" className="btn btn-xs btn-outline" onClick={() => copy(routine)}>
          Copy the routine
        </button>
        <button
          type="button"
          className="btn btn-xs btn-ghost ml-auto text-error"
          onClick={() => edit(removeRoutine(routine.id))}
        >
          Delete the routine
        </button>
      </div>
    </div>
  );
}

/** The same routine once more, to be changed without harm to the first. */
function copy(routine: Routine): void {
  const id = newId();
  const name = `${routine.name.slice(0, 70)}, copy`;
  // A copy that started by itself as well would surprise.
  if (edit(addRoutine({ ...routine, id, name, timetable: null }))) openRoutine(id);
}

interface TimetableFieldsProps {
  readonly timetable: Timetable | null;
  readonly onTimetable: (timetable: Timetable | null) => string | null;
}

function TimetableFields({ timetable, onTimetable }: TimetableFieldsProps) {
  return (
    <fieldset className="space-y-2">
      <legend className="heading text-sm">Starts by itself</legend>
      <ChoiceField
        label="When, once it is armed on the stage"
        value={timetable?.kind ?? "never"}
        choices={[
          ["never", "never"],
          ["every", "every so many minutes"],
          ["daily", "at times of the day"],
        ]}
        onChoose={(kind) =>
          onTimetable(
            kind === "never" ? null : kind === "every" ? { kind, minutes: 10 } : { kind: "daily", at: ["20:00"] },
          )
        }
      />
      {timetable?.kind === "every" && (
        <QuantityField
          label="Minutes"
          value={timetable.minutes}
          unit="min"
          decimals={1}
          units={{ min: 1, s: 1 / 60 }}
          onCommit={(minutes) =>
            minutes >= 0.1 && minutes <= 1440 ? onTimetable({ kind: "every", minutes }) : "From 6 s to a day."
          }
          className="w-28"
        />
      )}
      {timetable?.kind === "daily" && <DailyField at={timetable.at} onTimetable={onTimetable} />}
    </fieldset>
  );
}

function DailyField({
  at,
  onTimetable,
}: {
  readonly at: readonly string[];
  readonly onTimetable: TimetableFieldsProps["onTimetable"];
}) {
  const [typed, setTyped] = useState(at.join(", "));
  const [trouble, setTrouble] = useState("");
  const commit = () => {
    const times = typed
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map((text) => text.padStart(5, "0"));
    const wrong = times.find((text) => !/^([01]\d|2[0-3]):[0-5]\d$/.test(text));
    if (wrong || times.length === 0) {
      setTrouble(`“${wrong ?? typed}” is no time of day. Write 20:00, 20:30.`);
      return;
    }
    setTrouble("");
    onTimetable({ kind: "daily", at: times });
  };
  return (
    <label className="block">
      <span className="caption mb-0.5 block">Times</span>
      <input
        className="input input-sm number w-full bg-base-100"
        value={typed}
        aria-invalid={trouble !== ""}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => event.key === "Enter" && commit()}
      />
      {trouble && (
        <span role="alert" className="text-sm text-error">
          {trouble}
        </span>
      )}
    </label>
  );
}

function FileOut({ routine, score }: SettingsPanelProps) {
  const [unit, setUnit] = useState<"deg" | "setPoint">("deg");
  const [frameHz, setFrameHz] = useState(50);
  const motion = (): Motion | null => {
    const frameMs = 1000 / frameHz;
    const frames = Math.floor(score.lengthMs / frameMs) + 1;
    if (frames * score.tracks.length > 20_000_000) {
      notify("That would be more than twenty million numbers. Choose fewer frames a second.", "warning");
      return null;
    }
    const { joints } = projectNow();
    return {
      jointIds: score.tracks.map((track) => joints[track.joint]?.id ?? ""),
      frameMs,
      channels: score.tracks.map((track, at) => {
        const samples = new Float32Array(frames);
        sampleTrack(track, score.starts[at] as number, 0, frameMs, samples);
        return samples;
      }),
    };
  };
  const save = (kind: "csv" | "json") => {
    const made = motion();
    if (!made) return;
    if (kind === "csv")
      saveFile(`${routine.name}.csv`, writeCsv(writeMotionTable(projectNow(), made, unit)), "text/csv");
    else saveFile(`${routine.name}.json`, writeMotionJson(projectNow(), routine.name, made), "application/json");
  };
  return (
    <fieldset>
      <legend className="heading text-sm">Out as a file</legend>
      <div className="flex items-end gap-2">
        <ChoiceField
          label="Numbers in"
          value={unit}
          choices={[
            ["deg", "degrees"],
            ["setPoint", "µs and ticks"],
          ]}
          onChoose={setUnit}
          className="min-w-0 grow"
        />
        <QuantityField
          label="Frames"
          value={frameHz}
          unit="Hz"
          decimals={0}
          onCommit={(value) => {
            if (!(value >= 1 && value <= 500)) return "1 to 500 Hz.";
            setFrameHz(value);
            return null;
          }}
          className="w-24"
        />
        <button type="button" className="btn btn-sm btn-outline" onClick={() => save("csv")}>
          CSV
        </button>
        <button type="button" className="btn btn-sm btn-outline" title="In degrees" onClick={() => save("json")}>
          JSON
        </button>
      </div>
    </fieldset>
  );
}
