import type { Project, Run } from "@core/project";
import { giveNames, supplyWords } from "./begin";
import { gaugeOfArea } from "./conductor";
import { connectors } from "./connectors";
import { placeLabel } from "./net";

export interface WireRow {
  /** As on the drawing: W1, W2… */
  readonly number: string;
  readonly from: string;
  readonly to: string;
  readonly carries: string;
  readonly lengthMm: number;
  readonly areaMm2: number;
  readonly gauge: number;
  readonly connector: string;
  readonly fuse: string;
  /** What is written on its two ends. */
  readonly labels: readonly [from: string, to: string];
}

const carriesWords: Readonly<Record<Run["carries"], string>> = {
  both: "supply and ground",
  supply: "supply",
  ground: "ground",
};

/** Every run of wire, with the labels for its ends. */
export const wireList = (project: Project): readonly WireRow[] =>
  project.runs.map((run, at) => {
    const [from, to] = [placeLabel(project, run.from), placeLabel(project, run.to)];
    const number = `W${at + 1}`;
    return {
      number,
      from,
      to,
      carries: carriesWords[run.carries],
      lengthMm: run.lengthMm,
      areaMm2: run.areaMm2,
      gauge: gaugeOfArea(run.areaMm2),
      connector: connectors[run.connector].name,
      fuse: run.fuse ? `${run.fuse.ratedMa / 1000} A, ${run.fuse.blows}` : "",
      labels: [`${number} to ${to}`, `${number} from ${from}`],
    };
  });

export const wireTable = (project: Project): readonly (readonly (string | number)[])[] => [
  [
    "number",
    "from",
    "to",
    "conductors",
    "length_mm",
    "area_mm2",
    "gauge",
    "connector",
    "fuse",
    "label_at_from",
    "label_at_to",
  ],
  ...wireList(project).map((row) => [
    row.number,
    row.from,
    row.to,
    row.carries,
    row.lengthMm,
    row.areaMm2,
    row.gauge,
    row.connector,
    row.fuse,
    ...row.labels,
  ]),
];

export interface ShoppingRow {
  readonly what: string;
  readonly howMuch: string;
}

/** One cuts a little generously. */
const spareShare = 1.1;

/** What has to be at hand: supplies, wire by its copper, connectors, fuses, switches. */
export function shoppingList({ supplies, runs }: Project): readonly ShoppingRow[] {
  const count = new Map<string, number>();
  const add = (what: string) => count.set(what, (count.get(what) ?? 0) + 1);
  for (const supply of supplies)
    if (supply.gives.kind !== "port" && supply.gives.kind !== "pin")
      add(`${giveNames[supply.gives.kind]}, ${supplyWords(supply)}`);
  const wire = new Map<number, number>();
  for (const { lengthMm, areaMm2, carries, connector, fuse, hasSwitch } of runs) {
    wire.set(areaMm2, (wire.get(areaMm2) ?? 0) + lengthMm * (carries === "both" ? 2 : 1));
    if (connector !== "soldered") add(`${connectors[connector].name}, pair`);
    if (fuse) add(`Fuse ${fuse.ratedMa / 1000} A, ${fuse.blows}, with holder`);
    if (hasSwitch) add("Switch");
  }
  return [
    ...[...count].map(([what, number]) => ({ what: sentenceCase(what), howMuch: String(number) })),
    ...[...wire]
      .sort(([a], [b]) => a - b)
      .map(([areaMm2, mm]) => ({
        what: `Wire of ${areaMm2} mm² (gauge ${gaugeOfArea(areaMm2)}), single`,
        howMuch: `${(Math.ceil(Math.round(mm * spareShare) / 100) / 10).toFixed(1)} m`,
      })),
  ];
}

const sentenceCase = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
