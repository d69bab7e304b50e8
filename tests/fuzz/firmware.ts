import { execFileSync } from "node:child_process";
import { fileURLToPath } from "node:url";
import { seededRandom } from "../../src/core/sim";
import { conversation } from "./linesOf";
import { checkOf, PaperBoard, paperOf } from "./paperBoard";

const folder = fileURLToPath(new URL("../../firmware", import.meta.url));
const groups = "0-11:20070400:0:0:8191:20067950";
const silence = { afterMs: 500, action: "release" };
const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString("hex");

/** Builds a program of the firmware, and gives the path to it. */
export function builtFirmware(program: "probe" | "vantel-board" | "vantel-linux" | "adapter"): string {
  execFileSync(
    "make",
    ["-s", "-C", folder, program.replace("vantel-board", "posix").replace("vantel-linux", "linux")],
    {
      stdio: ["ignore", "pipe", "inherit"],
    },
  );
  return `${folder}/build/${program}`;
}

const runProbe = (script: string): string =>
  execFileSync(builtFirmware("probe"), [groups], { input: script, maxBuffer: 2 ** 30, encoding: "latin1" });

/**
 * Holds the firmware, built with the sanitizers, against a board written from the page alone, over so many lines: the same answers, and the same counts
 * at every frame. Gives the first difference; null where there is none.
 */
export function firmwareDifference(seed: number, lines: number): string | null {
  const random = seededRandom(seed);
  const greeting = new TextEncoder().encode(`V 2#${checkOf("V 2")}\n`);
  const paper = new PaperBoard(paperOf(runProbe(`b ${hex(greeting)}\n`).trim(), silence));
  paper.hear(greeting, 0);
  const script = [`b ${hex(greeting)}`];
  const expected: string[] = [...paper.answers];
  const said: string[] = ["the greeting"];
  for (const { line, nowMs, beginsFrames } of conversation(random, lines)) {
    paper.answers = [];
    const bytes = new TextEncoder().encode(`${line}\n`);
    script.push(`t ${(nowMs * 1000) % 2 ** 32}`);
    if (beginsFrames) {
      paper.pass(nowMs);
      paper.beginFrames();
      const counts = Array.from({ length: 12 }, (_, channel) => paper.outputs.get(channel) ?? "-");
      script.push("l", "f 0", "o");
      paper.answers.push(`o ${counts.join(" ")}`);
    }
    script.push(`b ${hex(bytes)}`);
    paper.hear(bytes, nowMs);
    said.push(...paper.answers.map(() => line));
    expected.push(...paper.answers);
  }
  const heard = runProbe(`${script.join("\n")}\n`)
    .trim()
    .split("\n");
  const at = expected.findIndex((answer, place) => answer !== heard[place]);
  if (at >= 0) return `after “${said[at]}” it says ${heard[at]}, and the page ${expected[at]}`;
  return heard.length === expected.length ? null : `it says ${heard.length - expected.length} lines too many`;
}

/** Random bytes, mostly of lines: whatever comes, the sanitizers find nothing. */
export function feedGarbage(seed: number, bytes: number): void {
  const random = seededRandom(seed);
  const alphabet = "VWLSR 0123456789:#ABCDEFrelasehold\n\n\r";
  const chunks: string[] = [];
  for (let at = 0; at < bytes; at += 400) {
    const chunk = Uint8Array.from({ length: 400 }, () =>
      random() < 0.9 ? alphabet.charCodeAt(Math.floor(random() * alphabet.length)) : Math.floor(random() * 256),
    );
    chunks.push(`b ${hex(chunk)}`, "f 0");
  }
  runProbe(`${chunks.join("\n")}\n`);
}
