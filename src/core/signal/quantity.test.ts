import fc from "fast-check";
import { expect, test } from "vitest";
import { currentUnitsMa, readIn, readQuantity, timeUnitsUs, torqueUnitsKgCm } from ".";

test.each([
  ["90", 90, null],
  ["1500+20", 1520, null],
  ["1.5ms", 1.5, "ms"],
  ["7.5 %", 7.5, "%"],
  ["1 ms + 0.5 ms", 1.5, "ms"],
  ["(90 - 45) / 2", 22.5, null],
  ["2*(3+4)", 14, null],
  ["-30°", -30, "°"],
  ["−30", -30, null],
  ["7,5", 7.5, null],
  ["20 000 us", 20_000, "µs"],
  ["1e3", 1000, null],
  ["10 - 4 - 3", 3, null],
  ["--5", 5, null],
])("%s is read as %d %s", (text, value, unit) => {
  expect(readQuantity(text)).toEqual({ ok: true, value: { value, unit } });
});

test.each([
  ["", "nothing"],
  ["abc", "not a number"],
  ["12 furlongs", "not a unit"],
  ["1ms + 3%", "cannot be mixed"],
  ["1/0", "zero"],
  ["(1+2", "bracket"],
  ["1 2)", "does not belong"],
  ["5+", "missing"],
])("“%s” is refused in a sentence about %s", (text, about) => {
  const read = readQuantity(text);
  expect(read.ok).toBe(false);
  expect(read.ok ? "" : read.problem).toContain(about);
});

test("a pulse field turns milliseconds into µs and refuses degrees", () => {
  expect(readIn(timeUnitsUs, "1.5ms")).toEqual({ ok: true, value: 1500 });
  expect(readIn(timeUnitsUs, "1500")).toEqual({ ok: true, value: 1500 });
  expect(readIn(timeUnitsUs, "90°").ok).toBe(false);
});

test("a torque field turns N·m into kg·cm, however it is spelt; a current field takes amperes", () => {
  for (const text of ["0.0981 N·m", "0.0981Nm", "9.81 Ncm"]) {
    const read = readIn(torqueUnitsKgCm, text);
    expect(read.ok && read.value).toBeCloseTo(1, 12);
  }
  expect(readIn(currentUnitsMa, "1.2A")).toEqual({ ok: true, value: 1200 });
  expect(readQuantity("300°/s²")).toEqual({ ok: true, value: { value: 300, unit: "°/s²" } });
});

test("whatever is typed, it never throws and never gives a number that is not finite", () => {
  fc.assert(
    fc.property(fc.string(), (text) => {
      const read = readQuantity(text);
      if (read.ok) expect(Number.isFinite(read.value.value)).toBe(true);
      else expect(read.problem.length).toBeGreaterThan(5);
    }),
  );
  expect(readQuantity("(".repeat(50_000)).ok).toBe(false);
});

test("blanks group thousands or part two numbers, and any number of signs is read", () => {
  expect(readQuantity("1 500 200")).toEqual({ ok: true, value: { value: 1_500_200, unit: null } });
  expect(readQuantity("1500 200")).toMatchObject({ ok: false, problem: expect.stringContaining("does not belong") });
  expect(readQuantity(`${"-".repeat(20_001)}7`)).toEqual({ ok: true, value: { value: -7, unit: null } });
});
