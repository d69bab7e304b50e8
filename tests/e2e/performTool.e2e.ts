import { spawn } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { demoProject } from "@core/demo";
import { writeProjectFile } from "@core/files";
import { byId } from "@core/project";
import { afterAll, beforeAll, expect, test } from "vitest";
import { countsIn, RealBoard } from "./realBoard";
import { until } from "./waiting";

const folder = mkdtempSync(join(tmpdir(), "vantel-perform-"));
const file = join(folder, "owl.json");
const board = new RealBoard(byId(demoProject().boards, "fern"));

beforeAll(async () => {
  writeFileSync(file, writeProjectFile(demoProject()));
  await board.start();
});
afterAll(() => board.kill());

/** Runs the tool as a person does; `during` may send it signals. */
async function perform(
  words: readonly string[],
  during: (send: (signal: NodeJS.Signals) => void) => Promise<void> = async () => {},
) {
  const tool = spawn(process.execPath, ["dist/server/perform.mjs", file, ...words]);
  let said = "";
  tool.stderr.on("data", (data: Buffer) => {
    said += data.toString();
  });
  const ended = new Promise<number | null>((resolve) => tool.once("exit", resolve));
  await during((signal) => tool.kill(signal));
  return { code: await ended, said };
}
const frames = () => board.lines.filter(({ line }) => (countsIn(line)?.size ?? 0) > 0);
/** Lets the owl wake on the real board, and sends a signal in the middle. Gives how it ended. */
async function performUntil(signal: NodeJS.Signals): Promise<number | null> {
  const before = frames().length;
  const { code } = await perform(["Owl wakes", "--anyway", "--wire", `Fern=${board.port}`], async (send) => {
    await until(
      () => frames().length,
      (sent) => sent > before + 70,
    );
    send(signal);
  });
  return code;
}

test("a routine is played on a real board without a browser, and the board is let go at its end", async () => {
  const { code, said } = await perform(["Owl wakes", "--anyway", "--speed", "300", "--wire", `Fern=${board.port}`]);
  expect([code, said]).toEqual([0, expect.stringContaining("Fern: the port")]);
  const counts = new Set(frames().flatMap(({ line }) => [...(countsIn(line)?.values() ?? [])]));
  expect(counts.size).toBeGreaterThan(60);
  expect(board.lines.at(-1)?.line).toMatch(/^R /);
  const lastPulseNs = Math.max(...board.pulses.map(({ atNs }) => atNs));
  expect(lastPulseNs).toBeLessThan(board.lines.findLast(({ line }) => line.startsWith("R "))?.atNs ?? 0);
});

test("Ctrl C stops it where it is, holds for a second, and lets go", async () => {
  const code = await performUntil("SIGINT");
  expect(code).toBe(130);
  const release = board.lines.at(-1);
  expect(release?.line).toMatch(/^R /);
  // However many frames a busy machine sends in that second: they ask for the same.
  const held = frames()
    .filter(({ atNs }) => atNs > (release?.atNs ?? 0) - 700e6)
    .map(({ line }) => line.replace(/^S \d+ /, "").replace(/#.*/, ""));
  expect(held.length).toBeGreaterThan(5);
  expect(new Set(held).size).toBe(1);
});

test("a shell that is closed in the middle lets everything go at once", async () => {
  const code = await performUntil("SIGHUP");
  expect([code, board.lines.at(-1)?.line]).toEqual([130, expect.stringMatching(/^R /)]);
});

test("what cannot be played is refused before anything is opened, each with its own exit code", async () => {
  const before = board.lines.length;
  expect(await perform(["Owl wakes", "--wire", `Fern=${board.port}`])).toMatchObject({
    code: 3,
    said: expect.stringContaining("its speed limit is 400"),
  });
  expect(await perform(["Owl sleeps"])).toMatchObject({
    code: 2,
    said: expect.stringContaining("no routine “Owl sleeps”"),
  });
  expect(await perform(["Owl wakes", "--wire", "Moss=/dev/x"])).toMatchObject({ code: 1 });
  expect(await perform(["Owl wakes", "--speed", "fast"])).toMatchObject({ code: 1 });
  expect(board.lines.length).toBe(before);
  const nobody = await perform(["Owl wakes", "--anyway", "--wire", "Fern=/dev/nothing"]);
  expect(nobody).toMatchObject({ code: 4, said: expect.stringContaining("There is no port /dev/nothing") });
});

test("a board that dies in the middle ends it with a sentence", async () => {
  const { code, said } = await perform(["Owl wakes", "--anyway", "--wire", `Fern=${board.port}`], async () => {
    const before = frames().length;
    await until(
      () => frames().length,
      (sent) => sent >= before + 50,
    );
    await board.kill();
  });
  expect([code, said]).toEqual([4, expect.stringMatching(/gone|lost|silent/)]);
});
