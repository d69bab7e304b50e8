import { existsSync } from "node:fs";
import { demoProject } from "../src/core/demo";
import { byId } from "../src/core/project";
import { channelGroupsOf } from "../src/core/signal";
import { BusOnWire, benchOnWire } from "../tests/busOnWire";
import { openBrowser, openPage } from "../tests/e2e/browser";
import { handsOn } from "../tests/e2e/hands";
import { RealBoard } from "../tests/e2e/realBoard";
import { startServer } from "../tests/e2e/served";

const playMs = 15_000;
const project = demoProject();
const ms = (value: number) => `${value.toFixed(1)} ms`;
const shareOf = (sorted: readonly number[], share: number) =>
  sorted[Math.floor(share * (sorted.length - 1))] ?? Number.NaN;

/** Frames at a real board behind page, server and pseudo-terminal: by how much each is off its time, with the tab shown and hidden. */
export async function onWire(): Promise<string[]> {
  if (!existsSync("dist/server/vantel.mjs")) return ["The site is not built: run bin/start or npm run build first."];
  const fern = byId(project.boards, "fern");
  const board = new RealBoard(fern);
  await board.start();
  const { url, server } = await startServer();
  const browser = await openBrowser();
  try {
    const { page } = await openPage(browser, `${url}/routine`);
    const hands = handsOn(page);
    await hands.press("3 simulated boards, live");
    await hands.press("Choose its wire");
    await hands.choose("The wire to Fern", "A serial port of the computer that serves Vantel");
    await hands.type("Path of the port", board.port);
    await hands.press(`Open the port ${board.port}`);
    await hands.waitMs(1500);
    await page.keyboard.press("Escape");
    await (await page.waitForSelector("header ::-p-text(Hold all)"))?.click();
    const lines: string[] = [];
    for (const isHidden of [false, true]) {
      const before = board.lines.length;
      await hands.press("Play").catch(() => {});
      if (isHidden) await (await browser.newPage()).bringToFront();
      await hands.waitMs(playMs);
      lines.push(
        `tab ${isHidden ? "hidden" : "shown"}: ${cadence(board.lines.slice(before + 50), fern)} (aim: 99 of 100 within 2 ms)`,
      );
      if (isHidden) await page.bringToFront();
    }
    return lines;
  } finally {
    await browser.close();
    server.kill();
    await board.kill();
  }
}

/** How far frames are off an even row of the board's own period, taken from where most of them lie. */
function cadence(lines: RealBoard["lines"], board: Parameters<typeof channelGroupsOf>[0]): string {
  const periodMs = (channelGroupsOf(board)[0]?.periodNs ?? 0) / 1e6;
  const times = lines.filter(({ line }) => line.startsWith("S ")).map(({ atNs }) => atNs / 1e6);
  const gaps = times.slice(1).map((at, place) => at - (times[place] as number));
  const off = gaps.map((gap) => Math.abs(gap - Math.round(gap / periodMs) * periodMs)).sort((a, b) => a - b);
  const leftOut = gaps.reduce((sum, gap) => sum + Math.max(0, Math.round(gap / periodMs) - 1), 0);
  return `${times.length} frames, from one to the next off by ${ms(shareOf(off, 0.5))} in the middle, 99 of 100 by ${ms(shareOf(off, 0.99))}, ${leftOut} left out`;
}

/** Smart servos behind a pseudo-terminal: questions answered in a second, and a scan of all numbers. */
export async function busOnWire(): Promise<string[]> {
  const lines: string[] = [];
  for (const holdsMs of [0, 16]) {
    const wire = new BusOnWire(project, "ivy");
    await wire.start({ echoes: false, holdsMs });
    const { bench, until, run, health, end } = benchOnWire(project, "ivy", wire.port);
    await until(() => bench.linkReports.find(({ boardId }) => boardId === "ivy")?.state === "live");
    await new Promise((done) => setTimeout(done, 3000));
    const { framesPerS = 0, answerMs = Number.NaN, answer99Ms = Number.NaN } = health() ?? {};
    const board = byId(project.boards, "ivy");
    const bitsPerS = board.encoding.kind === "bus" ? board.encoding.bitsPerS : 0;
    const card = byId(project.cards, project.joints.find(({ boardId }) => boardId === "ivy")?.cardId ?? "");
    const began = performance.now();
    const layoutIds = card.kind === "smart" ? [card.layoutId] : [];
    await run({ kind: "scan", layoutIds, lowestId: 0, highestId: 252, bitsPerS: [bitsPerS] });
    const tookS = (performance.now() - began) / 1000;
    lines.push(
      `an adapter that holds back ${holdsMs} ms: ${framesPerS} questions a second answered beside the frames, in ${ms(answerMs)} (99 of 100 in ${ms(answer99Ms)}); 253 numbers scanned at ${bitsPerS} bit/s in ${tookS.toFixed(1)} s`,
    );
    end();
    wire.end();
  }
  return lines;
}
