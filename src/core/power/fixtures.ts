import { demoProject } from "@core/demo";
import {
  emptyProject,
  type Joint,
  type Project,
  type Rail,
  type Run,
  type ServoCard,
  type Supply,
  servoCable,
} from "@core/project";

// What the tests of this folder share.
export const demo = demoProject();
const [model] = demo.joints as readonly [Joint];

/** A hobby servo of 5 V: 10 mA at rest, 200 as it turns, 1 A held fast; it may be given 4.8 to 6 V. */
export function plainCard(id: string, change: Partial<ServoCard["rating"]> = {}): ServoCard {
  const card = demo.cards.find((one) => one.id === model.cardId) as ServoCard;
  return {
    ...card,
    id,
    label: id,
    rating: { ...card.rating, atVolts: 5, stallMa: 1000, supplyVolts: { low: 4.8, high: 6 }, ...change },
    currents: { idleMa: 10, movingMa: 200, highestMa: null },
  };
}

export const adapter = (id: string, volts: number, limitMa: number): Supply => ({
  id,
  label: id,
  limitMa,
  gives: { kind: "adapter", volts },
});

/** A run without contacts, so that its resistance is that of its copper: of 1 mm², 29 m there and back are 1 Ω. */
export const wire = (id: string, from: Run["from"], to: Run["to"], ohm: number, change: Partial<Run> = {}): Run => ({
  ...servoCable,
  id,
  from,
  to,
  connector: "soldered",
  areaMm2: 1,
  lengthMm: Math.max(0, (ohm - 0.001) * 29_000),
  ...change,
});

/** A bench with this many plain servos on one board, and what feeds them. */
export function bench(
  count: number,
  feeding: { readonly supplies: readonly Supply[]; readonly rails?: readonly Rail[]; readonly runs: readonly Run[] },
  change: Partial<Project> = {},
): Project {
  const numbers = Array.from({ length: count }, (_, at) => at);
  return {
    ...emptyProject("bench", "Bench"),
    boards: demo.boards,
    rigs: demo.rigs.map((one) => ({ ...one, mirror: [] })),
    cards: numbers.map((at) => plainCard(`card-${at}`)),
    joints: numbers.map((at) => ({ ...model, id: `j${at}`, label: `J${at}`, cardId: `card-${at}`, channel: at })),
    ...feeding,
    ...change,
  };
}

export const supply = (id: string) => ({ kind: "supply", id }) as const;
export const rail = (id: string) => ({ kind: "rail", id }) as const;
export const joint = (id: string) => ({ kind: "joint", id }) as const;
