import { existsSync, mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "puppeteer-core";
import { readProjectFile, writeProjectFile } from "../src/core/files";
import { openBrowser, openPage } from "../tests/e2e/browser";
import { handsOn } from "../tests/e2e/hands";
import { startServer } from "../tests/e2e/served";
import { pause } from "../tests/e2e/waiting";
import { crowdScore } from "./performance";

/** An hour of 32 joints in the real interface: how long the page is held up at most while it is opened, zoomed, scrolled and edited. */
export async function hourOnScreen(): Promise<string[]> {
  if (!existsSync("dist/server/vantel.mjs")) return ["The site is not built: run bin/start or npm run build first."];
  const { project, score } = crowdScore(3_600_000);
  const file = join(mkdtempSync(join(tmpdir(), "vantel-hour-")), "hour.vantel.json");
  const text = writeProjectFile({ ...project, id: "hour", name: "An hour", routines: [score.routine] });
  // A page that refuses the file would be waited for in vain.
  const read = readProjectFile(text);
  if (!read.ok) throw new Error(read.problem);
  writeFileSync(file, text);
  const { url, server } = await startServer();
  const browser = await openBrowser();
  try {
    const { page } = await openPage(browser, `${url}/routine`);
    const hands = handsOn(page);
    await hands.press("Night greenhouse");
    const input = await page.waitForSelector("input[type=file]");
    const opened = await longest(page, async () => {
      await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(file);
      await page.waitForFunction(() => document.querySelectorAll("[data-lane]").length === 32, { timeout: 60_000 });
      await pause(4000);
    });
    const zoomed = await longest(page, async () => {
      for (let zoom = 0; zoom < 8; zoom += 1) {
        await hands.press("Zoom in");
        await pause(120);
      }
    });
    const scrolled = await longest(page, async () => {
      await page.focus("[role=scrollbar]");
      for (let step = 0; step < 12; step += 1) {
        await page.keyboard.press("ArrowRight");
        await pause(60);
      }
    });
    const edited = await longest(page, async () => {
      await page.click("[data-step]");
      await page.focus("[data-step][aria-pressed=true]");
      await page.keyboard.press("ArrowUp");
      await pause(4000);
    });
    return [
      `longest stretch without an answer: opening ${opened} ms, zooming ${zoomed} ms, moving along ${scrolled} ms, an edit with its save and its check ${edited} ms`,
    ];
  } finally {
    await browser.close();
    server.kill();
  }
}

/** The longest task of the page while something is done, in ms: 0 where none took 50. */
async function longest(page: Page, act: () => Promise<void>): Promise<number> {
  await page.evaluate(() => {
    const seen = { most: 0, observer: null as PerformanceObserver | null };
    seen.observer = new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) seen.most = Math.max(seen.most, entry.duration);
    });
    seen.observer.observe({ entryTypes: ["longtask"] });
    Object.assign(window, { longTasks: seen });
  });
  await act();
  return page.evaluate(() => {
    const { longTasks } = window as unknown as { longTasks: { most: number; observer: PerformanceObserver } };
    longTasks.observer.disconnect();
    return Math.round(longTasks.most);
  });
}
