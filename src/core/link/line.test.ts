import fc from "fast-check";
import { expect, test } from "vitest";
import {
  crc16,
  isAfter,
  LineReader,
  LineWriter,
  nextSequence,
  type ReadLine,
  readBoardLine,
  readHostLine,
  setWords,
} from ".";

const bytesOf = (text: string) => new TextEncoder().encode(text);
const textOf = (bytes: Uint8Array) => new TextDecoder().decode(bytes);

function linesIn(...pieces: Uint8Array[]): ReadLine[] {
  const reader = new LineReader();
  const lines: ReadLine[] = [];
  for (const piece of pieces) reader.read(piece, (line) => lines.push(line));
  return lines;
}

test("the catalogue's check: “123456789” is 29B1", () => {
  expect(crc16(bytesOf("123456789"))).toBe(0x29b1);
});

test("a frame of two channels, as a person would type it", () => {
  const line = new LineWriter().begin("S ").number(42).text(" ").number(0).text(":").number(307).end();
  expect(textOf(line)).toBe("S 42 0:307#C329\n");
  expect(linesIn(line)).toEqual([{ kind: "body", body: "S 42 0:307" }]);
});

test("numbers are written out in full", () => {
  for (const value of [0, 7, 10, 99, 100, 4095, 65_535, 20_000_000])
    expect(textOf(new LineWriter().begin("V ").number(value).end())).toMatch(new RegExp(`^V ${value}#`));
});

test("a flipped bit, a missing check and an endless line are not believed, and the next line is", () => {
  const good = new LineWriter().begin("A 7").end().slice();
  const flipped = good.slice();
  flipped[2] = (flipped[2] as number) ^ 1;
  expect(linesIn(flipped, good).map((line) => line.kind)).toEqual(["bad", "body"]);
  expect(linesIn(bytesOf("A 7\n"), good).map((line) => line.kind)).toEqual(["bad", "body"]);
  expect(linesIn(bytesOf(`${"x".repeat(5000)}\n`), good).map((line) => line.kind)).toEqual(["bad", "body"]);
});

test("lines are found however the bytes are cut", () => {
  const lines = ["V 2", "S 1 0:307", "R 2"].map((body) => new LineWriter().begin(body).end().slice());
  const all = Uint8Array.from(lines.flatMap((line) => [...line]));
  fc.assert(
    fc.property(fc.array(fc.nat({ max: all.length }), { maxLength: 6 }), (cuts) => {
      const edges = [0, ...cuts.sort((a, b) => a - b), all.length];
      const pieces = edges.slice(1).map((edge, at) => all.slice(edges[at], edge));
      expect(linesIn(...pieces)).toHaveLength(3);
    }),
  );
});

test("arbitrary bytes never throw, in either direction", () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 200 }), fc.string(), (bytes, body) => {
      linesIn(bytes, bytesOf("\n"));
      readHostLine(body);
      readBoardLine(body);
    }),
  );
});

test.each([
  "S",
  "S 0 1:2",
  "S 5 1",
  "S 5 1:2:3",
  "S 5 a:2",
  "S 5  1:2",
  "S 5 01:2",
  "S 5 1:2 ",
  "S 5 1:2 1:3",
  "S 5 1:4294967296",
  "s 5 1:2",
  "S 05 1:2",
  "S 65536",
  "L 5",
  "L 5 1:2:3",
  "L 5 1:2:3:4 1:2:3:4",
  "R 1 2",
  "W 1 500",
  "W 1 500 dance",
  "X 1",
  "",
])("“%s” is not of the protocol", (body) => expect(readHostLine(body)).toBeNull());

test("a line of the first version is known as such", () => {
  expect(linesIn(bytesOf("A 2#DD\n"))).toEqual([{ kind: "old" }]);
  expect(linesIn(bytesOf("A 2#DE\n"))[0]?.kind).toBe("bad");
});

test("a greeting tells groups of channels, what their counts mean, and which have a signal", () => {
  const groups = "0-3:20070400:0:0:8191:20067950,4:3003003:0:0:4095:3002270";
  expect(readBoardLine(`V 2 Fern count 5 512 ${groups} 0-2,4`)).toMatchObject({
    greeting: {
      channels: 5,
      longestLine: 512,
      driven: [0, 1, 2, 4],
      groups: [
        { first: 0, last: 3 },
        { first: 4, last: 4 },
      ],
    },
  });
  for (const odd of ["2-1", "1,1", "3,2", "", "x", "0-"])
    expect(readBoardLine(`V 2 Fern count 5 512 ${groups} ${odd}`)).toBeNull();
  expect(readBoardLine(`V 2 Fern count 5 512 0-3:1:2:3:4 -`)).toBeNull();
  expect(setWords([0, 1, 2, 4, 6, 7])).toBe("0-2,4,6-7");
  expect(setWords([])).toBe("-");
});

test("sequence numbers turn over from 65 535 to 1, and old ones are known as old", () => {
  expect(nextSequence(65_535)).toBe(1);
  expect(isAfter(1, 65_535)).toBe(true);
  expect(isAfter(65_535, 1)).toBe(false);
  expect(isAfter(8, 7)).toBe(true);
  expect(isAfter(7, 7)).toBe(false);
});

test("what a board reads: position and current by channel; anything half-said is not of the protocol", () => {
  expect(readBoardLine("P 1:512:45 7:88:0")).toEqual({
    kind: "readings",
    readings: [
      { channel: 1, position: 512, currentMa: 45 },
      { channel: 7, position: 88, currentMa: 0 },
    ],
  });
  for (const body of ["P", "P 1:512", "P 1:512:45:9", "P 1:-5:3", "P x:1:2"]) expect(readBoardLine(body)).toBeNull();
});

test("a plain name=value is an input; anything more or less is not", () => {
  expect(linesIn(bytesOf("vane=211\n"))).toEqual([{ kind: "input", name: "vane", value: 211 }]);
  expect(linesIn(bytesOf("pot_1=-3.25\r\n"))).toEqual([{ kind: "input", name: "pot_1", value: -3.25 }]);
  for (const text of ["vane = 2", "=5", "vane=", "vane=1e9", "vane=5 6", `${"x".repeat(70)}=1`])
    expect(linesIn(bytesOf(`${text}\n`))[0]?.kind).toBe("bad");
});
