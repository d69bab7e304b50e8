import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, beforeEach, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { paced, rests, until } from "./waiting";
import { hornDeg } from "./watching";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/drive`));
});
afterAll(() => browser?.close());
beforeEach(async () => {
  await handsOn(page).goTo("drive");
});

const untilTarget = (jointId: string, text: string) =>
  page.waitForFunction(
    (id, wanted) => document.querySelector(`[data-joint="${id}"]`)?.textContent?.includes(wanted),
    {},
    jointId,
    text,
  );
const middleOfDial = async () => {
  const box = await (await page.$("[role=slider] svg"))?.boundingBox();
  if (!box) throw new Error("There is no dial.");
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};

test("the wheel turns the dial by one degree a notch, and coarsely with Shift", async () => {
  const hands = handsOn(page);
  await hands.select("neck-nod");
  const { x, y } = await middleOfDial();
  await page.mouse.move(x, y);
  await page.mouse.wheel({ deltaY: -100 });
  await untilTarget("neck-nod", "1.0°");
  await page.keyboard.down("Shift");
  await page.mouse.wheel({ deltaY: -100 });
  await page.keyboard.up("Shift");
  await untilTarget("neck-nod", "11.0°");
});

test("on the dial arrows jog: fine with Alt, coarse with Shift; Home goes home", async () => {
  await page.focus("[role=slider]");
  await page.keyboard.down("Alt");
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.up("Alt");
  await untilTarget("neck-nod", "10.9°");
  await page.keyboard.down("Shift");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.up("Shift");
  await untilTarget("neck-nod", "0.9°");
  await page.keyboard.press("Home");
  await untilTarget("neck-nod", "0.0°");
  // What a screen reader is told follows a moment later.
  await page.waitForFunction(() =>
    /^target 0\.0°, actual [−\d.]+°$/.test(
      document.querySelector("[role=slider]")?.getAttribute("aria-valuetext") ?? "",
    ),
  );
});

test("jog buttons and the keys , and . do the same from every screen, and stop at the travel limit", async () => {
  const hands = handsOn(page);
  await hands.press("Jog up 10°");
  await untilTarget("neck-nod", "10.0°");
  await hands.goTo("bus");
  await page.keyboard.press(".");
  await untilTarget("neck-nod", "11.0°");
  await paced(5, 60, async () => {
    await page.keyboard.down("Shift");
    await page.keyboard.press(".");
    await page.keyboard.up("Shift");
  });
  await untilTarget("neck-nod", "35.0°");
  await page.keyboard.press(",");
  await untilTarget("neck-nod", "34.0°");
  await page.keyboard.press("g");
  await untilTarget("neck-nod", "0.0°");
});

test("asking beyond the limits is answered in words and moves nothing", async () => {
  const hands = handsOn(page);
  await hands.type("Go to an angle or pulse", "2400us");
  await hands.until(
    () => document.querySelector("main [role=alert]")?.textContent?.includes("outside the travel limits") ?? false,
  );
  await hands.type("Go to an angle or pulse", "12 furlongs");
  await hands.until(() => document.querySelector("main [role=alert]")?.textContent?.includes("not a unit") ?? false);
  await hands.untilRack("neck-nod", "0.0°");
});

test("while a sheet lies over the bench, the mouse releases everything where it always does", async () => {
  const hands = handsOn(page);
  await hands.untilRack("neck-turn", "held");
  const box = await (await page.waitForSelector("header .btn-error"))?.boundingBox();
  const sheets = await page.$$eval("dialog", (all) => all.length);
  await page.keyboard.down("Control");
  await page.keyboard.press("k");
  await page.keyboard.up("Control");
  await page.waitForSelector("dialog[open]");
  await page.mouse.click((box?.x ?? 0) + 40, (box?.y ?? 0) + 12);
  await hands.untilRack("neck-turn", "limp");
  expect(await page.$("dialog[open]")).not.toBeNull();
  await page.keyboard.press("Escape");
  await page.waitForFunction((before) => document.querySelectorAll("dialog").length === before, {}, sheets);
});

test("a sheet is asked for in the same instant in which Esc puts it away: it is there again, and the focus goes back to where it was", async () => {
  const asked = async () => {
    await page.keyboard.down("Control");
    await page.keyboard.press("k");
    await page.keyboard.up("Control");
  };
  const focused = () => page.evaluate(() => document.activeElement?.tagName);
  const before = await focused();
  for (let times = 0; times < 6; times += 1) {
    await asked();
    await page.waitForSelector("dialog[open] input:focus");
    await page.keyboard.press("Escape");
  }
  await page.waitForFunction(() => !document.querySelector("dialog[open]"));
  expect(await focused()).toBe(before);
});

test("a command is found by typing as soon as its sheet is open, and Enter does that one", async () => {
  const hands = handsOn(page);
  await page.keyboard.down("Control");
  await page.keyboard.press("k");
  await page.keyboard.up("Control");
  await page.waitForSelector("dialog[open] input:focus");
  await page.keyboard.type("hold all");
  await page.keyboard.press("Enter");
  await hands.untilRack("neck-turn", "held");
});

test("what a servo does wrong is said, and told from what is known; from there one stands where it is looked into", async () => {
  const hands = handsOn(page);
  await hands.select("neck-turn");
  await page.keyboard.press("Escape");
  await hands.untilRack("neck-turn", "limp");
  await page.keyboard.press("q");
  await hands.press("It does not move at all");
  await hands.until(() => document.querySelector("dialog")?.textContent?.includes("limp: it gets no signal") ?? false);
  await hands.press("Hold it");
  await hands.until(() => !document.querySelector("dialog")?.textContent?.includes("limp: it gets no signal"));
  await hands.press("It turns only half-way");
  await hands.until(() => document.querySelector("dialog")?.textContent?.includes("1000 to 2000 µs for 180°") ?? false);
  await hands.press("Calibrate: End stops");
  await hands.find("Find the end stops B");
  expect(await page.$("dialog[open]")).toBeNull();
  await hands.untilRack("neck-turn", "held");
  await page.locator("header ::-p-text(Hold all)").click();
  await hands.untilRack("vent-crank", "held");
});

test("the palette finds what is wrong by other words, and the parts of every station", async () => {
  const hands = handsOn(page);
  const find = async (words: string) => {
    await page.keyboard.down("Control");
    await page.keyboard.press("k");
    await page.keyboard.up("Control");
    await page.waitForSelector("dialog[open] input:focus");
    await page.keyboard.type(words);
    await page.keyboard.press("Enter");
  };
  await find("jitter");
  const chosen = () => page.$eval("dialog [aria-pressed=true]", (one) => one.textContent).catch(() => "");
  await until(chosen, (symptom) => symptom === "It buzzes, trembles or twitches");
  await hands.choose("Joint", "Vent crank");
  await hands.press("It turns on where it should rest");
  await hands.press("Calibrate: Neutral");
  await page.waitForFunction(() => document.querySelector("main h1")?.textContent?.startsWith("Vent crank"));
  await find("signal: wobble");
  const shown = () => page.$eval("main [role=tab][aria-selected=true]", (tab) => tab.textContent).catch(() => "");
  await until(shown, (tab) => tab === "Wobble");
  // Where one is already, another part opens in its place.
  await find("signal: sweep");
  await until(shown, (tab) => tab === "Sweep");
  await hands.select("neck-nod");
});

test("the outer scale speaks per cent or counts, and a protractor lies over the dial", async () => {
  const texts = () => page.$$eval("[role=slider] text", (all) => all.map((one) => one.textContent));
  await page.waitForFunction(() =>
    [...document.querySelectorAll("[role=slider] text")].some((one) => one.textContent === "1500"),
  );
  for (const radio of await page.$$("main input[type=radio]"))
    if ((await radio.evaluate((one) => one.parentElement?.textContent)) === "counts") await radio.click();
  await page.waitForFunction(() =>
    [...document.querySelectorAll("[role=slider] text")].some((one) => one.textContent === "600"),
  );
  const before = (await texts()).length;
  await page.click("main input[type=checkbox]");
  await page.waitForFunction((count) => document.querySelectorAll("[role=slider] text").length > count, {}, before);
});

test("the crank's neutral is found by keyboard alone: jogged until it rests, and saved", async () => {
  const hands = handsOn(page);
  await hands.select("vent-crank");
  await hands.goTo("calibrate");
  await page.click("main summary");
  const label = "Sent now (1000 to 2000 µs by the limits)";
  // By its sheet it creeps at 1500 µs; its truth rests at 1522, and the board can make 1521.9.
  const field = await hands.find(label);
  await field.focus();
  await page.keyboard.type("1522");
  await page.keyboard.press("Enter");
  await rests(() => hornDeg(page), 1.5, 1500);
  const save = await hands.find("It rests here: save as neutral");
  await save.focus();
  await page.keyboard.press("Enter");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("neutral 1521.9") ?? false);
  await hands.goTo("drive");
  await page.keyboard.press("g");
  await untilTarget("vent-crank", "0.00");
  expect(complaints).toEqual([]);
});
