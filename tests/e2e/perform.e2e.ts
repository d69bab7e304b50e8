import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { stays, still, until } from "./waiting";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/poses`));
});
afterAll(() => browser?.close());

const names = (selector: string) => page.$$eval(selector, (all) => all.map((one) => one.textContent ?? ""));
const stepNames = () => names("ol[aria-label=Steps] > li");
/** A pose in the list, by its name. */
const choosePose = async (name: string) => {
  await page.evaluate((wanted) => {
    const all = [...document.querySelectorAll<HTMLElement>("nav[aria-label=Poses] button")];
    all.find((one) => one.textContent?.startsWith(wanted))?.click();
  }, name);
  await page.waitForSelector(`section[aria-label="${name}"]`);
};

test("a pose is edited in place, a joint is taken out of it, and both can be undone", async () => {
  const hands = handsOn(page);
  await choosePose("Call");
  await hands.type("Beak in the pose", "20+5");
  expect(await hands.valueOf("Beak in the pose")).toBe("25.0");
  await hands.press("Take Ear tuft out of the pose");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("Call5 joints") ?? false);
  await hands.press("Undo: Edit pose");
  await hands.press("Undo: Edit pose");
  expect(await hands.valueOf("Beak in the pose")).toBe("30.0");
});

test("poses are searched, held against each other, mirrored, nudged together, and edited with the dial", async () => {
  const hands = handsOn(page);
  await choosePose("Look left");
  await hands.choose("Held against", "Watch");
  await hands.until(() => document.querySelector("main table")?.textContent?.includes("−55.0°") ?? false);
  await hands.press("Mirror");
  await page.waitForSelector('section[aria-label="Look left, mirrored"]');
  expect(await hands.valueOf("Neck turn in the pose")).toBe("55.0");
  // The dial edits the pose, and the joint stays where it is.
  const stood = await hands.rackText("neck-turn");
  await (await hands.find("The dial edits the pose, and moves nothing")).click();
  await (await hands.find("Dial of Neck turn in the pose")).focus();
  await page.keyboard.press("ArrowLeft");
  await hands.until(() => document.querySelector<HTMLInputElement>("main table input")?.value === "54.0");
  expect(await hands.rackText("neck-turn")).toBe(stood);
  await (await hands.find("The dial edits the pose, and moves nothing")).click();
  await page.keyboard.down("Control");
  await page.evaluate(() => {
    const all = [...document.querySelectorAll<HTMLElement>("nav[aria-label=Poses] button")];
    const watch = all.find((one) => one.textContent?.startsWith("Watch"));
    watch?.dispatchEvent(new MouseEvent("click", { bubbles: true, ctrlKey: true }));
  });
  await page.keyboard.up("Control");
  await page.waitForSelector('section[aria-label="Several poses"]');
  await hands.press("+ More");
  await choosePose("Watch");
  expect(await hands.valueOf("Neck turn in the pose")).toBe("2.0");
  await hands.press("Undo: Nudge in 2 poses");
  await hands.until(() => document.querySelector<HTMLInputElement>("main table input")?.value === "0.0");
  await hands.choose("Numbers in", "% of the travel");
  expect(await hands.valueOf("Neck turn in the pose")).toBe("50.0");
  await hands.choose("Numbers in", "degrees");
  await page.type("input[type=search]", "tray");
  await hands.until(() => document.querySelectorAll("nav[aria-label=Poses] button").length === 3);
  await page.click("input[type=search]", { count: 3 });
  await page.keyboard.press("Backspace");
});

test("poses go out as a table, and a changed table is shown before it is taken", async () => {
  const hands = handsOn(page);
  await hands.press("As a table");
  const table = await page.waitForSelector("textarea");
  const text = await table?.evaluate((area) => (area as HTMLTextAreaElement).value);
  expect(text).toContain("pose\tNeck turn");
  await table?.evaluate((area) => {
    const set = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, "value")?.set;
    set?.call(area, "pose\tBeak\nCall\t21\nYawn\t33");
    area.dispatchEvent(new Event("input", { bubbles: true }));
  });
  await hands.until(
    () =>
      document.querySelector("dialog")?.textContent?.includes("1 number of 1 pose would change; 1 pose would be new") ??
      false,
  );
  await hands.press("Take it over");
  await choosePose("Yawn");
  expect(await hands.valueOf("Beak in the pose")).toBe("33.0");
  await hands.press("Undo: Paste poses");
});

test("going to a pose takes its time, shows what is still to go, and can be stopped half-way", async () => {
  const hands = handsOn(page);
  await choosePose("Look left");
  await hands.type("in", "4");
  await hands.press("Go to");
  await hands.until(() => document.querySelector("header")?.textContent?.includes("Going to a pose") ?? false);
  const from = await hands.rackText("neck-turn");
  await until(
    () => hands.rackText("neck-turn"),
    (text) => text !== from,
  );
  await hands.press("Stop");
  await hands.until(() => document.querySelector("header")?.textContent?.includes("In your hands") ?? false);
  const stoodAt = await still(() => hands.rackText("neck-turn"), 300);
  expect(stoodAt).toContain("held");
  expect(stoodAt).not.toContain("−55.0°");
  expect(await stays(() => hands.rackText("neck-turn"), 1000)).toBe(stoodAt);
});

test("a deleted pose takes its moves with it, and an undo brings all of it back", async () => {
  const hands = handsOn(page);
  await choosePose("Blink");
  await hands.press("Delete");
  await hands.goTo("routine");
  expect(await stepNames()).toHaveLength(5);
  await hands.press("Undo: Delete pose");
  await hands.until(() => document.querySelectorAll("ol[aria-label=Steps] > li").length === 7);
});

test("steps change places, times refuse nonsense, and a routine without end counts its rounds", async () => {
  const hands = handsOn(page);
  await hands.press("Step 1 down");
  await hands.until(() => document.querySelector("ol[aria-label=Steps] > li")?.textContent?.includes("Blink") ?? false);
  expect((await stepNames())[1]).toContain("Watch");
  await page.click("ol[aria-label=Steps] li button");
  await hands.type("Time of step 1", "-3");
  await hands.until(
    () => document.querySelector("main [role=alert]")?.textContent?.includes("From 0 s to one hour") ?? false,
  );
  await hands.type("Time of step 1", "0.2");
  await hands.press("Carry a tray");
  await hands.press("Play");
  await hands.until(() => document.querySelector("[aria-current=step]") !== null);
  await hands.press("Next step");
  await hands.press("Pause");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("paused") ?? false);
  const stood = await still(() => hands.rackText("shoulder"), 300);
  expect(await stays(() => hands.rackText("shoulder"), 500)).toBe(stood);
  await hands.press("Go on");
  await hands.press("Stop and hold");
  await hands.until(() => document.querySelector("[aria-current=step]") === null);
});

test("played with limp joints, the button says how many it will hold first", async () => {
  const hands = handsOn(page);
  await page.keyboard.press("Escape");
  await hands.press("Hold 5 and play");
  await hands.until(() => document.querySelector("header")?.textContent?.includes("Playing Carry a tray") ?? false);
  await hands.untilRack("shoulder", "routine");
  await hands.untilRack("beak", "limp");
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
  await hands.untilRack("neck-nod", "routine");
  await hands.press("Turn it round");
  await page.keyboard.press("Tab");
  expect(await hands.valueOf("to low")).toBe("70.00");
  expect(complaints).toEqual([]);
});
