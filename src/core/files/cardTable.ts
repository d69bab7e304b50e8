import { fitCurve, lineError } from "@core/calibrate";
import { conventionOf, doubtfulSentence, numberIn } from "@core/numbers";
import { type ServoCard, servoCardSchema } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { calibrationInForce, newCard } from "@core/servo";

/**
 * Servo cards as a table, one row each, for a spreadsheet: the sheet's values and the straight line of the calibration in force. Units stand
 * in the column's names. A table holds no measured points, so a card that comes in from one is not calibrated.
 */
interface Column {
  readonly name: string;
  readonly write: (card: ServoCard) => string | number | null;
  /** Puts what a cell says on a card; missing for what is only told. */
  readonly read?: (card: ServoCard, cell: string, numberOf: (cell: string) => number) => ServoCard;
}

const travelling = (card: ServoCard, change: (card: Exclude<ServoCard, { kind: "continuous" }>) => ServoCard) =>
  card.kind === "continuous" ? card : change(card);
const volts = (card: ServoCard) => card.rating.supplyVolts ?? { low: Number.NaN, high: Number.NaN };
const pointsOf = (card: ServoCard) => {
  const made = calibrationInForce(card);
  return made && made.kind !== "spin" ? made.points : [];
};
const lineOf = (card: ServoCard) => {
  const fit = fitCurve("line", pointsOf(card));
  return fit.ok ? fit.value : null;
};
/** In 95 of 100 cases the true number is no further off than this. */
const errorOf = (card: ServoCard) => (lineOf(card) ? lineError(pointsOf(card)) : null);

const columns: readonly Column[] = [
  { name: "label", write: (card) => card.label, read: (card, cell) => ({ ...card, label: cell }) },
  { name: "kind", write: (card) => card.kind },
  {
    name: "travel_deg",
    write: (card) => (card.kind === "continuous" ? null : card.travelDeg),
    read: (card, cell, numberOf) => travelling(card, (one) => ({ ...one, travelDeg: numberOf(cell) })),
  },
  {
    name: "nominal_low",
    write: (card) => (card.kind === "continuous" ? card.nominal.back : card.nominal.low),
    read: (card, cell, numberOf) =>
      card.kind === "continuous"
        ? { ...card, nominal: { ...card.nominal, back: numberOf(cell) } }
        : { ...card, nominal: { ...card.nominal, low: numberOf(cell) } },
  },
  {
    name: "nominal_high",
    write: (card) => (card.kind === "continuous" ? card.nominal.forward : card.nominal.high),
    read: (card, cell, numberOf) =>
      card.kind === "continuous"
        ? { ...card, nominal: { ...card.nominal, forward: numberOf(cell) } }
        : { ...card, nominal: { ...card.nominal, high: numberOf(cell) } },
  },
  {
    name: "window_low",
    write: (card) => card.window.low,
    read: (card, cell, numberOf) => ({ ...card, window: { ...card.window, low: numberOf(cell) } }),
  },
  {
    name: "window_high",
    write: (card) => card.window.high,
    read: (card, cell, numberOf) => ({ ...card, window: { ...card.window, high: numberOf(cell) } }),
  },
  {
    name: "stop_low",
    write: (card) => card.endStops.low,
    read: (card, cell, numberOf) => ({ ...card, endStops: { ...card.endStops, low: numberOf(cell) } }),
  },
  {
    name: "stop_high",
    write: (card) => card.endStops.high,
    read: (card, cell, numberOf) => ({ ...card, endStops: { ...card.endStops, high: numberOf(cell) } }),
  },
  {
    name: "deadband",
    write: (card) => card.deadband,
    read: (card, cell, numberOf) => ({ ...card, deadband: numberOf(cell) }),
  },
  rated("sec_per_60_deg", "secPer60Deg"),
  rated("at_volts", "atVolts"),
  rated("torque_kg_cm", "torqueKgCm"),
  rated("stall_ma", "stallMa"),
  {
    name: "supply_volts_low",
    write: (card) => card.rating.supplyVolts?.low ?? null,
    read: (card, cell, numberOf) => ({
      ...card,
      rating: { ...card.rating, supplyVolts: { ...volts(card), low: numberOf(cell) } },
    }),
  },
  {
    name: "supply_volts_high",
    write: (card) => card.rating.supplyVolts?.high ?? null,
    read: (card, cell, numberOf) => ({
      ...card,
      rating: { ...card.rating, supplyVolts: { ...volts(card), high: numberOf(cell) } },
    }),
  },
  {
    name: "spline_teeth",
    write: (card) => card.splineTeeth,
    read: (card, cell, numberOf) => ({ ...card, splineTeeth: numberOf(cell) }),
  },
  wired("wire_ground", "ground"),
  wired("wire_supply", "supply"),
  wired("wire_signal", "signal"),
  drawn("idle_ma", "idleMa"),
  drawn("moving_ma", "movingMa"),
  drawn("highest_ma", "highestMa"),
  { name: "calibrated_at", write: (card) => calibrationInForce(card)?.madeAt ?? null },
  { name: "set_point_per_deg", write: (card) => lineOf(card)?.slopePerDeg ?? null },
  { name: "set_point_at_0_deg", write: (card) => lineOf(card)?.intercept ?? null },
  { name: "set_point_per_deg_plus_minus", write: (card) => errorOf(card)?.slopePerDeg ?? null },
  { name: "set_point_at_0_deg_plus_minus", write: (card) => errorOf(card)?.intercept ?? null },
  { name: "notes", write: (card) => card.notes, read: (card, cell) => ({ ...card, notes: cell }) },
];

function rated(name: string, field: "secPer60Deg" | "atVolts" | "torqueKgCm" | "stallMa"): Column {
  return {
    name,
    write: (card) => card.rating[field],
    read: (card, cell, numberOf) => ({ ...card, rating: { ...card.rating, [field]: numberOf(cell) } }),
  };
}

function wired(name: string, field: keyof ServoCard["wires"]): Column {
  return {
    name,
    write: (card) => card.wires[field],
    read: (card, cell) => ({ ...card, wires: { ...card.wires, [field]: cell } }),
  };
}

function drawn(name: string, field: "idleMa" | "movingMa" | "highestMa"): Column {
  return {
    name,
    write: (card) => card.currents[field],
    read: (card, cell, numberOf) => ({ ...card, currents: { ...card.currents, [field]: numberOf(cell) } }),
  };
}

/** The table with its head; an empty cell is a value that nobody knows. */
export const cardTable = (cards: readonly ServoCard[]): readonly (readonly (string | number)[])[] => [
  columns.map((column) => column.name),
  ...cards.map((card) => columns.map((column) => column.write(card) ?? "")),
];

/**
 * Cards from a table with a head. Columns may stand in any order and may be missing, but for `label`; unknown ones are left alone, and an
 * empty cell takes what a usual servo of its kind has. A row that no servo could have is refused with its line and column.
 */
export function cardsFromTable(
  rows: readonly (readonly string[])[],
  newId: () => string,
): Result<readonly ServoCard[]> {
  const [head = [], ...body] = rows;
  const names = head.map((name) => name.trim().toLowerCase());
  if (!names.includes("label"))
    return problem(
      `The first line should name the columns, “label” among them; it says “${head.join(", ").slice(0, 60)}”.`,
    );
  const cards: ServoCard[] = [];
  const { convention, doubtful } = conventionOf(body.flat());
  if (doubtful !== null) return problem(doubtfulSentence(doubtful));
  const numberOf = (cell: string) => numberIn(cell, convention);
  for (const [index, row] of body.entries()) {
    const cellOf = (name: string) => row[names.indexOf(name)]?.trim() ?? "";
    if (row.every((cell) => cell.trim() === "")) continue;
    const kind = cellOf("kind") || "positional";
    if (kind !== "positional" && kind !== "continuous" && kind !== "smart")
      return problem(`Line ${index + 2}: “${kind}” is no kind of servo; it is positional, continuous or smart.`);
    let card = newCard(kind, newId(), cellOf("label"));
    for (const column of columns) {
      const cell = cellOf(column.name);
      if (cell !== "" && column.read) card = column.read(card, cell, numberOf);
    }
    const read = servoCardSchema.safeParse(card);
    if (!read.success) {
      const issue = read.error.issues[0];
      return problem(
        `Line ${index + 2} (${cellOf("label") || "no label"}): ${issue?.path.join(" ")}: ${issue?.message}.`,
      );
    }
    cards.push(read.data);
  }
  return cards.length > 0 ? ok(cards) : problem("There is no servo in this table: it has a head and nothing under it.");
}
