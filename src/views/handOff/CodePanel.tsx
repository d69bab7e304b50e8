import type { HandedOff } from "@core/handOff";
import type { Result } from "@core/result";
import { useProject } from "@stores/document";
import { notify } from "@stores/notices";
import { openTab, tabsOf, useOpenTab } from "@stores/stationTabs";
import { strToU8, zip } from "fflate";
import { useCallback, useId, useState } from "react";
import { Fetched } from "../parts/Fetched";
import { lazily } from "../parts/lazily";
import { saveBytes, saveFile } from "../parts/saveFile";
import { TabPanel, TabStrip } from "../parts/TabStrip";
import { Code } from "./Code";

const TablesPanel = lazily(() => import("./TablesPanel"));
const LinksPanel = lazily(() => import("./LinksPanel"));
const SheetsPanel = lazily(() => import("./sheets/SheetsPanel"));
const TakeBackSheet = lazily(() => import("./TakeBackSheet"));

/** A tab says what a file is: its name may be as long as the project's. */
const tabWords = (name: string) =>
  name.endsWith(".h") ? "Header .h" : name.endsWith(".c") ? "Source .c" : "Module .py";

interface CodePanelProps {
  readonly handed: Result<HandedOff> | null;
  readonly isBusy: boolean;
}

/** The files as they will be: shown, copied, saved. */
export function CodePanel({ handed, isBusy }: CodePanelProps) {
  const panelId = useId();
  const language = useProject((project) => project.handOff.language);
  const [name, setName] = useState("");
  const shown = useOpenTab("hand-off");
  const [isTakingBack, setIsTakingBack] = useState(false);
  const close = useCallback(() => setIsTakingBack(false), []);
  if (!handed) return <p className="caption mt-10 text-center">The code is being written…</p>;
  const files = handed.ok ? handed.value.files : [];
  const file = files.find((one) => one.name === name) ?? files.at(-1);
  const tab = shown === "code" ? (file?.name ?? shown) : shown;
  const others = tabsOf("hand-off").filter(([id]) => id !== "code");
  const choose = (next: string) => {
    const other = others.find(([id]) => id === next);
    openTab("hand-off", other ? other[0] : "code");
    if (!other) setName(next);
  };
  const copy = async () => {
    if (!file) return;
    await navigator.clipboard.writeText(file.text).then(
      () => notify(`${file.name} is in the clipboard.`),
      () => notify("This browser does not let the page copy. Save the file instead.", "warning"),
    );
  };
  const saveAll = () =>
    zip(Object.fromEntries(files.map((one) => [one.name, strToU8(one.text)])), (error, packed) => {
      if (error) notify(`The files could not be packed: ${error.message}`, "warning");
      else saveBytes(`${files[0]?.name.replace(/\.\w+$/, "") ?? "rig"}.zip`, packed, "application/zip");
    });
  return (
    <div className="flex min-h-0 flex-col" aria-busy={isBusy}>
      <div className="flex items-end gap-2">
        <TabStrip
          label="Files"
          panelId={panelId}
          tabs={[
            ...(file ? files.map((one) => [one.name, tabWords(one.name)] as const) : [["code", "Code"] as const]),
            ...others,
          ]}
          chosen={tab}
          onChoose={choose}
          className="grow"
        />
        {file && shown === "code" && (
          <>
            <button
              type="button"
              className="btn btn-primary btn-sm"
              title={`Save ${file.name}`}
              onClick={() => saveFile(file.name, file.text, "text/plain")}
            >
              Save
            </button>
            <button type="button" className="btn btn-outline btn-sm" onClick={copy}>
              Copy
            </button>
            <button type="button" className="btn btn-outline btn-sm" onClick={() => setIsTakingBack(true)}>
              Take numbers back
            </button>
            {files.length > 1 && (
              <button type="button" className="btn btn-outline btn-sm" onClick={saveAll}>
                Zip
              </button>
            )}
          </>
        )}
      </div>
      <Fetched>{isTakingBack && <TakeBackSheet onClose={close} />}</Fetched>
      <TabPanel id={panelId} tab={tab} className="flex min-h-0 grow flex-col">
        {shown === "tables" ? (
          <Fetched>
            <TablesPanel />
          </Fetched>
        ) : shown === "sheets" ? (
          <Fetched>
            <SheetsPanel />
          </Fetched>
        ) : shown === "links" ? (
          <Fetched>
            <LinksPanel />
          </Fetched>
        ) : file ? (
          <Code key={file.name} name={file.name} text={file.text} language={language} />
        ) : (
          <div className="sheet mx-auto mt-10 max-w-lg self-start" role="status">
            <h2 className="heading">No code yet</h2>
            <p className="mt-1">{handed.ok ? "" : handed.problem}</p>
          </div>
        )}
      </TabPanel>
    </div>
  );
}
