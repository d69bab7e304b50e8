import {
  evenFrameMs,
  guessMotion,
  type MotionColumn,
  type MotionGuess,
  type MotionUnit,
  motionFrom,
} from "@core/files";
import type { Convention } from "@core/numbers";
import { addClip, addTake, allOf, longestTakeFrames, type Routine } from "@core/project";
import { edit, projectNow, useProject } from "@stores/document";
import { takeOf, wholeClip } from "@stores/recording";
import { scoreView } from "@stores/scoreView";
import { keepSamples } from "@stores/session";
import { useMemo, useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { readCsv } from "../parts/csv";
import { Fetched } from "../parts/Fetched";
import { counted } from "../parts/format";
import { LinesChart } from "../parts/LinesChart";
import { QuantityField } from "../parts/QuantityField";
import { Sheet } from "../parts/Sheet";

interface ImportSheetProps {
  readonly routine: Routine;
  readonly onDone: () => void;
}

const unitWords: readonly (readonly [MotionUnit, string])[] = [
  ["deg", "degrees"],
  ["setPoint", "µs or ticks"],
  ["percent", "% of the travel"],
  ["spin", "spin −1…1"],
];

/** A file of movement from elsewhere: columns are matched to joints and units guessed, all of it shown before anything is taken. */
export function ImportSheet({ routine, onDone }: ImportSheetProps) {
  const [file, setFile] = useState<{ readonly name: string; readonly rows: Rows; readonly guess: MotionGuess } | null>(
    null,
  );
  const [trouble, setTrouble] = useState("");
  const read = async (chosen: File | undefined) => {
    if (!chosen) return;
    look(chosen.name, readCsv(await chosen.text()), null);
  };
  const look = (name: string, rows: Rows, said: Convention | null) => {
    const guess = guessMotion(projectNow(), rows, said);
    setTrouble(guess.ok ? "" : guess.problem);
    setFile(guess.ok ? { name, rows, guess: guess.value } : null);
  };
  return (
    <Sheet label="Movement from a file" onClose={onDone} isWide>
      <h2 className="heading text-lg">Movement from a file</h2>
      <p className="caption mt-1">
        A table with a column of time and one for each joint, with commas, semicolons or tabs. Nothing is taken before
        you have seen it.
      </p>
      <input
        type="file"
        accept=".csv,.txt,.tsv,text/csv"
        className="file-input file-input-sm mt-2 w-full bg-base-100"
        aria-label="The file"
        onChange={(event) => void read(event.target.files?.[0])}
      />
      {trouble && (
        <p role="alert" className="mt-2 text-error">
          {trouble}
        </p>
      )}
      {file ? (
        <Match
          key={`${file.name} ${file.guess.convention}`}
          routine={routine}
          name={file.name.replace(/\.[^.]*$/, "")}
          first={file.guess}
          onConvention={(said) => look(file.name, file.rows, said)}
          onDone={onDone}
        />
      ) : (
        <button type="button" className="btn btn-sm btn-ghost mt-3" onClick={onDone}>
          Cancel
        </button>
      )}
    </Sheet>
  );
}

interface MatchProps extends ImportSheetProps {
  readonly name: string;
  readonly first: MotionGuess;
  readonly onConvention: (said: Convention) => void;
}

type Rows = readonly (readonly string[])[];

function Match({ routine, name, first, onConvention, onDone }: MatchProps) {
  const project = useProject((current) => current);
  const [guess, setGuess] = useState(first);
  const [rowMs, setRowMs] = useState(20);
  const motion = useMemo(
    () => motionFrom(project, guess, { rowMs, frameMs: evenFrameMs(guess, rowMs) ?? 20 }),
    [project, guess, rowMs],
  );
  const setColumn = (column: MotionColumn, change: Partial<MotionColumn>) =>
    setGuess({
      ...guess,
      columns: guess.columns.map((one) => (one.at === column.at ? { ...one, ...change } : one)),
    });
  const frames = motion.ok ? (motion.value.channels[0]?.length ?? 0) : 0;
  const accept = async () => {
    if (!motion.ok || frames > longestTakeFrames) return;
    const made = takeOf(motion.value, name.slice(0, 80) || "From a file");
    await keepSamples(made.data);
    const clip = wholeClip(made.take, Math.round(scoreView.getState().cursorMs));
    if (edit(allOf("Take from a file", [addTake(made.take), addClip(routine.id, clip)]))) onDone();
  };
  return (
    <div className="mt-3 space-y-3">
      <div className="flex items-end gap-3">
        <ChoiceField
          label="Time"
          value={String(guess.timeAt)}
          choices={[
            ["-1", "each row is a frame"],
            ...(first.timeAt >= 0 ? [[String(first.timeAt), `column ${first.timeAt + 1}`] as const] : []),
          ]}
          onChoose={(at) =>
            setGuess({ ...guess, timeAt: Number(at), timeUnit: Number(at) < 0 ? "frames" : first.timeUnit })
          }
          className="w-48"
        />
        <ChoiceField
          label="counted in"
          value={guess.timeUnit}
          choices={[
            ["s", "seconds"],
            ["ms", "milliseconds"],
            ["frames", "frames"],
          ]}
          onChoose={(timeUnit) => setGuess({ ...guess, timeUnit })}
          className="w-40"
        />
        {guess.timeUnit === "frames" && (
          <QuantityField
            label="a frame is"
            value={rowMs}
            unit="ms"
            decimals={2}
            onCommit={(value) => {
              if (!(value >= 1 && value <= 10_000)) return "1 ms to 10 s.";
              setRowMs(value);
              return null;
            }}
            className="w-28"
          />
        )}
        <ChoiceField
          label="Numbers are written"
          value={guess.convention}
          choices={[
            ["point", "with a point: 1.5"],
            ["comma", "with a comma: 1,5"],
          ]}
          onChoose={onConvention}
          className="w-44"
        />
        <span className="caption">
          {guess.rows.length} rows{guess.skipped > 0 ? `, ${guess.skipped} left out: no number for the time` : ""}
        </span>
      </div>
      {guess.doubtful && (
        <p className="text-warning" role="status">
          Nothing says whether “{guess.doubtful}” is {guess.doubtful.replace(/[.,]/, "")} or{" "}
          {Number(guess.doubtful.replace(",", "."))}. Choose above how its numbers are written.
        </p>
      )}
      {guess.wordy.length > 0 && (
        <p className="caption">Not numbers, and left out: {guess.wordy.join(", ").slice(0, 200)}.</p>
      )}
      <table className="w-full">
        <thead>
          <tr className="caption text-left">
            <th className="font-normal">Column</th>
            <th className="font-normal">from … to</th>
            <th className="font-normal">is joint</th>
            <th className="font-normal">in</th>
          </tr>
        </thead>
        <tbody>
          {guess.columns.map((column) => (
            <tr key={column.at}>
              <td className="max-w-40 truncate">{column.head}</td>
              <td className="number text-sm">
                {column.low.toFixed(1)} … {column.high.toFixed(1)}
              </td>
              <td className="py-0.5 pr-2">
                <select
                  className="select select-sm w-full bg-base-100"
                  aria-label={`Joint of ${column.head}`}
                  value={column.jointId ?? ""}
                  onChange={(event) => setColumn(column, { jointId: event.target.value || null })}
                >
                  <option value="">leave it out</option>
                  {project.joints.map((joint) => (
                    <option key={joint.id} value={joint.id}>
                      {joint.label}
                    </option>
                  ))}
                </select>
              </td>
              <td>
                <select
                  className="select select-sm w-36 bg-base-100"
                  aria-label={`Unit of ${column.head}`}
                  value={column.unit}
                  onChange={(event) => setColumn(column, { unit: event.target.value as MotionUnit })}
                >
                  {unitWords.map(([unit, words]) => (
                    <option key={unit} value={unit}>
                      {words}
                    </option>
                  ))}
                </select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {motion.ok ? (
        <>
          <div className="h-52">
            <Fetched>
              <LinesChart
                label="The movement as it would be taken"
                points={Array.from({ length: Math.min(frames, 300) }, (_, at) => {
                  const frame = Math.round((at * (frames - 1)) / Math.max(1, Math.min(frames, 300) - 1));
                  return {
                    x: (frame * motion.value.frameMs) / 1000,
                    ...Object.fromEntries(
                      motion.value.channels.slice(0, 6).map((channel, place) => [`j${place}`, channel[frame] ?? null]),
                    ),
                  };
                })}
                lines={motion.value.jointIds.slice(0, 6).map((id, place) => ({
                  key: `j${place}`,
                  label: project.joints.find((joint) => joint.id === id)?.label ?? id,
                }))}
                xUnit=" s"
                yUnit="°"
              />
            </Fetched>
          </div>
          <p className="caption">
            {(((frames - 1) * motion.value.frameMs) / 1000).toFixed(2)} s of{" "}
            {counted(motion.value.jointIds.length, "joint")}. It becomes a take, and lies in the routine at the cursor.
          </p>
        </>
      ) : (
        <p role="alert" className="text-error">
          {motion.problem}
        </p>
      )}
      <div className="flex gap-2">
        <button type="button" className="btn btn-sm btn-primary" disabled={!motion.ok} onClick={() => void accept()}>
          Take it
        </button>
        <button type="button" className="btn btn-sm btn-ghost" onClick={onDone}>
          Cancel
        </button>
      </div>
    </div>
  );
}
