import { type Paper, papers, type SheetKind, type SheetPage, sheetKinds } from "@core/handOff";
import type { Project } from "@core/project";
import type { Result } from "@core/result";
import { useProject } from "@stores/document";
import { layOutSheets } from "@stores/handingOff";
import { useCallback, useEffect, useState } from "react";
import { PaperProtractor } from "../../dial/PaperProtractor";
import { counted, formatDate } from "../../parts/format";
import { PrintSheet } from "../../parts/PrintSheet";
import { CardsDrawing, CueDrawing, PosesDrawing, WiringDrawing } from "./Drawings";
import { HornDrawings } from "./HornDrawings";
import { PaperPage } from "./PaperPage";

const names: Readonly<Record<SheetKind, string>> = {
  wiring: "Who is on which channel",
  cards: "Servo cards",
  poses: "Poses",
  cues: "Cue sheets",
  protractor: "Protractor",
  horns: "Horn templates",
};
const shortNames: Readonly<Record<SheetKind, string>> = {
  wiring: "Channels",
  cards: "Cards",
  poses: "Poses",
  cues: "Cues",
  protractor: "Protractor",
  horns: "Horns",
};
const isTrue = (kind: SheetKind) => kind === "protractor" || kind === "horns";

/** The bench on paper: one document with page numbers, looked at before it is printed. */
export default function SheetsPanel() {
  const project = useProject((current) => current);
  const [paper, setPaper] = useState<Paper>("A4");
  const [out, setOut] = useState<ReadonlySet<SheetKind>>(new Set());
  /** What was laid out last, and for which paper: until the next is there, that is what is shown. */
  const [laid, setLaid] = useState<{ readonly paper: Paper; readonly pages: Result<readonly SheetPage[]> } | null>(
    null,
  );
  const [isBusy, setIsBusy] = useState(true);
  const [isPrinting, setIsPrinting] = useState(false);
  const done = useCallback(() => setIsPrinting(false), []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the sheets are of the project as it stands.
  useEffect(() => {
    let isOver = false;
    setIsBusy(true);
    void layOutSheets(
      paper,
      sheetKinds.filter((kind) => !out.has(kind)),
    ).then((pages) => {
      if (isOver) return;
      setLaid({ paper, pages });
      setIsBusy(false);
    });
    return () => {
      isOver = true;
    };
  }, [project, paper, out]);
  const list = laid?.pages.ok ? laid.pages.value : [];
  const shown = laid?.paper ?? paper;
  const turn = (kind: SheetKind) =>
    setOut((before) => {
      const next = new Set(before);
      if (!next.delete(kind)) next.add(kind);
      return next;
    });
  return (
    <>
      <div className="flex flex-wrap items-end gap-x-2.5 gap-y-1 py-2">
        <label className="caption flex items-center gap-1.5 pb-0.5">
          Paper
          <select
            aria-label="Paper"
            className="select select-sm w-20 bg-base-100"
            value={paper}
            onChange={(event) => setPaper(event.target.value as Paper)}
          >
            {Object.keys(papers).map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        <fieldset className="flex flex-wrap gap-x-2.5 gap-y-1 pb-1.5">
          <legend className="sr-only">Sheets</legend>
          {sheetKinds.map((kind) => (
            <label key={kind} className="flex cursor-pointer items-center gap-1 text-[0.92rem]">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={!out.has(kind)}
                onChange={() => turn(kind)}
              />
              {shortNames[kind]}
            </label>
          ))}
        </fieldset>
        <button
          type="button"
          className="btn btn-primary btn-sm ml-auto"
          disabled={list.length === 0 || isBusy}
          onClick={() => setIsPrinting(true)}
        >
          Print {counted(list.length, "page")}
        </button>
      </div>
      {laid && !laid.pages.ok && <p className="text-error">{laid.pages.problem}</p>}
      {laid?.pages.ok && list.length === 0 && <p className="caption">Choose what is to stand on paper.</p>}
      <section
        // biome-ignore lint/a11y/noNoninteractiveTabindex: many pages are scrolled by keys as well.
        tabIndex={0}
        aria-label="Pages"
        className="min-h-0 grow overflow-auto rounded-box border border-base-300 bg-base-300/60 p-3"
      >
        <div className="flex flex-wrap justify-center gap-4" style={{ zoom: 0.62 }}>
          <Pages pages={list} paper={shown} project={project} />
        </div>
      </section>
      {isPrinting && (
        <PrintSheet onDone={done}>
          <style>{`@page { size: ${papers[shown].widthMm}mm ${papers[shown].heightMm}mm; margin: 0 }`}</style>
          <Pages pages={list} paper={shown} project={project} />
        </PrintSheet>
      )}
    </>
  );
}

interface PagesProps {
  readonly pages: readonly SheetPage[];
  readonly paper: Paper;
  readonly project: Project;
}

const Pages = ({ pages, paper, project }: PagesProps) => {
  const date = formatDate(new Date().toISOString()).slice(0, 10);
  return pages.map((page, at) => (
    <PaperPage
      // biome-ignore lint/suspicious/noArrayIndexKey: a page is known by its number.
      key={at}
      paper={paper}
      project={project.name}
      title={page.kind === "cues" ? `Cue sheet: ${page.routine}` : names[page.kind]}
      date={date}
      number={at + 1}
      of={pages.length}
      scale={isTrue(page.kind) ? "1 : 1" : "not to scale"}
    >
      {page.kind === "wiring" && <WiringDrawing page={page} />}
      {page.kind === "cards" && <CardsDrawing page={page} project={project} />}
      {page.kind === "poses" && <PosesDrawing page={page} project={project} />}
      {page.kind === "cues" && <CueDrawing page={page} project={project} />}
      {page.kind === "protractor" && <PaperProtractor sweepDeg={360} />}
      {page.kind === "horns" && <HornDrawings page={page} />}
    </PaperPage>
  ));
};
