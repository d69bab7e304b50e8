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
/** Greets it, and gives its first six channels limits that are none. */
const meet = (nowMs = 0) => {
  say("V 2", nowMs);
  say("L 1 0:0:8191:8191 1:0:8191:8191 2:0:8191:8191 3:0:8191:8191 4:0:8191:8191 5:0:8191:8191", nowMs);
};
/** What a channel puts out once its next frame has begun, some ms later. */
const next = (channel: number, nowMs: number) => {
  fern.advance(nowMs, 20);
  return fern.setPointOf(channel);
};

test("a greeting is answered with who it is, and what its counts mean", () => {
  say("V 2");
  // 8191 counts of 2.45 µs.
  expect(heard).toEqual(["V 2 Fern count 12 1024 0-11:20070400:0:0:8191:20067950 -"]);
  meet();
  say("S 2 0:612 1:612 4:408");
  say("V 2");
  expect(heard.at(-1)).toMatch(/ 0-1,4$/);
});

test("612 counts of 2.45 µs come out as 1499.4 µs, from the next frame on; a channel that a frame does not name falls silent", () => {
  meet();
  expect(next(0, 5)).toBeNaN();
  say("S 2 0:612 3:408", 6);
  expect(heard.at(-1)).toBe("A 2 0");
  // The frame that began at 0 lasts 20.07 ms.
  expect(next(0, 19)).toBeNaN();
  expect(next(0, 21)).toBeCloseTo(1499.4, 3);
  expect(fern.setPointOf(3)).toBeCloseTo(999.6, 3);
  say("S 3 3:408", 22);
  expect(heard.at(-1)).toBe("A 3 2");
  expect(next(0, 30)).toBeCloseTo(1499.4, 3);
  expect(next(0, 41)).toBeNaN();
});

test.each([
  ["S 5 0:612#0000", "E 0 check"],
  ["S 5 0:612#C1", "E 0 form"],
  ["V 1#60", "E 0 check"],
  ["S 5 0:612", "E 0 form"],
])("“%s” is refused and changes nothing", (line, answer) => {
  meet();
  typed(`${line}\n`);
  expect(heard.at(-1)).toBe(answer);
  expect(next(0, 50)).toBeNaN();
});

test("too large a count, an unknown channel, an old line and a line before the greeting are refused whole", () => {
  say("S 1 0:612");
  expect(heard.at(-1)).toBe("E 1 order");
  meet();
  say("S 9 0:612");
  say("S 10 1:300 0:8192");
  expect(heard.at(-1)).toBe("E 10 range");
  say("S 10 12:1");
  expect(heard.at(-1)).toBe("E 10 range");
  say("S 8 0:408");
  expect(heard.at(-1)).toBe("E 8 stale");
  expect(next(0, 21)).toBeCloseTo(1499.4, 3);
  expect(fern.setPointOf(1)).toBeNaN();
});

test("a channel is held to its limits: none without them, nothing outside, no step that is too large, and in from outside", () => {
  say("V 2");
  say("S 1 0:612");
  expect(heard.at(-1)).toBe("E 1 limit");
  say("L 1 0:400:800:20");
  say("S 2 0:399");
  expect(heard.at(-1)).toBe("E 2 limit");
  say("S 3 0:612");
  say("S 4 0:633");
  expect(heard.at(-1)).toBe("E 4 limit");
  say("S 5 0:632");
  expect(heard.at(-1)).toBe("A 5 0");
  // Drawn in around it, it may stay, and come in, and not go further out.
  say("L 6 0:400:600:20");
  for (const [sequence, count, answer] of [
    [7, 633, "E 7 limit"],
    [8, 632, "A 8 0"],
    [9, 615, "A 9 0"],
    [10, 616, "E 10 limit"],
    [11, 600, "A 11 0"],
    [12, 601, "E 12 limit"],
  ] as const) {
    say(`S ${sequence} 0:${count}`);
    expect(heard.at(-1)).toBe(answer);
  }
  say("L 13 0:800:400:20");
  expect(heard.at(-1)).toBe("E 13 range");
  say("V 2");
  say("S 1 0:600");
  expect(heard.at(-1)).toBe("E 1 limit");
});

test("a release is obeyed even with an old number, and does not let an old frame in behind it", () => {
  meet();
  say("S 9 0:612");
  expect(next(0, 21)).toBeCloseTo(1499.4, 3);
  say("R 3", 22);
  expect(fern.setPointOf(0)).toBeNaN();
  say("S 8 0:612", 22);
  expect(heard.at(-1)).toBe("E 8 stale");
  expect(next(0, 50)).toBeNaN();
});

test("a line that comes after the watchdog's time finds what the silence has done", () => {
  meet();
  say("W 2 300 release");
  say("S 3 0:612", 100);
  say("S 4 0:700", 402);
  expect(heard.slice(-2)).toEqual(["T release", "E 4 order"]);
  expect(next(0, 450)).toBeNaN();
});

test("silence for longer than the watchdog releases, or holds when told to", () => {
  meet();
  say("W 2 300 release");
  say("S 3 0:612", 100);
  expect(next(0, 400)).toBeCloseTo(1499.4, 3);
  expect(next(0, 401)).toBeNaN();
  expect(heard.at(-1)).toBe("T release");

  // Its servos are limp: whoever did not notice must not drive them again.
  say("S 4 0:612", 450);
  expect(heard.at(-1)).toBe("E 4 order");
  expect(next(0, 480)).toBeNaN();

  meet(480);
  say("W 4 300 hold", 500);
  say("S 5 0:612", 500);
  expect(next(0, 900)).toBeCloseTo(1499.4, 3);
  expect(heard.at(-1)).toBe("T hold");
});
