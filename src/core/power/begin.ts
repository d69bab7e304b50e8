import {
  byId,
  type Gives,
  type Joint,
  type Project,
  type Rail,
  type Run,
  type Supply,
  servoCable,
  usualCable,
  type Wiring,
} from "@core/project";
import { drawOf } from "./draw";
import { netOf, placeIn } from "./net";
import { limitForA } from "./review/rule";

/** Names that nothing on the bench has yet. */
export type NewId = () => string;

/**
 * Supplies, rails and wires for all servos that nothing feeds, and for their boards: one adapter for each voltage that the cards are rated at, strong enough for all of them to
 * start together. A rail that feeds servos of the same rating already takes more of them.
 */
export function wiringForAll(project: Project, newId: NewId): Wiring {
  const net = netOf(project);
  const isFed = (kind: "joint" | "board", id: string) => net.isFed[placeIn(net, kind, id)] === 1;
  const rated = ({ cardId }: Joint) => byId(project.cards, cardId).rating.atVolts;
  const groups = new Map<number, Joint[]>();
  for (const joint of project.joints)
    if (!isFed("joint", joint.id)) groups.set(rated(joint), [...(groups.get(rated(joint)) ?? []), joint]);
  const [supplies, rails, runs]: [Supply[], Rail[], Run[]] = [[], [], []];
  const boardRail = new Map<string, string>();
  for (const [volts, joints] of groups) {
    const neighbour = project.joints.find((joint) => rated(joint) === volts && isFed("joint", joint.id));
    const known = project.runs.find(
      ({ to, from }) => from.kind === "rail" && to.kind === "joint" && to.id === neighbour?.id,
    );
    const railId = known?.from.id ?? newId();
    if (!known) {
      const askedA = joints.reduce((sum, { cardId }) => sum + drawOf(byId(project.cards, cardId)).stallA, 0);
      const supply: Supply = {
        id: newId(),
        label: `${volts} V adapter`,
        limitMa: limitForA(askedA),
        gives: { kind: "adapter", volts },
      };
      supplies.push(supply);
      rails.push({ id: railId, label: `${volts} V rail` });
      const areaMm2 = askedA > 6 ? 1.5 : usualCable.areaMm2;
      runs.push({
        ...usualCable,
        id: newId(),
        areaMm2,
        from: { kind: "supply", id: supply.id },
        to: { kind: "rail", id: railId },
      });
    }
    for (const { id, boardId } of joints) {
      runs.push({ ...servoCable, id: newId(), from: { kind: "rail", id: railId }, to: { kind: "joint", id } });
      // A board of logic is fed from what suits it best, 5 V where there is that.
      if (!boardRail.has(boardId) || volts === 5) boardRail.set(boardId, railId);
    }
  }
  for (const [boardId, railId] of boardRail)
    if (!isFed("board", boardId))
      runs.push({
        ...servoCable,
        id: newId(),
        connector: "headerPin",
        from: { kind: "rail", id: railId },
        to: { kind: "board", id: boardId },
      });
  return { supplies, rails, runs };
}

/** A supply of a kind as it is first put down. */
export function newGives(kind: Gives["kind"], project: Project): Gives {
  switch (kind) {
    case "adapter":
    case "bench":
      return { kind, volts: 5 };
    case "battery":
      return { kind, chemistry: "lithium", cells: 2, capacityMah: 2200, cellMilliohm: 30 };
    case "port":
      return { kind };
    case "pin":
      return { kind, boardId: project.boards[0]?.id ?? "", volts: 5 };
    case "regulator":
      return { kind, works: "switching", volts: 5, headroomVolts: 1, efficiency: 0.9 };
  }
}

export const giveNames: Readonly<Record<Gives["kind"], string>> = {
  adapter: "Mains adapter",
  bench: "Bench supply",
  battery: "Battery",
  regulator: "Regulator",
  port: "A computer's port",
  pin: "A board's pin",
};

/** The most that each kind usually gives, in mA. */
export const usualLimitMa: Readonly<Record<Gives["kind"], number>> = {
  adapter: 3000,
  bench: 5000,
  battery: 20_000,
  regulator: 3000,
  port: 500,
  pin: 400,
};

/** What a supply is, in a few words: `12 V, 8.0 A`. */
export function supplyWords({ gives, limitMa }: Supply): string {
  const limit = `${(limitMa / 1000).toFixed(1)} A`;
  if (gives.kind === "battery") return `${gives.cells} cells, ${(gives.capacityMah / 1000).toFixed(1)} Ah`;
  return `${gives.kind === "port" ? 5 : Math.round(gives.volts * 100) / 100} V, ${limit}`;
}
