import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import type { AxeResults } from "axe-core";
import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";

const axeSource = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");
const pages = ["/", "/signal", "/drive", "/calibrate", "/inputs", "/poses", "/routine", "/bus", "/hand-off"];

let browser: Browser;
let page: Page;
beforeAll(async () => {
  browser = await openBrowser();
  ({ page } = await openPage(browser, `${inject("baseUrl")}/`));
});
afterAll(() => browser?.close());

describe.each(["day", "night"])("in the %s theme", (theme) => {
  test.each(pages)("axe finds nothing serious on %s", async (path) => {
    await page.evaluate((choice) => localStorage.setItem("vantel.theme", choice), theme);
    await page.goto(`${inject("baseUrl")}${path}`);
    await page.waitForSelector("[role=listbox] [role=option]");
    await page.waitForSelector("main h1");
    await page.evaluate(axeSource);
    const { violations } = (await page.evaluate("axe.run()")) as AxeResults;
    const serious = violations
      .filter(({ impact }) => impact === "serious" || impact === "critical")
      .map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(" | ")}`);
    expect(serious).toEqual([]);
  });
});

test("the rack is walked with the arrow keys, and nothing scrolls sideways at 1024", async () => {
  await page.goto(`${inject("baseUrl")}/drive`);
  await page.waitForSelector("[role=option][aria-selected=true]");
  await page.focus("[role=option][aria-selected=true]");
  await page.keyboard.press("ArrowDown");
  await page.waitForFunction(() => document.querySelector("main h1")?.textContent?.startsWith("Neck nod"));
  await page.keyboard.press("End");
  await page.waitForFunction(() => document.querySelector("main h1")?.textContent?.startsWith("Vent crank"));
  await page.setViewport({ width: 1024, height: 768 });
  for (const path of pages) {
    await page.goto(`${inject("baseUrl")}${path}`);
    await page.waitForSelector("main h1");
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1024);
  }
});
