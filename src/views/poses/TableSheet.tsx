import { type PoseTable, type PoseUnit, readPoseTable, writePoseTable } from "@core/pose";
import { addPose, allOf, type Pose, setPoseTargets } from "@core/project";
import { edit, newId, useProject } from "@stores/document";
import { notify } from "@stores/notices";
import { poseUnits } from "@stores/posesView";
import { useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { readCsv, writeTsv } from "../parts/csv";
import { counted } from "../parts/format";
import { Sheet } from "../parts/Sheet";

interface TableSheetProps {
  readonly poses: readonly Pose[];
  readonly onDone: () => void;
}

/** Poses as a table for a spreadsheet, out and in again. What is pasted is shown as what it would change before it does. */
export function TableSheet({ poses, onDone }: TableSheetProps) {
  const project = useProject((current) => current);
  const [unit, setUnit] = useState<PoseUnit>("deg");
  const [pasted, setPasted] = useState<string | null>(null);
  const text = pasted ?? writeTsv(writePoseTable(project, poses, unit));
  const read = pasted === null ? null : readPoseTable(project, readCsv(pasted), unit);
  const changed = read?.ok ? changedCells(project.poses, read.value) : 0;
  const accept = () => {
    if (!read?.ok) return;
    const { changes, added } = read.value;
    const edits = [
      setPoseTargets("", changes),
      ...added.map(({ name, targets }) => addPose({ id: newId(), name, group: "", targets })),
    ];
    if (edit(allOf("Paste poses", edits))) onDone();
  };
  return (
    <Sheet label="Poses as a table" onClose={onDone} isWide>
      <h2 className="heading text-lg">Poses as a table</h2>
      <p className="caption mt-1">
        {poses.length} poses. Copy it into a spreadsheet, change it there, and paste it back over this. An empty cell
        leaves a joint as it is.
      </p>
      <div className="mt-2 flex items-end gap-2">
        <ChoiceField label="Numbers in" value={unit} choices={poseUnits} onChoose={setUnit} className="w-56" />
        <button
          type="button"
          className="btn btn-sm btn-outline"
          onClick={() =>
            navigator.clipboard.writeText(text).then(
              () => notify("The table is copied."),
              () => notify("This browser does not let the page copy. Select the text and copy it.", "warning"),
            )
          }
        >
          Copy the table
        </button>
      </div>
      <textarea
        className="textarea number mt-2 h-64 w-full bg-base-100 text-xs leading-relaxed whitespace-pre"
        aria-label="The table"
        spellCheck={false}
        value={text}
        onChange={(event) => setPasted(event.target.value)}
      />
      <p className={`mt-1 min-h-6 text-sm ${read && !read.ok ? "text-error" : ""}`} role="status">
        {read === null
          ? ""
          : read.ok
            ? `${counted(changed, "number")} of ${counted(read.value.changes.size, "pose")} would change; ${counted(read.value.added.length, "pose")} would be new.`
            : read.problem}
      </p>
      <div className="mt-1 flex gap-2">
        <button type="button" className="btn btn-sm btn-primary" disabled={!read?.ok} onClick={accept}>
          Take it over
        </button>
        <button type="button" className="btn btn-sm btn-ghost" onClick={onDone}>
          Close
        </button>
      </div>
    </Sheet>
  );
}

const changedCells = (poses: readonly Pose[], { changes }: PoseTable): number =>
  poses.reduce(
    (sum, pose) =>
      sum +
      Object.entries(changes.get(pose.id) ?? {}).filter(
        ([id, target]) => Math.abs((pose.targets[id] ?? Number.NaN) - target) > 0.01 || pose.targets[id] === undefined,
      ).length,
    0,
  );
