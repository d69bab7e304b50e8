import type { ServoCard } from "@core/project";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";

/** The stations that have several parts, and what each part is called, in the order of work. */
export const stationParts = {
  signal: {
    position: "Position",
    working: "Working",
    board: "Board",
    timer: "Timer planner",
    compare: "Side by side",
    sweep: "Sweep",
    wobble: "Wobble",
    waveform: "Waveform",
    unit: "What unit?",
  },
  calibrate: {
    stops: "End stops",
    angles: "Angles",
    check: "Check",
    limits: "Limits",
    read: "By itself",
    rest: "Neutral",
    speed: "Speed",
  },
  inputs: { chain: "Chain", seen: "Seen", log: "Log", control: "Who has it" },
  figure: { hand: "Hand", parts: "Parts", around: "Around", weight: "Weight", file: "Files" },
  routine: { steps: "Steps", check: "Check", takes: "Takes", settings: "Settings" },
  bus: {
    find: "Find and number",
    registers: "Registers",
    watch: "Watch and move",
    packets: "Packets",
    family: "Family",
    time: "Time on the wire",
    faults: "Faults",
  },
  power: { review: "Review", things: "Things", course: "Over time", paper: "Build" },
  remote: { pads: "Pads", devices: "Devices", messages: "Messages", handset: "Handset", log: "Log" },
  "hand-off": { code: "Code", tables: "Tables", sheets: "Sheets", links: "Links" },
} as const;

export type PartedStation = keyof typeof stationParts;
export type PartOf<Station extends PartedStation> = keyof (typeof stationParts)[Station] & string;
export type Part = { readonly [Station in PartedStation]: readonly [Station, PartOf<Station>] }[PartedStation];

/** What is open before a person has chosen: the first, but under Calibrate the angles, which everybody needs. */
const usual: { readonly [Station in PartedStation]?: PartOf<Station> } = { calibrate: "angles" };

/** The parts of a station with their names, as a strip of tabs takes them. */
export const tabsOf = <Station extends PartedStation>(
  station: Station,
): readonly (readonly [PartOf<Station>, string])[] =>
  Object.entries<string>(stationParts[station]) as unknown as (readonly [PartOf<Station>, string])[];

/** What there is to find out about a servo, in the order of work. */
export function calibrateParts(card: ServoCard): readonly PartOf<"calibrate">[] {
  if (card.kind === "continuous") return ["rest", "speed"];
  return card.feedback ? ["stops", "angles", "check", "limits", "read"] : ["stops", "angles", "check", "limits"];
}

const placeOf = (station: PartedStation) => `vantel.part.${station}`;

/** Which parts were opened since the page was; what was open before that, the tab's own store remembers. */
const opened = createStore<Readonly<Record<string, string>>>()(() => ({}));

const openIn = (station: PartedStation, all: Readonly<Record<string, string>>): string | null =>
  all[station] ?? sessionStorage.getItem(placeOf(station));

/** Opens a part of a station, whether that is shown just now or comes later. */
export function openPart<Station extends PartedStation>(station: Station, part: PartOf<Station>): void {
  sessionStorage.setItem(placeOf(station), part);
  opened.setState({ [station]: part });
}

/** The part of a station that is open. */
export function useOpenPart<Station extends PartedStation>(station: Station): PartOf<Station> {
  const known = tabsOf(station);
  const part = useStore(opened, (all) => openIn(station, all));
  return (known.find(([id]) => id === part) ?? [usual[station] ?? known[0]?.[0]])[0] as PartOf<Station>;
}
