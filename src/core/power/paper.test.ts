import { SaxesParser } from "saxes";
import { expect, test } from "vitest";
import { drawingOf, drawingSvg, shoppingList, slicesOf, wireList, wireTable } from ".";
import { demo } from "./fixtures";

test("the SVG is well formed, true in mm, and says every thing and every run", () => {
  const named = {
    ...demo,
    joints: demo.joints.map((one, at) => (at === 0 ? { ...one, label: '<Neck> & "turn"' } : one)),
  };
  const drawing = drawingOf(named);
  const text = drawingSvg(named, drawing);
  const words: string[] = [];
  const parser = new SaxesParser();
  parser.on("text", (part) => void words.push(part));
  parser.on("error", (error) => {
    throw error;
  });
  parser.write(text).close();
  expect(text).toContain(`width="${Number(drawing.widthMm.toFixed(3))}mm"`);
  for (const { label } of [...named.joints, ...named.boards, ...named.rails, ...named.supplies])
    expect(words).toContain(label);
  for (const { number } of wireList(named)) expect(words.some((one) => one.startsWith(`${number} ·`))).toBe(true);
});

test("sheets are cut between rows, and together they are the whole drawing", () => {
  const drawing = drawingOf(demo);
  const slices = slicesOf(drawing, 60);
  expect(slices.length).toBeGreaterThan(1);
  expect(slices[0]?.fromMm).toBe(0);
  expect(slices.at(-1)?.toMm).toBe(drawing.heightMm);
  slices.forEach(({ fromMm, toMm }, at) => {
    expect(toMm - fromMm).toBeLessThanOrEqual(60);
    if (at > 0) expect(fromMm).toBe(slices[at - 1]?.toMm);
    if (at > 0) expect(drawing.cutsMm).toContain(fromMm);
  });
  for (const { kind, yMm, hMm } of drawing.boxes)
    if (kind === "joint") expect(slices.some(({ fromMm, toMm }) => yMm >= fromMm && yMm + hMm <= toMm)).toBe(true);
});

test("every wire has a number, and labels for both ends; what is bought adds up", () => {
  const wires = wireList(demo);
  expect(wires).toHaveLength(demo.runs.length);
  expect(wires.find(({ to }) => to === "Vent crank")).toMatchObject({ from: "5 V rail", lengthMm: 6000, gauge: 28 });
  expect(new Set(wires.map(({ number }) => number)).size).toBe(wires.length);
  expect(wireTable(demo)).toHaveLength(demo.runs.length + 1);
  // Six metres there and back, and a tenth to spare: 13.2 m.
  expect(shoppingList(demo)).toContainEqual({ what: "Wire of 0.08 mm² (gauge 28), single", howMuch: "13.2 m" });
  expect(shoppingList(demo)).toContainEqual({ what: "Mains adapter, 12 V, 8.0 A", howMuch: "1" });
});
