import { readFile } from "node:fs/promises";
import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { SimBoard, seededRandom } from "@core/sim";
import { expect, test } from "vitest";
import { checkOf, PaperBoard, paperOf } from "./fuzz/paperBoard";

const fern = byId(demoProject().boards, "fern");

/** Lines of every form, good and spoilt, with numbers about what matters: channels and counts at the edges, limits, sequence numbers that turn over. */
function lineOf(random: () => number, sequence: number): string {
  const upTo = (most: number) => Math.floor(random() * most);
  const one = <T>(list: readonly T[]): T => list[upTo(list.length)] as T;
  const number = () =>
    one([0, 1, 3, 11, 12, 300, 600, 610, 612, 630, 8191, 8192, 65_535, 4_294_967_295, 4_294_967_296]);
  const channel = () => (random() < 0.97 ? upTo(12) : one([12, 99, 4_294_967_295]));
  const words = (make: () => string) => Array.from({ length: upTo(5) }, make).join(" ");
  const count = () => (random() < 0.9 ? 560 + upTo(100) : number());
  const frame = () => `S ${sequence} ${words(() => `${channel()}:${count()}`)}`.trimEnd();
  const limits = () =>
    `L ${sequence} ${words(() => `${channel()}:${540 + upTo(40)}:${610 + upTo(60)}:${upTo(90)}`)}`.trimEnd();
  const good = one([
    frame,
    frame,
    frame,
    frame,
    limits,
    limits,
    () => `L ${sequence} ${words(() => `${channel()}:${number()}:${number()}:${number()}`)}`.trimEnd(),
    () => `W ${sequence} ${one([99, 100, 500, 60_000, 60_001])} ${one(["release", "hold", "Hold"])}`,
    () => `R ${sequence}`,
    () => (random() < 0.3 ? "V 2" : frame()),
    () =>
      one([
        "V 1",
        "V",
        "V 02",
        `V 2 ${number()}`,
        `R ${sequence} 1`,
        `S 0${sequence} 1:600`,
        `S ${sequence}  1:600`,
        "vane=3",
        "",
      ]),
  ])();
  const line = `${good}#${checkOf(good)}`;
  const at = upTo(line.length);
  switch (upTo(16)) {
    case 0:
      return line.slice(0, at) + String.fromCharCode(33 + upTo(90)) + line.slice(at + 1);
    case 1:
      return line.slice(0, at) + line.slice(at + 1);
    case 2:
      return one([good, line.toLowerCase(), `${good}#${checkOf(good).toLowerCase()}`, `\r${line}\r`, `${line} `]);
    default:
      return line;
  }
}

test("a board written from the page alone answers 100 000 random lines as the simulated one does", () => {
  const random = seededRandom(20_261_125);
  let said = "";
  const sim = new SimBoard(fern, new Map(), (bytes) => {
    said += String.fromCharCode(...bytes);
  });
  const greeting = `V 2#${checkOf("V 2")}\n`;
  sim.receive(new TextEncoder().encode(greeting), 0);
  const paper = new PaperBoard(paperOf(said, fern.silence));
  paper.hear(new TextEncoder().encode(greeting), 0);
  expect(paper.answers.join("\n")).toBe(said.trim());
  const kinds = new Map<string, number>();
  let nowMs = 0;
  let sequence = 1;
  for (let at = 0; at < 100_000; at += 1) {
    said = "";
    paper.answers = [];
    const chance = random();
    sequence = chance < 0.9 ? (sequence % 65_535) + 1 : chance < 0.95 ? 1 + Math.floor(random() * 65_535) : sequence;
    const line = lineOf(random, sequence);
    nowMs += random() < 0.02 ? 700 : 1;
    const bytes = new TextEncoder().encode(`${line}\n`);
    // Now and then time passes by itself, and all channels begin a frame.
    if (random() < 0.2) {
      nowMs += 21;
      paper.pass(nowMs);
      sim.advance(nowMs, 20);
      paper.beginFrames();
    }
    sim.receive(bytes, nowMs);
    paper.hear(bytes, nowMs);
    if (paper.answers.join("\n") !== said.trim())
      throw new Error(`line ${at}, “${line}”: ${said} and ${paper.answers.join("\n")}`);
    for (const answer of paper.answers) {
      const kind = answer.replace(/#.*/, "").replace(/\d+/g, "").trim();
      kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
    }
  }
  // All that a board can say was said, and often.
  for (const kind of [
    "A",
    "E  check",
    "E  form",
    "E  range",
    "E  limit",
    "E  stale",
    "E  order",
    "T release",
    "T hold",
  ])
    expect([kind, (kinds.get(kind) ?? 0) > 50]).toEqual([kind, true]);
});

test("the conversation of the page is one that the simulated board has, to the digit", async () => {
  const page = await readFile(new URL("../docs/link-protocol.md", import.meta.url), "utf8");
  const lines = [...page.matchAll(/^(host|board) {2,3}(.+)$/gm)].map(([, who, line]) => [who, line] as const);
  expect(lines.length).toBeGreaterThan(10);
  let said = "";
  const sim = new SimBoard(fern, new Map(), (bytes) => {
    said = String.fromCharCode(...bytes).trim();
  });
  let nowMs = 0;
  for (const [who, line] of lines)
    if (who === "board") expect(said).toBe(line);
    else {
      sim.receive(new TextEncoder().encode(`${line}\n`), nowMs);
      nowMs += 21;
      sim.advance(nowMs, 20);
    }
});
