import type { HandedOff } from "@core/handOff";
import type { Result } from "@core/result";
import { useProject } from "@stores/document";
import { notify } from "@stores/notices";
import { useVirtualizer } from "@tanstack/react-virtual";
import { strToU8, zip } from "fflate";
import { lazy, Suspense, useCallback, useId, useMemo, useRef, useState } from "react";
import { saveBytes, saveFile } from "../parts/saveFile";
import { TabPanel, TabStrip } from "../parts/TabStrip";
import { explained, sectionsOf } from "./explained";
import { pieces, type Tone, withinComments } from "./highlight";

const TakeBackSheet = lazy(() => import("./TakeBackSheet"));

interface CodePanelProps {
  readonly handed: Result<HandedOff> | null;
  readonly isBusy: boolean;
}

/** The files as they will be: shown, copied, saved. */
export function CodePanel({ handed, isBusy }: CodePanelProps) {
  const panelId = useId();
  const [name, setName] = useState("");
  const [isTakingBack, setIsTakingBack] = useState(false);
  const close = useCallback(() => setIsTakingBack(false), []);
  if (!handed) return <p className="caption mt-10 text-center">The code is being written…</p>;
  if (!handed.ok)
    return (
      <div className="sheet mx-auto mt-10 max-w-lg self-start" role="status">
        <h2 className="heading">No code yet</h2>
        <p className="mt-1">{handed.problem}</p>
      </div>
    );
  const { files } = handed.value;
  const file = files.find((one) => one.name === name) ?? files.at(-1);
  if (!file) return null;
  const copy = async () => {
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
          tabs={files.map((one) => [one.name, one.name] as const)}
          chosen={file.name}
          onChoose={setName}
          className="grow"
        />
        <button
          type="button"
          className="btn btn-primary btn-sm"
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
      </div>
      <Suspense>{isTakingBack && <TakeBackSheet onClose={close} />}</Suspense>
      <TabPanel id={panelId} tab={file.name} className="flex min-h-0 grow flex-col">
        <Code key={file.name} name={file.name} text={file.text} />
      </TabPanel>
    </div>
  );
}

const tones: Readonly<Record<Tone, string>> = {
  plain: "",
  comment: "text-base-content/70 italic",
  number: "text-primary",
  word: "font-semibold",
  name: "text-secondary",
  text: "text-secondary",
};
const lineHeightPx = 19;

/** One file with line numbers; only what is seen is drawn. What is pointed at is explained underneath. */
function Code({ name, text }: { readonly name: string; readonly text: string }) {
  const language = useProject((project) => project.handOff.language);
  const box = useRef<HTMLElement>(null);
  const lines = useMemo(() => text.split("\n"), [text]);
  const within = useMemo(() => withinComments(lines, language), [lines, language]);
  const sections = useMemo(() => sectionsOf(lines), [lines]);
  const [pointed, setPointed] = useState(0);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => lineHeightPx,
    overscan: 20,
  });
  return (
    <>
      <nav className="flex flex-wrap gap-x-3 py-1 text-sm" aria-label="Parts of the file">
        {sections.map(({ title, line }) => (
          <button
            key={title}
            type="button"
            className="link-hover cursor-pointer"
            onClick={() => {
              rows.scrollToIndex(line, { align: "start" });
              setPointed(line);
            }}
          >
            {title}
          </button>
        ))}
      </nav>
      <section
        ref={box}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: long code is scrolled by keys as well.
        tabIndex={0}
        aria-label={name}
        className="number min-h-0 grow overflow-auto rounded-box border border-base-300 bg-base-100 text-[0.8rem] leading-[19px]"
      >
        <pre className="relative w-max min-w-full" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((row) => (
            <div
              key={row.key}
              className="absolute top-0 left-0 flex min-w-full hover:bg-base-200"
              style={{ height: lineHeightPx, transform: `translateY(${row.start}px)` }}
              onPointerEnter={() => setPointed(row.index)}
            >
              <span
                className="sticky left-0 w-12 shrink-0 bg-base-100 pr-3 text-right text-base-content/60 select-none"
                aria-hidden="true"
              >
                {row.index + 1}
              </span>
              <code>
                {pieces(lines[row.index] ?? "", language, within[row.index] ?? false).map((piece, at) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of a line have no other name.
                  <span key={at} className={tones[piece.tone]}>
                    {piece.text}
                  </span>
                ))}
              </code>
            </div>
          ))}
        </pre>
      </section>
      <p className="min-h-10 pt-1 text-sm" data-readout="explained">
        {explained(lines, sections, pointed)}
      </p>
    </>
  );
}
