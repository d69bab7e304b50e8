import { expect, test } from "vitest";
import { readCsv, writeCsv } from "./csv";

test("commas, quotes and line ends as RFC 4180 has them", () => {
  expect(
    writeCsv([
      ["label", "n"],
      ["Jaw, left", 1.5],
      ['the "old" one', 2],
    ]),
  ).toBe('label,n\r\n"Jaw, left",1.5\r\n"the ""old"" one",2\r\n');
});

test("semicolons and tabs of spreadsheets are read as well, with a byte order mark before them", () => {
  expect(readCsv('\uFEFFlabel;n\n"Jaw; left";9,4\n\n')).toEqual([
    ["label", "n"],
    ["Jaw; left", "9,4"],
  ]);
  expect(readCsv("label\tn\nJaw\t1\n")).toEqual([
    ["label", "n"],
    ["Jaw", "1"],
  ]);
});
