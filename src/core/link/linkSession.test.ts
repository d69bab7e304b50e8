import { beforeEach, expect, test } from "vitest";
import { type ExpectedBoard, LineReader, LineWriter, LinkSession } from ".";

const fern: ExpectedBoard = {
  label: "Fern",
  registerName: "count",
  channels: 16,
  highestRegister: 4095,
  periodsUs: [20_000],
  silence: { afterMs: 500, action: "release" },
};
const greeting = "V 1 Fern count 16 4095 20000000 0";

let sent: string[];
let session: LinkSession;
beforeEach(() => {
  sent = [];
  const reader = new LineReader();
  session = new LinkSession(fern, (bytes) =>
    reader.read(bytes, (line) => sent.push(line.kind === "body" ? line.body : line.kind)),
  );
});
const answer = (body: string, nowMs: number) => session.receive(new LineWriter().begin(body).end(), nowMs);

test("it greets every half second until somebody answers, then sets the watchdog", () => {
  for (const nowMs of [0, 20, 499, 500, 520]) session.tick(nowMs);
  expect(sent).toEqual(["V 1", "V 1"]);
  answer(greeting, 530);
  expect(session.state.kind).toBe("live");
  expect(sent.at(-1)).toBe("W 2 500 release");
});

test("a frame names only the channels that have a signal", () => {
  session.tick(0);
  answer(greeting, 1);
  session.sendFrame([0, 1, 5], [307, Number.NaN, 409], 20);
  expect(sent.at(-1)).toBe("S 3 0:307 5:409");
});

test("no frame goes to a board that has not answered, but a release always goes", () => {
  session.sendFrame([0], [307], 0);
  expect(sent).toEqual([]);
  session.releaseAll(0);
  expect(sent).toEqual(["R 2"]);
});

test("a quarter of a second without an answer and the link is lost; an answer to the greeting brings it back", () => {
  session.tick(0);
  answer(greeting, 0);
  answer("A 2", 1);
  session.sendFrame([0], [307], 20);
  session.tick(260);
  expect(session.state.kind).toBe("live");
  session.tick(280);
  expect(session.state.kind).toBe("lost");
  expect(sent.at(-1)).toBe("V 1");
  answer(greeting, 290);
  expect(session.state.kind).toBe("live");
});

test("a board that was restarted asks to be greeted first", () => {
  session.tick(0);
  answer(greeting, 0);
  answer("E 3 order", 30);
  expect(session.state.kind).toBe("lost");
  expect(session.linesRefused).toBe(1);
});

test.each([
  ["V 2 Fern count 16 4095 20000000", "version 2"],
  ["V 3 something else entirely and new", "version 3"],
  ["V 1 Fern tick 16 4095 20000000 0", "ticks"],
  ["V 1 Fern count 16 65535 20000000 0", "65535"],
  ["V 1 Fern count 8 4095 20000000 0", "8 channels"],
  ["V 1 Fern count 16 4095 3333333 0", "3333.333 µs"],
])("a board that greets with “%s” is not driven", (body, says) => {
  session.tick(0);
  answer(body, 1);
  if (session.state.kind !== "refused") throw new Error(`It is ${session.state.kind}.`);
  expect(session.state.sentence).toContain(says);
  session.sendFrame([0], [307], 20);
  expect(sent).toEqual(["V 1"]);
});

test("a frame rate that is off by the tolerance of an oscillator is accepted", () => {
  session.tick(0);
  answer("V 1 Fern count 16 4095 19988480 0", 1);
  expect(session.state.kind).toBe("live");
});

test("what a board reads is kept by channel until the link is lost; channels that it has not are left alone", () => {
  session.tick(0);
  answer(greeting, 0);
  answer("A 2", 1);
  answer("P 1:512:45 3:88:0 99:1:1", 5);
  expect([session.positions[1], session.currentsMa[1], session.positions[3]]).toEqual([512, 45, 88]);
  expect(session.positions[0]).toBeNaN();
  session.sendFrame([0], [307], 20);
  session.tick(300);
  expect(session.state.kind).toBe("lost");
  expect(session.positions[1]).toBeNaN();
});

test("a plain input is heard from a board in any state, and is no answer", () => {
  const heard: [string, number][] = [];
  session.onInput = (name, value) => heard.push([name, value]);
  session.receive(new TextEncoder().encode("vane=211\n"), 0);
  expect(heard).toEqual([["vane", 211]]);
  expect(session.state.kind).toBe("greeting");
});
