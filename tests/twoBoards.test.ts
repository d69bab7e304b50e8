import { readFile } from "node:fs/promises";
import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { SimBoard, seededRandom } from "@core/sim";
import { expect, test } from "vitest";
import { conversation } from "./fuzz/linesOf";
import { checkOf, PaperBoard, paperOf } from "./fuzz/paperBoard";

const fern = byId(demoProject().boards, "fern");

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
  for (const { at, line, nowMs, beginsFrames } of conversation(random, 100_000)) {
    said = "";
    paper.answers = [];
    const bytes = new TextEncoder().encode(`${line}\n`);
    if (beginsFrames) {
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
