import { writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Browser, ElementHandle, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { fileSaved } from "./waiting";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/calibrate`, { timesFaster: 3 }));
});
afterAll(() => browser?.close());

/** The run by itself takes most of a minute of the bench's time: where the machine is busy, more than one. */
const timeout = 180_000;
const until = (text: string) =>
  page.waitForFunction((wanted) => document.querySelector("main")?.textContent?.includes(wanted), { timeout }, text);

test("a servo with a feedback wire is told two angles, and calibrates itself; its card keeps stops, curve and currents", async () => {
  const hands = handsOn(page);
  await hands.select("grip");
  await hands.press("By itself");
  for (const pulse of ["1350", "1700"]) {
    await page.$eval("main details", (one) => one.setAttribute("open", ""));
    await hands.type("Sent now (1333 to 1722 µs by the limits)", pulse);
    await hands.standsAt(Number(pulse));
    await hands.type("Angle seen at this reading", String(await hands.readHorn(180)));
  }
  await until("from 2 readings");
  await hands.press("Start the run B");
  await until("9 places give a");
  // Its truth: 7.4 µs per degree about 90° at 1520, stops at 10° and 170°: 928 and 2112.
  const found = await hands.textOf("[data-readout=survey]");
  const [, low, high] = /lower stop([\d.]+) µsupper stop([\d.]+) µs/.exec(found) ?? [];
  expect(Math.abs(Number(low) - 928)).toBeLessThan(8);
  expect(Math.abs(Number(high) - 2112)).toBeLessThan(8);
  await hands.press("Save stops, window and curve on the card");
  await until("9 points, ");
  const [, slope] = /9 points, (?:piecewise, about )?([\d.]+) ±/.exec(await hands.textOf("main")) ?? [];
  expect(Math.abs(Number(slope) - 7.4)).toBeLessThan(0.25);
});

test("Esc ends the run at once, and says so", async () => {
  const hands = handsOn(page);
  await hands.press("Run again B");
  await until("Outward, up");
  await page.keyboard.press("Escape");
  await until("It was stopped");
  await hands.until(() => document.querySelector("[data-joint=grip]")?.textContent?.includes("limp") ?? false);
});

test("the card file: searched, a sister copied, the servos out as CSV and in again after a look", async () => {
  const hands = handsOn(page);
  await page.keyboard.press("k");
  await until("Card file");
  await hands.type("Search the cards", "crane");
  await page.waitForFunction(() => document.querySelectorAll("[data-card]").length === 1);
  await page.click("[data-card]");
  await until("Check due:");
  await hands.press("Copy for a sister");
  await hands.type("Search the cards", "wrist");
  await page.waitForFunction(() => document.querySelectorAll("[data-card]").length === 2);
  await until("not built in");

  const folder = tmpdir();
  const session = await page.createCDPSession();
  await session.send("Browser.setDownloadBehavior", { behavior: "allow", downloadPath: folder });
  await hands.press("Export CSV");
  const csv = await fileSaved(join(folder, "servo-cards.csv"));
  expect(csv.split("\r\n")[0]).toContain("label,kind,travel_deg");
  const own = join(folder, "own-servos.csv");
  writeFileSync(own, "label;torque_kg_cm\nJaw servo;9,4\nTail servo;3\n");
  const file = (await page.$("input[aria-label='File of cards']")) as ElementHandle<HTMLInputElement>;
  await file.uploadFile(own);
  await hands.press("Add them");
  await hands.type("Search the cards", "Jaw servo");
  await page.waitForFunction(() => document.querySelectorAll("[data-card]").length === 1);
  expect(await hands.valueOf("Torque")).toBe("9.4");
});

test("an empty bench becomes one with a servo of one's own, in one step that can be undone", async () => {
  const hands = handsOn(page);
  if (!page.url().includes("/cards")) await page.goto(`${inject("baseUrl")}/cards`);
  await hands.press("Night greenhouse");
  await hands.press("Empty bench");
  await until("No servo has a card yet");
  await hands.press("Add a joint");
  await hands.type("What it moves", "Jaw");
  await page.waitForSelector("[role=option]");
  await page.keyboard.press("2");
  await until("Jaw by hand");
  await hands.press("Hold");
  await hands.type("Go to an angle or pulse", "30");
  await page.waitForFunction(() => document.querySelector("[role=option]")?.textContent?.includes("30.0°"));
  await hands.press("Undo: Add joint");
  await until("There is no joint on this bench");
  expect(complaints).toEqual([]);
});
