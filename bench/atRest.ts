import { existsSync } from "node:fs";
import type { CDPSession } from "puppeteer-core";
import { openBrowser, openPage } from "../tests/e2e/browser";
import { handsOn } from "../tests/e2e/hands";
import { startServer } from "../tests/e2e/served";
import { pause } from "../tests/e2e/waiting";

const stations = [
  "",
  "signal",
  "drive",
  "calibrate",
  "inputs",
  "figure",
  "poses",
  "routine",
  "bus",
  "power",
  "remote",
  "hand-off",
] as const;
const settleMs = 2500;
const watchMs = 6000;

/** What each page of the demo costs while nobody touches it and its vent creeps, and the first page while the owl plays: by the browser's own counters. */
export async function atRest(): Promise<string[]> {
  if (!existsSync("dist/server/vantel.mjs")) return ["The site is not built: run bin/start or npm run build first."];
  const { url, server } = await startServer();
  const browser = await openBrowser();
  try {
    const { page } = await openPage(browser, url);
    const hands = handsOn(page);
    const counters = await page.createCDPSession();
    await counters.send("Performance.enable");
    const lines: string[] = [];
    for (const station of stations) {
      if (station) await hands.goTo(station);
      await pause(settleMs);
      lines.push(`${station || "first page"}: ${await costOf(counters)}`);
    }
    await hands.goTo("routine");
    await hands.press("Play");
    await page.$eval("a[href='/']", (home) => (home as HTMLElement).click());
    await page.waitForFunction(() => location.pathname === "/");
    await pause(settleMs);
    lines.push(`first page while the owl plays: ${await costOf(counters)}`);
    return [...lines, "(aim at rest: under 1 layout a second, under 4 % of the main thread)"];
  } finally {
    await browser.close();
    server.kill();
  }
}

async function costOf(counters: CDPSession): Promise<string> {
  const read = async () => {
    const { metrics } = await counters.send("Performance.getMetrics");
    return new Map(metrics.map(({ name, value }) => [name, value]));
  };
  const before = await read();
  await pause(watchMs);
  const after = await read();
  const grown = (name: string) => (after.get(name) ?? 0) - (before.get(name) ?? 0);
  const seconds = grown("Timestamp");
  return `${(grown("LayoutCount") / seconds).toFixed(1)} layouts, ${(grown("RecalcStyleCount") / seconds).toFixed(1)} styles a second, ${((100 * grown("TaskDuration")) / seconds).toFixed(1)} % of the main thread`;
}
