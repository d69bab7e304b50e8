import { navigate } from "astro:transitions/client";
import type { ServoCard } from "@core/project";
import type { Clue, CluePlace } from "@core/symptoms";
import { openLead } from "@stores/inputsView";
import { command } from "@stores/live";
import { calibrateTabs, openTab, stationTabs, type TabbedStation, type TabOf, tabsOf } from "@stores/stationTabs";
import { stations } from "../stations";
import { linksId } from "./linksId";

/** A tab of a station, or another place, and what it is called. */
export interface Place {
  readonly words: string;
  readonly go: () => void;
  /** It is done where one is. */
  readonly isHere?: boolean;
}

const labelOf = (station: TabbedStation) => stations.find(({ id }) => id === station)?.label ?? station;

function walkTo(path: string): void {
  // To where one is already would lay out everything anew.
  if (location.pathname.replace(/\/$/, "") !== path) void navigate(path);
}

export const tabPlace = <Station extends TabbedStation>(station: Station, tab: TabOf<Station>): Place => ({
  words: `${labelOf(station)}: ${stationTabs[station][tab]}`,
  go: () => {
    openTab(station, tab);
    walkTo(`/${station}`);
  },
});

/** All tabs of all stations; under Calibrate those that such a servo has. */
export const tabPlaces = (card: ServoCard | null): readonly Place[] =>
  (Object.keys(stationTabs) as TabbedStation[]).flatMap((station) =>
    station === "calibrate"
      ? (card ? calibrateTabs(card) : []).map((tab) => tabPlace(station, tab))
      : tabsOf(station).map(([tab]) => tabPlace(station, tab)),
  );

const places: Readonly<Record<CluePlace, (jointId: string) => Place>> = {
  links: () => ({ words: "The links", go: () => document.getElementById(linksId)?.showPopover() }),
  hold: (jointId) => ({ words: "Hold it", go: () => command({ kind: "hold", jointId }), isHere: true }),
  drive: () => ({ words: "Drive", go: () => walkTo("/drive") }),
  position: () => tabPlace("signal", "position"),
  board: () => tabPlace("signal", "board"),
  sideBySide: () => tabPlace("signal", "compare"),
  sweep: () => tabPlace("signal", "sweep"),
  wobble: () => tabPlace("signal", "wobble"),
  unit: () => tabPlace("signal", "unit"),
  stops: () => tabPlace("calibrate", "stops"),
  angles: () => tabPlace("calibrate", "angles"),
  check: () => tabPlace("calibrate", "check"),
  limits: () => tabPlace("calibrate", "limits"),
  neutral: () => tabPlace("calibrate", "rest"),
  weight: () => tabPlace("figure", "weight"),
  chain: () => tabPlace("inputs", "chain"),
  control: () => tabPlace("inputs", "control"),
  wiring: () => tabPlace("power", "review"),
  course: () => tabPlace("power", "course"),
  routine: () => tabPlace("routine", "check"),
  scan: () => tabPlace("bus", "find"),
  sheets: () => tabPlace("hand-off", "sheets"),
};

/** Where one gets on with a clue about a joint. */
export function placeOfClue({ place, leadId }: Clue, jointId: string): Place {
  const found = places[place](jointId);
  return {
    ...found,
    go: () => {
      if (leadId !== undefined) openLead(leadId);
      found.go();
    },
  };
}
