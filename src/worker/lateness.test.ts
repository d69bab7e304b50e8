import { expect, test } from "vitest";
import { Lateness } from "./lateness";

test("99 of 100 of the last 500 ticks: five in 500 that are 30 ms late do not count, six do", () => {
  const quiet = new Lateness();
  for (let tick = 0; tick < 500; tick += 1) quiet.add(tick % 100 === 0 ? 30 : 1);
  expect(quiet.late99Ms).toBe(1);
  const busy = new Lateness();
  for (let tick = 0; tick < 500; tick += 1) busy.add(tick % 80 === 0 ? 30 : 1);
  expect(busy.late99Ms).toBe(30);
});

test("old ticks are forgotten, early ones are not late, and the first has no plan", () => {
  const lateness = new Lateness();
  lateness.add(Number.NaN);
  for (let tick = 0; tick < 500; tick += 1) lateness.add(50);
  for (let tick = 0; tick < 500; tick += 1) lateness.add(-0.3);
  expect(lateness.late99Ms).toBe(0);
  expect(lateness.lastMs).toBe(0);
});
