import { type ChildProcess, spawn } from "node:child_process";
import { readdirSync, readFileSync } from "node:fs";
import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { expectNoJump, fern, headerOf, holdAll, openItsWire, playOn } from "./fernOnWire";
import { handsOn } from "./hands";
import { RealBoard } from "./realBoard";
import { startServer } from "./served";
import { insist, pause, stays, still, until } from "./waiting";

const board = new RealBoard(fern);
let server: ChildProcess;
let browser: Browser;
let page: Page;
beforeAll(async () => {
  await board.start();
  const started = await startServer();
  server = started.server;
  browser = await openBrowser();
  ({ page } = await openPage(browser, `${started.url}/routine`));
});
afterAll(async () => {
  await browser?.close();
  server?.kill();
  await board.kill();
});

/** A program and all that it has started. */
function familyOf(pid: number): number[] {
  const parents = readdirSync("/proc")
    .filter((name) => /^\d+$/.test(name))
    .flatMap((name) => {
      try {
        const stat = readFileSync(`/proc/${name}/stat`, "latin1");
        return [{ pid: Number(name), parent: Number(stat.slice(stat.lastIndexOf(")") + 2).split(" ")[1]) }];
      } catch {
        return [];
      }
    });
  const family = [pid];
  for (const one of family) family.push(...parents.filter(({ parent }) => parent === one).map((child) => child.pid));
  return family;
}

/** Signals a program; one that has just ended by itself needs none. */
function signal(pid: number, name: NodeJS.Signals): void {
  try {
    process.kill(pid, name);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== "ESRCH") throw error;
  }
}

/** The computer sleeps for a while, and the board does not: browser and server stand still together. */
async function sleep(ms: number): Promise<void> {
  const all = [...familyOf(browser.process()?.pid ?? 0), server.pid ?? 0];
  for (const pid of all) signal(pid, "SIGSTOP");
  await pause(ms);
  for (const pid of all) signal(pid, "SIGCONT");
}

/** Holds all until the board puts out more pulses than it had: a machine that stands still once more has it let go once more, as it should. */
const holdUntilDriven = (stood: number) =>
  insist(
    () => holdAll(page),
    () => board.pulses.length > stood,
    5000,
  );

test("a port that another program has is refused in words, and opened by itself once that program has closed it", async () => {
  const other = spawn("flock", [board.port, "sleep", "600"], { detached: true, stdio: "ignore" });
  await openItsWire(page, board.port);
  await handsOn(page).until(() => document.body.textContent?.includes("Another program has") ?? false);
  process.kill(-(other.pid ?? 0));
  await headerOf(page, "1 board and 2 simulated, live");
  await page.keyboard.press("Escape");
  expect(board.pulses).toEqual([]);
});

test("while the tab is hidden a board stands still for a second, and later dies: nothing jumps, and nothing is driven afterwards", async () => {
  const hands = handsOn(page);
  await playOn(page, () => board.pulses.length > 50);
  const front = await browser.newPage();
  await front.bringToFront();
  const pulses = () => board.pulses.length;
  const inFront = pulses();
  await until(pulses, (count) => count > inFront + 50);
  board.signal("SIGSTOP");
  await pause(1000);
  board.signal("SIGCONT");
  await still(pulses, 1500);
  expectNoJump(board);
  await stays(pulses, 700);
  await board.kill();
  await pause(1000);
  await board.start();
  await until(
    () => board.lines.some(({ line }) => line.startsWith("V ")),
    (isAsked) => isAsked,
  );
  expect(await stays(pulses, 1500)).toBe(0);
  await front.close();
  await page.bringToFront();
  await headerOf(page, "1 board and 2 simulated, live");
  await hands.untilRack("neck-turn", "limp");
});

test("the computer sleeps in the middle of a routine: the board lets go by itself, and hangs limp after the waking until a person holds it", async () => {
  const hands = handsOn(page);
  const pulses = () => board.pulses.length;
  const before = pulses();
  await playOn(page, () => pulses() > before + 50);
  await sleep(4000);
  const stood = board.pulses.length;
  await headerOf(page, "1 board and 2 simulated, live");
  await hands.untilRack("neck-turn", "limp");
  expect(await hands.rackText("neck-turn")).toContain("limp");
  expect(await stays(pulses, 700)).toBe(stood);
  expectNoJump(board);
  await holdUntilDriven(stood);
  expectNoJump(board);
});

test("what drives the servos hangs: it is said, Release all ends it, the board lets go, and the bench begins anew with all that was done", async () => {
  const hands = handsOn(page);
  const pulses = () => board.pulses.length;
  const before = pulses();
  await playOn(page, () => pulses() > before + 50);
  const worker = page.workers().find((one) => one.url().includes("benchWorker"));
  // In a task of its own: the browser ends no worker that hangs in what it was asked from outside.
  await worker?.evaluate(() => {
    setTimeout(() => {
      for (;;);
    });
  });
  await headerOf(page, "The bench does not answer");
  await still(pulses, 1500);
  await page.keyboard.press("Escape");
  await headerOf(page, "The bench was ended");
  const stood = pulses();
  expectNoJump(board);
  await hands.press("The bench was ended");
  await hands.press("Start the bench anew");
  await headerOf(page, "1 board and 2 simulated, live");
  await hands.untilRack("neck-turn", "limp");
  expect(await stays(pulses, 700)).toBe(stood);
  await holdUntilDriven(stood);
  expectNoJump(board);
});
