import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/poses`));
});
afterAll(() => browser?.close());

const names = (selector: string) => page.$$eval(selector, (all) => all.map((one) => one.textContent ?? ""));
const poseOf = (move: number) =>
  page.$eval(
    `select[aria-label="Pose of move ${move}"]`,
    (field) => (field as HTMLSelectElement).selectedOptions[0]?.textContent,
  );

test("a pose is edited in place, a joint is taken out of it, and both can be undone", async () => {
  const hands = handsOn(page);
  await hands.press("Call6 joints");
  await hands.type("Beak in the pose", "20+5");
  expect(await hands.valueOf("Beak in the pose")).toBe("25.0");
  await hands.press("Take Ear tuft out of the pose");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("Call5 joints") ?? false);
  await hands.press("Undo: Edit pose");
  await hands.press("Undo: Edit pose");
  expect(await hands.valueOf("Beak in the pose")).toBe("30.0");
});

test("going to a pose takes its time, shows what is still to go, and can be stopped half-way", async () => {
  const hands = handsOn(page);
  await hands.press("Look left6 joints");
  await hands.type("in", "4");
  await hands.press("Go to");
  await hands.until(() => document.querySelector("header")?.textContent?.includes("Going to a pose") ?? false);
  await hands.waitMs(1500);
  await hands.press("Stop");
  await hands.until(() => document.querySelector("header")?.textContent?.includes("In your hands") ?? false);
  await hands.waitMs(300);
  const stoodAt = await hands.rackText("neck-turn");
  expect(stoodAt).toContain("held");
  expect(stoodAt).not.toContain("−55.0°");
  await hands.waitMs(1000);
  expect(await hands.rackText("neck-turn")).toBe(stoodAt);
});

test("a deleted pose takes its moves with it, and an undo brings all of it back", async () => {
  const hands = handsOn(page);
  await hands.press("Blink2 joints");
  await hands.press("Delete");
  await hands.goTo("routine");
  expect(await names("main tbody tr")).toHaveLength(5);
  await hands.press("Undo: Delete pose");
  await hands.until(() => document.querySelectorAll("main tbody tr").length === 7);
});

test("moves change places, times refuse nonsense, and a looped routine counts its rounds", async () => {
  const hands = handsOn(page);
  await hands.press("Move 1 down");
  expect(await poseOf(1)).toBe("Blink");
  expect(await poseOf(2)).toBe("Watch");
  await hands.type("Time of move 1", "-3");
  await hands.until(
    () => document.querySelector("main [role=alert]")?.textContent?.includes("0 s to one hour") ?? false,
  );
  await hands.type("Time of move 1", "0.2");
  await hands.press("Carry a tray");
  await hands.press("Play");
  await hands.until(() => document.querySelector("[aria-current=step]") !== null);
  expect(await names("main")).not.toContain("round 2");
  await hands.press("Stop and hold");
  await hands.until(() => document.querySelector("[aria-current=step]") === null);
});

test("played with limp joints, the button says how many it will hold first", async () => {
  const hands = handsOn(page);
  await page.keyboard.press("Escape");
  await hands.press("Hold 5 and play");
  await hands.until(() => document.querySelector("header")?.textContent?.includes("Playing Carry a tray") ?? false);
  expect(await hands.rackText("shoulder")).toContain("routine");
  expect(await hands.rackText("beak")).toContain("limp");
  await page.keyboard.press("s");
  await hands.until(() => document.querySelector("header")?.textContent?.includes("In your hands") ?? false);
});

test("a knob that is turned takes a joint from the playing routine; the others play on", async () => {
  const hands = handsOn(page);
  await hands.press("Hold all (7 limp)");
  await hands.press("Owl wakes");
  await hands.press("Play");
  await hands.goTo("inputs");
  await hands.select("neck-turn");
  await (await hands.find("Bench knob")).focus();
  await page.keyboard.press("End");
  await hands.until(() => document.querySelector("[data-joint=neck-turn]")?.textContent?.includes("input") ?? false);
  expect(await hands.rackText("neck-nod")).toContain("routine");
  await hands.press("Turn it round");
  await page.keyboard.press("Tab");
  expect(await hands.valueOf("to low")).toBe("70.00");
  expect(complaints).toEqual([]);
});
