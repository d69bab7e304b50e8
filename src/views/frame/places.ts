import { navigate } from "astro:transitions/client";
import type { ServoCard } from "@core/project";
import type { Clue, CluePlace } from "@core/symptoms";
import { openLead } from "@stores/inputsView";
import { command } from "@stores/live";
import { calibrateParts, openPart, type PartedStation, type PartOf, stationParts, tabsOf } from "@stores/stationParts";
import { stations } from "../stations";
import { linksId } from "./linksId";

/** A part of a station, and what both are called. */
export interface Place {
  readonly words: string;
  readonly go: () => void;
  /** It is done where one is. */
  readonly isHere?: boolean;
}

const labelOf = (station: PartedStation) => stations.find(({ id }) => id === station)?.label ?? station;

function walkTo(path: string): void {
  // To where one is already would lay out everything anew.
  if (location.pathname.replace(/\/$/, "") !== path) void navigate(path);
}

export const partPlace = <Station extends PartedStation>(station: Station, part: PartOf<Station>): Place => ({
  words: `${labelOf(station)}: ${stationParts[station][part]}`,
  go: () => {
    openPart(station, part);
    walkTo(`/${station}`);
  },
});

/** All parts of all stations; under Calibrate those that such a servo has. */
export const partPlaces = (card: ServoCard | null): readonly Place[] =>
  (Object.keys(stationParts) as PartedStation[]).flatMap((station) =>
    station === "calibrate"
      ? (card ? calibrateParts(card) : []).map((part) => partPlace(station, part))
      : tabsOf(station).map(([part]) => partPlace(station, part)),
  );

const places: Readonly<Record<CluePlace, (jointId: string) => Place>> = {
  links: () => ({ words: "The links", go: () => document.getElementById(linksId)?.showPopover() }),
  hold: (jointId) => ({ words: "Hold it", go: () => command({ kind: "hold", jointId }), isHere: true }),
  drive: () => ({ words: "Drive", go: () => walkTo("/drive") }),
  position: () => partPlace("signal", "position"),
  board: () => partPlace("signal", "board"),
  sideBySide: () => partPlace("signal", "compare"),
  sweep: () => partPlace("signal", "sweep"),
  wobble: () => partPlace("signal", "wobble"),
  unit: () => partPlace("signal", "unit"),
  stops: () => partPlace("calibrate", "stops"),
  angles: () => partPlace("calibrate", "angles"),
  check: () => partPlace("calibrate", "check"),
  limits: () => partPlace("calibrate", "limits"),
  neutral: () => partPlace("calibrate", "rest"),
  chain: () => partPlace("inputs", "chain"),
  control: () => partPlace("inputs", "control"),
  wiring: () => partPlace("power", "review"),
  course: () => partPlace("power", "course"),
  routine: () => partPlace("routine", "check"),
  scan: () => partPlace("bus", "find"),
  sheets: () => partPlace("hand-off", "sheets"),
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
