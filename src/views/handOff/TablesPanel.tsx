import type { TableAsk, TableFormat } from "@core/handOff";
import type { Result } from "@core/result";
import { useProject } from "@stores/document";
import { writeTable } from "@stores/handingOff";
import { notify } from "@stores/notices";
import { useEffect, useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { saveFile } from "../parts/saveFile";
import { Code } from "./Code";

const formats: readonly (readonly [TableFormat, string])[] = [
  ["csv", "CSV"],
  ["json", "JSON"],
  ["markdown", "Markdown"],
];
const endings: Readonly<Record<TableFormat, string>> = { csv: "csv", json: "json", markdown: "md", spreadsheet: "tsv" };
const rates = [10, 25, 50, 100, 200] as const;

/** What is on the bench as tables: joints, cards, poses, and routines sampled at a rate. */
export default function TablesPanel() {
  const project = useProject((current) => current);
  const [of, setOf] = useState("joints");
  const [hz, setHz] = useState("50");
  const [format, setFormat] = useState<TableFormat>("csv");
  const [text, setText] = useState<Result<string> | null>(null);
  /** What is shown is of an earlier choice, until this one is written. */
  const [isBusy, setIsBusy] = useState(true);
  const routine = project.routines.find(({ id }) => id === of);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the table is of the project as it stands.
  useEffect(() => {
    let isOver = false;
    setIsBusy(true);
    void writeTable(askOf(of, Number(hz)), format).then((written) => {
      if (isOver) return;
      setText(written);
      setIsBusy(false);
    });
    return () => {
      isOver = true;
    };
  }, [project, of, hz, format]);
  const copy = async () => {
    const written = await writeTable(askOf(of, Number(hz)), "spreadsheet");
    if (!written.ok) {
      notify(written.problem, "warning");
      return;
    }
    await navigator.clipboard.writeText(written.value).then(
      () => notify("The table is in the clipboard, as a spreadsheet pastes it."),
      () => notify("This browser does not let the page copy. Save the file instead.", "warning"),
    );
  };
  const name = `${(routine?.name ?? of).replace(/[^\p{L}\p{N}]+/gu, "_")}.${endings[format]}`;
  return (
    <>
      <div className="flex flex-wrap items-end gap-3 py-2">
        <ChoiceField
          label="Table of"
          value={of}
          choices={[
            ["joints", "Joints"],
            ["cards", "Servo cards"],
            ["poses", "Poses"],
            ...project.routines.map((one) => [one.id, `Routine: ${one.name}`] as const),
          ]}
          onChoose={setOf}
        />
        {routine && (
          <ChoiceField
            label="Rows a second"
            value={hz}
            choices={rates.map((rate) => [String(rate), `${rate}`] as const)}
            onChoose={setHz}
          />
        )}
        <ChoiceField label="Written as" value={format} choices={formats} onChoose={setFormat} />
        <button
          type="button"
          className="btn btn-primary btn-sm ml-auto"
          disabled={!text?.ok || isBusy}
          onClick={() => text?.ok && saveFile(name, text.value, "text/plain")}
        >
          Save
        </button>
        <button type="button" className="btn btn-outline btn-sm" onClick={copy}>
          Copy for a spreadsheet
        </button>
      </div>
      {text?.ok && <Code key={name} name={name} text={text.value.trimEnd()} language="none" />}
      {text && !text.ok && <p className="text-error">{text.problem}</p>}
    </>
  );
}

const askOf = (of: string, hz: number): TableAsk =>
  of === "joints" || of === "cards" || of === "poses" ? { kind: of } : { kind: "routine", routineId: of, hz };
