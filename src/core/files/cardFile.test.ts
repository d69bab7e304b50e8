import { demoProject } from "@core/demo";
import { byId, checkProject, copyCard, removeCard, type SmartCard } from "@core/project";
import { expect, test } from "vitest";
import { cardsFromTable, cardTable, readCardFile, writeCardFile } from ".";

const demo = demoProject();
let count = 0;
const newId = () => `new-${++count}`;
const asText = (rows: readonly (readonly (string | number)[])[]) => rows.map((row) => row.map(String));

test("cards go out as JSON and come in the same, calibrations and all", () => {
  expect(readCardFile(writeCardFile(demo.cards))).toEqual({ ok: true, value: demo.cards });
});

test("a project is no card file, and a damaged card says where", () => {
  expect(readCardFile('{"format":"vantel-project","version":2}')).toMatchObject({ ok: false });
  const damaged = writeCardFile(demo.cards).replace('"splineTeeth": 25', '"splineTeeth": "many"');
  expect(readCardFile(damaged)).toMatchObject({ ok: false, problem: expect.stringContaining("splineTeeth") });
});

test("a table keeps every value of the sheet; what was measured point by point stays behind", () => {
  const read = cardsFromTable(asText(cardTable(demo.cards)), newId);
  if (!read.ok) throw new Error(read.problem);
  for (const [index, card] of read.value.entries()) {
    const { id: _, calibrations, checks, checkEveryDays: __, ...kept } = card;
    expect(calibrations).toEqual([]);
    expect(checks).toEqual([]);
    const before = demo.cards[index];
    // A feedback wire, when to check again, the family and its alarms are not in the table.
    const { feedback: ___, layoutId: ____, alarms: _____, ...inTable } = kept as Partial<SmartCard>;
    expect(before).toMatchObject(inTable);
  }
  expect(checkProject({ ...demo, cards: [...demo.cards, ...read.value] }).ok).toBe(true);
});

test("the line of the calibration in force stands in the table: the nod servo has 10.17 µs per degree", () => {
  const [head = [], ...rows] = cardTable(demo.cards);
  const nod = rows.find((row) => row[0] === "Nod servo");
  expect(Number(nod?.[head.indexOf("set_point_per_deg")])).toBeCloseTo(661 / 65, 9);
});

test("a person's own table: any order, decimal commas, gaps filled with what is usual", () => {
  const read = cardsFromTable(
    [
      ["torque_kg_cm", "colour", "LABEL"],
      ["9,4", "blue", " Jaw "],
      ["", "", ""],
    ],
    newId,
  );
  if (!read.ok) throw new Error(read.problem);
  expect(read.value).toHaveLength(1);
  expect(read.value[0]).toMatchObject({
    kind: "positional",
    label: "Jaw",
    rating: { torqueKgCm: 9.4 },
    window: { low: 500 },
  });
});

test.each([
  [[["name"], ["Jaw"]], "“label” among them"],
  [[["label"], []], "nothing under it"],
  [
    [
      ["label", "kind"],
      ["Jaw", "magic"],
    ],
    "Line 2: “magic”",
  ],
  [
    [
      ["label", "torque_kg_cm"],
      ["Jaw", "strong"],
    ],
    "Line 2 (Jaw): rating torqueKgCm",
  ],
  [
    [
      ["label", "window_low", "window_high"],
      ["Jaw", "2000", "1000"],
    ],
    "the low end must be below the high end",
  ],
])("%j is refused: %s", (rows, says) => {
  expect(cardsFromTable(rows, newId)).toMatchObject({ ok: false, problem: expect.stringContaining(says) });
});

test("a sister's card has the sheet of the first and none of its measurements; a built-in servo's card cannot be removed", () => {
  const copied = copyCard("card-neck-nod", "sister").apply(demo);
  if (!copied.ok) throw new Error(copied.problem);
  const sister = byId(copied.value.cards, "sister");
  expect(sister).toMatchObject({
    label: "Nod servo 2",
    calibrations: [],
    rating: byId(demo.cards, "card-neck-nod").rating,
  });
  expect(removeCard("card-neck-nod").apply(demo)).toMatchObject({ ok: false });
  expect(removeCard("sister").apply(copied.value)).toMatchObject({ ok: true, value: { cards: demo.cards } });
});
