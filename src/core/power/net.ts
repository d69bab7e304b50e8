import { byId, type Project, placeOfEnd, type Run, type Supply, usualBoardPower } from "@core/project";
import { innerOhm, restingVolts } from "./cells";
import { pairOhm } from "./conductor";
import { connectors, switchMilliohm } from "./connectors";
import { fuseMilliohm } from "./fuses";

/**
 * What feeds what, made ready for sums.
 *
 * | word | is |
 * | --- | --- |
 * | place | a supply, a rail, a board or a joint: where a run begins or ends; it stands in `places` by its number |
 * | parent | the place that feeds it; −1 for one that nothing feeds |
 * | root | a supply that needs no other |
 */
export interface Net {
  /** Each behind the one that feeds it. */
  readonly places: readonly Place[];
  readonly parents: Int32Array;
  /** The run that feeds each place; null for roots, for what nothing feeds, and for the pin of a board. */
  readonly runs: readonly (Run | null)[];
  /** Of that run, there and back, with its connectors, fuse and switch. */
  readonly ohms: Float64Array;
  /** Whether a supply stands at its beginning, by place. */
  readonly isFed: Uint8Array;
  /** Runs that feed what another feeds already. */
  readonly seconds: readonly Run[];
}

export type Place =
  | { readonly kind: "supply"; readonly id: string; readonly supply: Supply }
  | { readonly kind: "rail" | "joint"; readonly id: string }
  | { readonly kind: "board"; readonly id: string; readonly drawA: number };

/** All resistance of a run, in Ω, at a temperature of its copper. */
export function runOhm({ lengthMm, areaMm2, connector, fuse, hasSwitch }: Run, atC = 20): number {
  const contacts =
    2 * connectors[connector].milliohm + (hasSwitch ? switchMilliohm : 0) + (fuse ? fuseMilliohm(fuse) : 0);
  return pairOhm(lengthMm, areaMm2, atC) + contacts / 1000;
}

/** Whether a supply needs another that feeds it. */
export const isRoot = ({ gives }: Supply): boolean => gives.kind !== "regulator" && gives.kind !== "pin";

export function netOf({ supplies, rails, boards, joints, runs }: Project): Net {
  const all: readonly Place[] = [
    ...supplies.map((supply): Place => ({ kind: "supply", id: supply.id, supply })),
    ...rails.map(({ id }): Place => ({ kind: "rail", id })),
    ...boards.map(({ id, power }): Place => ({ kind: "board", id, drawA: (power ?? usualBoardPower).drawMa / 1000 })),
    ...joints.map(({ id }): Place => ({ kind: "joint", id })),
  ];
  const byName = new Map(all.map((place) => [placeOfEnd(place), place]));
  const feeding = new Map<Place, { readonly from: Place; readonly run: Run | null }>();
  const seconds: Run[] = [];
  for (const run of runs) {
    const [from, to] = [byName.get(placeOfEnd(run.from)), byName.get(placeOfEnd(run.to))];
    if (!from || !to || run.carries === "ground") continue;
    // A supply that needs no other and is fed by one is joined with it.
    if (feeding.has(to) || (to.kind === "supply" && !(to.supply.gives.kind === "regulator"))) seconds.push(run);
    else feeding.set(to, { from, run });
  }
  for (const place of all)
    if (place.kind === "supply" && place.supply.gives.kind === "pin") {
      const board = byName.get(`board:${place.supply.gives.boardId}`);
      if (board) feeding.set(place, { from: board, run: null });
    }
  const places = inOrder(all, (place) => feeding.get(place)?.from);
  const numbers = new Map(places.map((place, at) => [place, at]));
  const parents = Int32Array.from(places, (place) => {
    const from = feeding.get(place)?.from;
    return from ? (numbers.get(from) ?? -1) : -1;
  });
  const isFed = new Uint8Array(places.length);
  places.forEach((place, at) => {
    const parent = parents[at] as number;
    isFed[at] = parent >= 0 ? (isFed[parent] as number) : place.kind === "supply" && isRoot(place.supply) ? 1 : 0;
  });
  const lead = places.map((place) => feeding.get(place)?.run ?? null);
  return {
    places,
    parents,
    runs: lead,
    ohms: Float64Array.from(lead, (run) => (run ? runOhm(run) : 0)),
    isFed,
    seconds,
  };
}

function inOrder(all: readonly Place[], before: (place: Place) => Place | undefined): readonly Place[] {
  const done = new Set<Place>();
  const add = (place: Place, hops: number): void => {
    if (done.has(place)) return;
    const from = before(place);
    // The document has no rings; a net that is asked all the same comes to an end.
    if (from && hops < all.length) add(from, hops + 1);
    done.add(place);
  };
  for (const place of all) add(place, 0);
  return [...done];
}

/** The number of a place; −1 for one that is not there. */
export const placeIn = ({ places }: Net, kind: Place["kind"], id: string): number =>
  places.findIndex((place) => place.kind === kind && place.id === id);

/** The supply straight before a place, whatever rails lie between; null for what nothing feeds. */
export function supplyBefore({ places, parents }: Net, at: number): Supply | null {
  for (let up = parents[at] as number; up >= 0; up = parents[up] as number) {
    const place = places[up] as Place;
    if (place.kind === "supply") return place.supply;
  }
  return null;
}

/** The joints that a supply feeds, by id, through rails, and through regulators and pins behind it. */
export function jointsFedBy(net: Net, supplyId: string): readonly string[] {
  const isBehind = new Uint8Array(net.places.length);
  return net.places.flatMap((place, at) => {
    const parent = net.parents[at] as number;
    isBehind[at] = (place.kind === "supply" && place.id === supplyId) || (parent >= 0 && isBehind[parent]) ? 1 : 0;
    return isBehind[at] && place.kind === "joint" ? [place.id] : [];
  });
}

/** What a supply gives while nothing is asked of it, and its own resistance. A battery by its charge, 0 to 1. */
export function sourceOf({ gives }: Supply, charge: number): { readonly volts: number; readonly ohm: number } {
  switch (gives.kind) {
    case "battery":
      return { volts: restingVolts(gives, charge), ohm: innerOhm(gives) };
    case "port":
      return { volts: portVolts, ohm: 0 };
    case "adapter":
    case "bench":
    case "pin":
    case "regulator":
      return { volts: gives.volts, ohm: 0 };
  }
}

/** A computer's port gives this, in V. */
export const portVolts = 5;

/** What a place is called. */
export function placeLabel(project: Project, { kind, id }: Pick<Place, "kind" | "id">): string {
  const items = { supply: project.supplies, rail: project.rails, board: project.boards, joint: project.joints }[kind];
  return byId(items as readonly { readonly id: string; readonly label: string }[], id).label;
}
