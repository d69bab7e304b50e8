import type { Browser } from "puppeteer-core";
import { afterAll, beforeAll, expect, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { startServer } from "./served";

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

test("once it was open, the bench opens and drives with its server ended, at any station", async () => {
  // A server of its own: it is ended.
  const { url, server } = await startServer();
  const { page } = await openPage(browser, url, { isKept: true });
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  const kept = await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
    const [name] = (await caches.keys()).filter((one) => one.includes("precache"));
    return name ? (await (await caches.open(name)).keys()).length : 0;
  });
  expect(kept).toBeGreaterThan(50);
  const ended = new Promise((resolve) => server.once("exit", resolve));
  server.kill();
  await ended;
  expect(await fetch(url).catch(() => "gone")).toBe("gone");

  await page.goto(`${url}/drive`, { waitUntil: "load" });
  await page.waitForSelector("[role=listbox] [role=option]");
  const hands = handsOn(page);
  await hands.untilRack("neck-turn", "held");
  await page.focus("[role=slider][aria-label='Dial of Neck turn']");
  await page.keyboard.press("ArrowRight");
  await hands.untilRack("neck-turn", "1.0°");
  for (const station of ["routine", "bus"]) await hands.goTo(station);
});
