import { beforeEach, expect, test } from "vitest";
import { type ExpectedBoard, LineReader, LineWriter, LinkSession } from ".";

const fern: ExpectedBoard = {
  label: "Fern",
  countName: "count",
  channels: 16,
  groups: [
    {
      first: 0,
      last: 15,
      periodNs: 20_000_000,
      lowestCount: 0,
      atLowest: 0,
      highestCount: 4095,
      atHighest: 19_995_117,
    },
  ],
  silence: { afterMs: 500, action: "release" },
};
const hello = "V 2 Fern count 16 1024 0-15:20000000:0:0:4095:19995117";
const greeting = `${hello} -`;

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
  expect(sent).toEqual(["V 2", "V 2"]);
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

test("a number is on its way until the board says that it took its frame, or that it did not; an older word leaves it there", () => {
  session.tick(0);
  answer(greeting, 1);
  answer("A 2 0", 2);
  session.sendFrame([0], [Number.NaN], 20);
  session.sendFrame([0], [307], 40);
  expect([0, 1].map((channel) => session.isOnItsWay(channel))).toEqual([true, false]);
  answer("A 3 3", 90);
  expect(session.heard[0]).toBeNaN();
  expect(session.isOnItsWay(0)).toBe(true);
  answer("A 4 4", 91);
  expect([session.heard[0], session.isOnItsWay(0)]).toEqual([307, false]);
  session.sendFrame([0], [308], 100);
  answer("E 5 range", 101);
  expect(session.isOnItsWay(0)).toBe(false);
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
  answer("A 2 0", 1);
  session.sendFrame([0], [307], 20);
  session.tick(260);
  expect(session.state.kind).toBe("live");
  session.tick(280);
  expect(session.state.kind).toBe("lost");
  expect(sent.at(-1)).toBe("V 2");
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
  ["V 3 something else entirely and new", "version 3"],
  [`${hello.replace("count", "tick")} -`, "ticks"],
  [`${hello.replace(":4095", ":65535")} -`, "65535"],
  [`${hello.replace("count 16", "count 8")} -`, "8 channels"],
  [`${hello.replace("20000000", "3333333")} -`, "3333.333 µs"],
  [`${hello.replace("19995117", "9997558")} -`, "9997558"],
  [`${hello.replace("0-15", "0-7")} -`, "channel 8"],
])("a board that greets with “%s” is not driven", (body, says) => {
  session.tick(0);
  answer(body, 1);
  if (session.state.kind !== "refused") throw new Error(`It is ${session.state.kind}.`);
  expect(session.state.sentence).toContain(says);
  session.sendFrame([0], [307], 20);
  expect(sent).toEqual(["V 2"]);
});

test("a frame rate that is off by the tolerance of an oscillator is accepted", () => {
  session.tick(0);
  answer(`${hello.replace("20000000", "19988480")} -`, 1);
  expect(session.state.kind).toBe("live");
});

test("what a board reads is kept by channel until the link is lost; channels that it has not are left alone", () => {
  session.tick(0);
  answer(greeting, 0);
  answer("A 2 0", 1);
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

test("a board of the first version is told of in words, and is not driven", () => {
  session.tick(0);
  session.receive(new TextEncoder().encode("E 0 check#91\n"), 1);
  if (session.state.kind !== "refused") throw new Error(`It is ${session.state.kind}.`);
  expect(session.state.sentence).toContain("version 1");
});

test("limits are told after each greeting, in lines that the board takes, and again when they change or a frame is refused for them", () => {
  const limits = Array.from({ length: 12 }, (_, channel) => ({ channel, lowest: 100, highest: 500, step: 9 }));
  session.setLimits(limits, 0);
  expect(sent).toEqual([]);
  session.tick(0);
  answer(greeting.replace("1024", "128"), 1);
  const told = sent.filter((line) => line.startsWith("L "));
  expect(told.length).toBeGreaterThan(1);
  expect(told.every((line) => line.length + 6 <= 128)).toBe(true);
  expect(told.join(" ").match(/:100:500:9/g)).toHaveLength(12);
  session.setLimits(limits, 20);
  expect(sent.filter((line) => line.startsWith("L "))).toHaveLength(told.length);
  session.setLimits(limits.slice(0, 1), 40);
  expect(sent.at(-1)).toMatch(/^L \d+ 0:100:500:9$/);
  answer("E 9 limit", 300);
  expect(sent.filter((line) => line.startsWith("L "))).toHaveLength(told.length + 2);
});

test("what is in force is known; numbers that no longer fit make it begin anew", () => {
  session.tick(0);
  answer(greeting, 0);
  answer("A 2 0", 1);
  session.sendFrame([0], [307], 20);
  answer("A 3 2", 21);
  expect(session.inForce).toBe(2);
  answer("E 4 stale", 40);
  expect(session.state.kind).toBe("lost");
});

test("a board that takes shorter lines than a frame of its joints is not driven, also when joints are wired to it later", () => {
  const short = greeting.replace(" 1024 ", " 64 ");
  session.tick(0);
  session.setFrameBytes(40);
  answer(short, 0);
  expect(session.state.kind).toBe("live");
  session.setFrameBytes(65);
  expect(session.state).toMatchObject({ kind: "refused", sentence: expect.stringContaining("lines of 64 bytes") });
});

test("how it did: frames taken and lost in each second, answer times, and how often the board was met again", () => {
  session.tick(0);
  answer(greeting, 0);
  let sequence = 2;
  for (let ms = 20; ms <= 2000; ms += 20) {
    session.sendFrame([0], [307], ms);
    sequence += 1;
    // Every tenth is lost on its way.
    if (sequence % 10 !== 0) answer(`A ${sequence} 0`, ms + 4);
  }
  const health = session.health.report(2010);
  expect(health).toMatchObject({ framesPerS: 45, answerMs: 4, answer99Ms: 4, refused: 0, resets: 0 });
  expect(health.lost).toBeGreaterThanOrEqual(9);
  answer("E 4 order", 2020);
  session.tick(2020);
  answer(greeting, 2030);
  expect(session.health.report(2040).resets).toBe(1);
  // A minute later it is forgotten.
  expect(session.health.report(70_000).taken.every((count) => count === 0)).toBe(true);
});
