import { type Paper, papers, roomMm, widthMm } from "@core/handOff";
import { type Drawing, drawingSvg, shoppingList, slicesOf, wireList, wireTable } from "@core/power";
import type { Project } from "@core/project";
import { useCallback, useMemo, useState } from "react";
import { PaperRule } from "../dial/PaperProtractor";
import { PaperPage } from "../handOff/sheets/PaperPage";
import { writeCsv } from "../parts/csv";
import { counted, formatDate } from "../parts/format";
import { PrintSheet } from "../parts/PrintSheet";
import { saveFile } from "../parts/saveFile";
import { SwitchOnPanel } from "./SwitchOnPanel";

interface PaperPanelProps {
  readonly project: Project;
  readonly drawing: Drawing;
}

/** Under the drawing a page has a ruler to prove its scale by, and this much room for it. */
const rulerMm = 13;

/** What one takes to the workshop: the drawing on paper and as a file, the order in which to connect it, every wire with the labels of its ends, and what to buy. */
export function PaperPanel({ project, drawing }: PaperPanelProps) {
  const [paper, setPaper] = useState<Paper>("A4");
  const [isPrinting, setIsPrinting] = useState(false);
  const done = useCallback(() => setIsPrinting(false), []);
  const scale = Math.min(1, widthMm / drawing.widthMm);
  const pages = useMemo(() => slicesOf(drawing, (roomMm(paper) - rulerMm) / scale), [drawing, paper, scale]);
  const wires = useMemo(() => wireList(project), [project]);
  const name = project.name.toLowerCase().replaceAll(/[^a-z0-9]+/g, "-");
  return (
    <div className="flex flex-col gap-3 text-sm">
      <div className="flex flex-wrap items-center gap-1.5">
        <select
          aria-label="Paper"
          className="select select-sm w-24 bg-base-100"
          value={paper}
          onChange={(event) => setPaper(event.target.value as Paper)}
        >
          {Object.keys(papers).map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
        <button type="button" className="btn btn-sm btn-primary" onClick={() => setIsPrinting(true)}>
          Print {counted(pages.length, "page")}
        </button>
        <button
          type="button"
          className="btn btn-sm btn-outline"
          onClick={() => saveFile(`${name}-wiring.svg`, drawingSvg(project, drawing), "image/svg+xml")}
        >
          SVG
        </button>
      </div>
      <SwitchOnPanel project={project} />
      <section>
        <div className="flex items-center">
          <h3 className="heading mr-auto text-sm">Wires, with the labels of their ends</h3>
          <button
            type="button"
            className="btn btn-xs btn-outline"
            aria-label="Wire list as CSV"
            onClick={() => saveFile(`${name}-wires.csv`, writeCsv(wireTable(project)), "text/csv")}
          >
            CSV
          </button>
        </div>
        <table className="mt-1 w-full" data-wires>
          <tbody>
            {wires.map(({ number, from, to, lengthMm, areaMm2 }) => (
              <tr key={number} className="border-t border-base-300">
                <th className="number py-0.5 pr-2 text-left font-normal">{number}</th>
                <td>
                  {from} → {to}
                </td>
                <td className="number text-right whitespace-nowrap">
                  {Math.round(lengthMm / 10)} cm, {areaMm2} mm²
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section>
        <div className="flex items-center">
          <h3 className="heading mr-auto text-sm">To buy</h3>
          <button
            type="button"
            className="btn btn-xs btn-outline"
            aria-label="Shopping list as CSV"
            onClick={() =>
              saveFile(
                `${name}-shopping.csv`,
                writeCsv([["what", "how_much"], ...shoppingList(project).map(({ what, howMuch }) => [what, howMuch])]),
                "text/csv",
              )
            }
          >
            CSV
          </button>
        </div>
        <table className="mt-1 w-full" data-shopping>
          <tbody>
            {shoppingList(project).map(({ what, howMuch }) => (
              <tr key={what} className="border-t border-base-300">
                <td className="py-0.5">{what}</td>
                <td className="number text-right whitespace-nowrap">{howMuch}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {isPrinting && (
        <PrintSheet onDone={done}>
          <style>{`@page { size: ${papers[paper].widthMm}mm ${papers[paper].heightMm}mm; margin: 0 }`}</style>
          {pages.map((slice, at) => (
            <PaperPage
              key={slice.fromMm}
              paper={paper}
              project={project.name}
              title="Wiring"
              date={formatDate(new Date().toISOString()).slice(0, 10)}
              number={at + 1}
              of={pages.length}
              scale={scale === 1 ? "1 : 1" : `1 : ${(1 / scale).toFixed(2)}`}
            >
              <img
                alt="Wiring"
                data-sheet
                src={`data:image/svg+xml;utf8,${encodeURIComponent(drawingSvg(project, drawing, slice, scale))}`}
                style={{ width: `${drawing.widthMm * scale}mm`, height: `${(slice.toMm - slice.fromMm) * scale}mm` }}
              />
              <svg
                width="110mm"
                height={`${rulerMm}mm`}
                viewBox={`0 0 110 ${rulerMm}`}
                className="shrink-0"
                data-ruler
                aria-hidden="true"
              >
                <PaperRule x={5} y={6} />
              </svg>
            </PaperPage>
          ))}
        </PrintSheet>
      )}
    </div>
  );
}
