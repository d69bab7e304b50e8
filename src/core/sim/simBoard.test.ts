import { demoProject } from "@core/demo";
import { LineReader, LineWriter } from "@core/link";
import { byId } from "@core/project";
import { beforeEach, expect, test } from "vitest";
import { SimBoard } from ".";

let heard: string[];
let fern: SimBoard;
beforeEach(() => {
  heard = [];
  const reader = new LineReader();
  fern = new SimBoard(byId(demoProject().boards, "fern"), new Map(), (bytes) =>
    reader.read(bytes, (line) => heard.push(line.kind === "body" ? line.body : line.kind)),
  );
});
const say = (body: string, nowMs = 0) => fern.receive(new LineWriter().begin(body).end(), nowMs);
const typed = (line: string) => fern.receive(new TextEncoder().encode(line), 0);

test("a greeting is answered with who it is", () => {
  say("V 1");
  expect(heard).toEqual(["V 1 Fern count 12 8191 20070400 0"]);
});

test("612 counts of 2.45 µs come out as 1499.4 µs, and a channel that a frame does not name falls silent", () => {
  say("V 1");
  say("S 2 0:612 3:408");
  expect(fern.setPointOf(0)).toBeCloseTo(1499.4, 3);
  expect(fern.setPointOf(3)).toBeCloseTo(999.6, 3);
  say("S 3 3:408");
  expect(fern.setPointOf(0)).toBeNaN();
  expect(heard.slice(1)).toEqual(["A 2", "A 3"]);
});

test.each([
  ["S 5 0:612#00", "E 0 check"],
  ["S 5 0:612", "E 0 form"],
])("“%s” is refused and changes nothing", (line, answer) => {
  say("V 1");
  typed(`${line}\n`);
  expect(heard.at(-1)).toBe(answer);
  expect(fern.setPointOf(0)).toBeNaN();
});

test("too large a register, an unknown channel, an old line and a line before the greeting are refused whole", () => {
  say("S 1 0:612");
  expect(heard.at(-1)).toBe("E 1 order");
  say("V 1");
  say("S 9 0:612");
  say("S 10 1:300 0:8192");
  expect(heard.at(-1)).toBe("E 10 range");
  say("S 10 12:1");
  expect(heard.at(-1)).toBe("E 10 range");
  say("S 8 0:408");
  expect(heard.at(-1)).toBe("E 8 stale");
  expect(fern.setPointOf(0)).toBeCloseTo(1499.4, 3);
  expect(fern.setPointOf(1)).toBeNaN();
});

test("a release is obeyed even with an old number, and does not let an old frame in behind it", () => {
  say("V 1");
  say("S 9 0:612");
  say("R 3");
  expect(fern.setPointOf(0)).toBeNaN();
  say("S 8 0:612");
  expect(heard.at(-1)).toBe("E 8 stale");
  expect(fern.setPointOf(0)).toBeNaN();
});

test("a line that comes after the watchdog's time finds what the silence has done", () => {
  say("V 1");
  say("W 2 300 release");
  say("S 3 0:612", 100);
  say("S 4 0:700", 402);
  expect(heard.slice(-2)).toEqual(["T release", "E 4 order"]);
  expect(fern.setPointOf(0)).toBeNaN();
});

test("silence for longer than the watchdog releases, or holds when told to", () => {
  say("V 1");
  say("W 2 300 release");
  say("S 3 0:612", 100);
  fern.advance(400, 20);
  expect(fern.setPointOf(0)).toBeCloseTo(1499.4, 3);
  fern.advance(401, 20);
  expect(fern.setPointOf(0)).toBeNaN();
  expect(heard.at(-1)).toBe("T release");

  // Its servos are limp: whoever did not notice must not drive them again.
  say("S 4 0:612", 450);
  expect(heard.at(-1)).toBe("E 4 order");
  expect(fern.setPointOf(0)).toBeNaN();

  say("V 1", 480);
  say("W 4 300 hold", 500);
  say("S 5 0:612", 500);
  fern.advance(900, 20);
  expect(fern.setPointOf(0)).toBeCloseTo(1499.4, 3);
  expect(heard.at(-1)).toBe("T hold");
});
