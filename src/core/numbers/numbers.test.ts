import { expect, test } from "vitest";
import { conventionOf, numberIn, readNumber } from ".";

test.each<[string, number, number]>([
  ["1500", 1500, 1500],
  ["-7.25", -7.25, Number.NaN],
  ["−7,25", Number.NaN, -7.25],
  ["1,500", 1500, 1.5],
  ["1.500", 1.5, 1500],
  ["1,234,567.5", 1234567.5, Number.NaN],
  ["1.234.567,5", Number.NaN, 1234567.5],
  ["1 500", 1500, 1500],
  ["12'000", 12000, 12000],
  ["1.5e3", 1500, Number.NaN],
  ["2e-3", 0.002, 0.002],
  [".5", 0.5, Number.NaN],
  ["", Number.NaN, Number.NaN],
  ["1,5,0", Number.NaN, Number.NaN],
  ["1.2.3", Number.NaN, Number.NaN],
  ["x", Number.NaN, Number.NaN],
  ["12a", Number.NaN, Number.NaN],
])("%s is %d with a decimal point, %d with a decimal comma", (text, point, comma) => {
  expect(numberIn(text, "point")).toBe(point);
  expect(numberIn(text, "comma")).toBe(comma);
});

test("a text has one convention: what can be read in one way only decides for what cannot", () => {
  expect(conventionOf(["1,500", "0,5"])).toEqual({ convention: "comma", doubtful: null });
  expect(conventionOf(["1,500", "0.5"])).toEqual({ convention: "point", doubtful: null });
  expect(conventionOf(["1,500", "2"])).toEqual({ convention: "point", doubtful: "1,500" });
  expect(conventionOf(["1.500", "Neck, left", ""])).toEqual({ convention: "point", doubtful: null });
  expect(conventionOf(["1.234.567"])).toEqual({ convention: "comma", doubtful: null });
});

test("one that is typed alone may have a decimal comma, and is asked about where it could be both", () => {
  expect(readNumber("7,5")).toBe(7.5);
  expect(readNumber("0,125")).toBe(0.125);
  expect(readNumber("1,500")).toBe("“1,500” can be read as 1500 or as 1.5. Write 1500 or 1.5.");
  expect(readNumber("nought")).toBe("“nought” is not a number.");
});

test("blanks that do not group thousands part two numbers", () => {
  expect(readNumber("1 500")).toBe(1500);
  expect(readNumber("1500 200")).toContain("is not a number");
  expect(readNumber("12 34")).toContain("is not a number");
});
