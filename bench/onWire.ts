import { appendFileSync, existsSync } from "node:fs";
import type { Page } from "puppeteer-core";
import { layoutsOf, sensedStretch, wireUse } from "../src/core/bus";
import { demoProject } from "../src/core/demo";
import { byId } from "../src/core/project";
import { channelGroupsOf } from "../src/core/signal";
import { BusOnWire, benchOnWire } from "../tests/busOnWire";
import { openBrowser, openPage } from "../tests/e2e/browser";
import { headerOf, holdAll, openItsWire } from "../tests/e2e/fernOnWire";
import { handsOn } from "../tests/e2e/hands";
import { countsIn, RealBoard } from "../tests/e2e/realBoard";
import { startServer } from "../tests/e2e/served";
import { pause } from "../tests/e2e/waiting";

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
    await openItsWire(page, board.port);
    await headerOf(page, "1 board and 2 simulated, live");
    await page.keyboard.press("Escape");
    await holdAll(page);
    const lines: string[] = [];
    for (const isHidden of [false, true]) {
      const before = board.lines.length;
      await hands.press("Play").catch(() => {});
      if (isHidden) await (await browser.newPage()).bringToFront();
      await pause(playMs);
      lines.push(
        `tab ${isHidden ? "hidden" : "shown"}: ${cadence(board.lines.slice(before + 50), fern)} (aim: 99 of 100 within 2 ms)`,
      );
      if (isHidden) await page.bringToFront();
    }
    return [...lines, await fromHand(page, board)];
  } finally {
    await browser.close();
    server.kill();
    await board.kill();
  }
}

const strokes = 60;

/** From a key that jogs the neck to the first byte of the line that says it to the board, in ms. */
async function fromHand(page: Page, board: RealBoard): Promise<string> {
  const hands = handsOn(page);
  await hands.goTo("drive");
  await holdAll(page);
  await hands.select("neck-turn");
  await page.focus("[role=slider]");
  await page.evaluate(() => {
    const pressed: number[] = [];
    addEventListener("keydown", (event) => pressed.push(performance.timeOrigin + event.timeStamp), { capture: true });
    Object.assign(window, { pressed });
  });
  // The board's log counts from its own beginning: a line that is none, sent at a known moment, says when that was.
  const nowMs = () => performance.timeOrigin + performance.now();
  const mark = "bench";
  let beganMs = Number.POSITIVE_INFINITY;
  for (let times = 0; times < 10; times += 1) {
    const sentMs = nowMs();
    appendFileSync(board.port, `${mark}${times}\n`);
    await pause(150);
    const seen = board.lines.find(({ line }) => line.includes(`${mark}${times}`));
    if (seen) beganMs = Math.min(beganMs, sentMs - seen.atNs / 1e6);
  }
  for (let times = 0; times < strokes; times += 1) {
    await page.keyboard.press(times % 2 === 0 ? "ArrowUp" : "ArrowDown");
    await pause(150 + Math.random() * 40);
  }
  const pressed = await page.evaluate(() => (window as unknown as { pressed: number[] }).pressed);
  const frames = board.lines.flatMap(({ atNs, line }) => {
    const count = countsIn(line)?.get(0);
    return count === undefined ? [] : [{ atMs: beganMs + atNs / 1e6, count }];
  });
  const changes = frames.filter(({ count }, at) => at > 0 && frames[at - 1]?.count !== count);
  const lags = pressed
    .flatMap((atMs) => changes.find((change) => change.atMs >= atMs)?.atMs ?? [])
    .map((atMs, at) => atMs - (pressed[at] as number))
    .sort((a, b) => a - b);
  return `from a key to its first byte at the board: ${ms(shareOf(lags, 0.5))} in the middle, 99 of 100 within ${ms(shareOf(lags, 0.99))}, of ${lags.length} (aim: in the middle under a frame)`;
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

/** What one question with its answer takes on the wire itself, in ms, when nobody hesitates. */
function exchangeMs(layoutIds: readonly string[], bitsPerS: number): number {
  const layout = layoutsOf(project).find(({ id }) => layoutIds.includes(id));
  const readBytes = layout && sensedStretch(layout)?.count;
  if (!layout || !readBytes) return Number.NaN;
  const once = { layout, devices: 0, bitsPerS, frameHz: 50, writtenBytes: 0, replyDelayUs: 0, gapUs: 0 };
  return wireUse({ ...once, readBytes, readsPerFrame: 1, writes: "as a group" }).usedUs / 1000;
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
    const ownMs = exchangeMs(layoutIds, bitsPerS);
    await run({ kind: "scan", layoutIds, lowestId: 0, highestId: 252, bitsPerS: [bitsPerS] });
    const tookS = (performance.now() - began) / 1000;
    lines.push(
      `an adapter that holds back ${holdsMs} ms: ${framesPerS} questions a second answered beside the frames, in ${ms(answerMs)} (99 of 100 in ${ms(answer99Ms)}), of which the wire itself takes ${ms(ownMs)}: ${((100 * ownMs) / answerMs).toFixed(0)} % (aim: 80 % where nothing is held back); 253 numbers scanned at ${bitsPerS} bit/s in ${tookS.toFixed(1)} s`,
    );
    end();
    wire.end();
  }
  return lines;
}
