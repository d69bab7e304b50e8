import type { ServoCard } from "@core/project";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";

/** The stations that have several tabs, and what each is called, in the order of work. */
export const stationTabs = {
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

export type TabbedStation = keyof typeof stationTabs;
export type TabOf<Station extends TabbedStation> = keyof (typeof stationTabs)[Station] & string;

/** What is open before a person has chosen: the first, but under Calibrate the angles, which everybody needs. */
const usual: { readonly [Station in TabbedStation]?: TabOf<Station> } = { calibrate: "angles" };

/** The tabs of a station with their names, as a strip takes them. */
export const tabsOf = <Station extends TabbedStation>(
  station: Station,
): readonly (readonly [TabOf<Station>, string])[] =>
  Object.entries<string>(stationTabs[station]) as unknown as (readonly [TabOf<Station>, string])[];

/** What there is to find out about a servo, in the order of work. */
export function calibrateTabs(card: ServoCard): readonly TabOf<"calibrate">[] {
  if (card.kind === "continuous") return ["rest", "speed"];
  return card.feedback ? ["stops", "angles", "check", "limits", "read"] : ["stops", "angles", "check", "limits"];
}

const placeOf = (station: TabbedStation) => `vantel.tab.${station}`;

/** Which tabs were opened since the page was; what was open before that, the session's store remembers. */
const opened = createStore<Readonly<Record<string, string>>>()(() => ({}));

const openIn = (station: TabbedStation, all: Readonly<Record<string, string>>): string | null =>
  all[station] ?? sessionStorage.getItem(placeOf(station));

/** Opens a tab of a station, whether that is shown just now or comes later. */
export function openTab<Station extends TabbedStation>(station: Station, tab: TabOf<Station>): void {
  sessionStorage.setItem(placeOf(station), tab);
  opened.setState({ [station]: tab });
}

/** The tab of a station that is open. */
export function useOpenTab<Station extends TabbedStation>(station: Station): TabOf<Station> {
  const known = tabsOf(station);
  const tab = useStore(opened, (all) => openIn(station, all));
  return (known.find(([id]) => id === tab) ?? [usual[station] ?? known[0]?.[0]])[0] as TabOf<Station>;
}
