import { byId, type Project, type Run } from "@core/project";
import { supplyWords } from "./begin";
import { type Box, type Drawing, runWords, type Wire } from "./drawing";
import { wireColour } from "./wireColour";

const ink = "#1c1a17";
const escaped = (text: string) =>
  text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll('"', "&quot;");
const short = (value: number) => String(Number(value.toFixed(3)));

/** A piece of the sheet, between two heights. */
export interface Slice {
  readonly fromMm: number;
  readonly toMm: number;
}

/**
 * The drawing as an SVG file, true to scale: its width and height are in mm. Black on white, with nothing from outside; every run says what it is, in numbers of the wire
 * list.
 */
export function drawingSvg(project: Project, drawing: Drawing, slice: Slice | null = null, scale = 1): string {
  const { fromMm, toMm } = slice ?? { fromMm: 0, toMm: drawing.heightMm };
  const height = toMm - fromMm;
  const numbers = new Map(project.runs.map(({ id }, at) => [id, `W${at + 1}`]));
  const lines = [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${short(drawing.widthMm * scale)}mm" height="${short(height * scale)}mm" viewBox="0 ${short(fromMm)} ${short(drawing.widthMm)} ${short(height)}" font-family="sans-serif" fill="${ink}">`,
    `<title>${escaped(project.name)}: wiring</title>`,
    ...drawing.wires.map(wirePath),
    ...runLabels(project, drawing, numbers),
    ...drawing.boxes.flatMap((box) => boxMarks(project, box)),
    "</svg>",
  ];
  return lines.join("\n");
}

const lineOf = (points: Wire["points"]) =>
  points.map(([x, y], at) => `${at === 0 ? "M" : "L"}${short(x)} ${short(y)}`).join("");

function wirePath(wire: Wire): string {
  const d = lineOf(wire.points);
  return `<path d="${d}" fill="none" stroke="${ink}" stroke-width="0.78"/><path d="${d}" fill="none" stroke="${wireColour(wire)}" stroke-width="0.5"/>`;
}

function runLabels(project: Project, { wires }: Drawing, numbers: ReadonlyMap<string, string>): string[] {
  return project.runs.flatMap((run) => {
    const points = wires.find(({ of }) => of.kind === "run" && of.id === run.id)?.points;
    if (!points) return [];
    const { x, y } = labelPlace(run, points);
    const fuse = run.fuse ? `, fuse ${run.fuse.ratedMa / 1000} A` : "";
    return [
      `<text x="${short(x + 0.8)}" y="${short(y - 1.3)}" font-size="2.2">${numbers.get(run.id) ?? ""} · ${escaped(runWords(run).replace(/ \(.*\)/, ""))}${fuse}</text>`,
    ];
  });
}

/** Where what is written on a run begins: over its last piece; of a short one under the supply that it comes from, or over the one that it leads to. */
export function labelPlace({ from, to }: Run, points: Wire["points"]): { readonly x: number; readonly y: number } {
  const begin = points[0] ?? [0, 0];
  const last = points.at(-1) ?? begin;
  const before = points.at(-2) ?? begin;
  if (to.kind === "rail" && from.kind === "supply") return { x: begin[0] - 30.5, y: begin[1] + 10.6 };
  return to.kind === "supply" ? { x: last[0] - 0.8, y: last[1] - 5.8 } : { x: before[0], y: last[1] };
}

function boxMarks(project: Project, { kind, id, label, xMm, yMm, wMm, hMm, pins }: Box): string[] {
  const text = (x: number, y: number, size: number, words: string, more = "") =>
    `<text x="${short(x)}" y="${short(y)}" font-size="${size}"${more}>${escaped(words)}</text>`;
  const rect = `<rect x="${short(xMm)}" y="${short(yMm)}" width="${short(wMm)}" height="${short(hMm)}" rx="${kind === "joint" ? short(hMm / 2) : 0.6}" fill="#fff" stroke="${ink}" stroke-width="0.35"/>`;
  if (kind === "rail") return [rect, text(xMm + wMm, yMm - 1.3, 2.5, label, ' text-anchor="end" font-weight="bold"')];
  const x = xMm + (kind === "board" ? 5 : 2);
  const isLow = hMm < 8;
  const name = text(x, yMm + (isLow ? hMm / 2 + 0.9 : 4), 2.6, label, ' font-weight="bold"');
  const what = kind === "supply" ? [text(x, yMm + 7.4, 2.2, supplyWords(byId(project.supplies, id)))] : [];
  const numbered = pins.flatMap(({ yMm: y, number }) => [
    `<rect x="${short(xMm)}" y="${short(y - 1.3)}" width="4" height="2.6" fill="#fff" stroke="${ink}" stroke-width="0.25"/>`,
    text(xMm + 2, y + 0.8, 2.1, String(number), ' text-anchor="middle"'),
  ]);
  return [rect, name, ...what, ...numbered];
}

/** Cuts a drawing into sheets of this height, between its rows. */
export function slicesOf({ cutsMm, heightMm }: Drawing, roomMm: number): readonly Slice[] {
  const slices: Slice[] = [];
  let fromMm = 0;
  while (heightMm - fromMm > roomMm) {
    const cut = cutsMm.findLast((at) => at > fromMm + 1 && at <= fromMm + roomMm) ?? fromMm + roomMm;
    slices.push({ fromMm, toMm: cut });
    fromMm = cut;
  }
  return [...slices, { fromMm, toMm: heightMm }];
}
