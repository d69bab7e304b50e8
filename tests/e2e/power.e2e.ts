import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { readPdf } from "./pdf";
import { insist, still, until } from "./waiting";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/power`));
  await page.waitForSelector("svg[data-wiring]");
});
afterAll(() => browser?.close());

const tab = (name: string) => page.click(`#power-panel-${name}`);
const concerns = () =>
  page.$$eval("[data-concern]", (all) => all.map((one) => (one as HTMLElement).dataset.concern ?? ""));
const untilConcerns = (count: number) =>
  page.waitForFunction((wanted) => document.querySelectorAll("[data-concern]").length === wanted, {}, count);
const readout = () => handsOn(page).textOf("[data-power-readout]");

const middleOf = async (thing: string) => {
  const box = await (await page.waitForSelector(`[data-thing='${thing}'] rect`))?.boundingBox();
  if (!box) throw new Error(`${thing} is not drawn.`);
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};

test("a servo is dragged onto another rail, and fed from there by its own wire; undone, all is as it was", async () => {
  const hands = handsOn(page);
  const drawn = () => page.$eval("[data-run=run-ear-tuft] path", (path) => path.getAttribute("d") ?? "");
  const before = await drawn();
  const [servo, rail] = [await middleOf("joint:ear-tuft"), await middleOf("rail:rail-five")];
  await page.mouse.move(servo.x, servo.y);
  await page.mouse.down();
  await page.mouse.move(rail.x, rail.y, { steps: 8 });
  await page.waitForSelector("[data-pulled='rail:rail-five']");
  await page.mouse.up();
  await until(drawn, (path) => path !== before);
  expect(await page.$("[data-pulled]")).toBeNull();
  expect(await hands.textOf("[data-run=run-ear-tuft]")).toContain("30 cm");
  await hands.press("Undo: Feed from elsewhere");
  await until(drawn, (path) => path === before);
});

test("what flows now: a wire glows as its servo begins to turn, and what a routine asks of it at the worst stands under the drawing", async () => {
  const hands = handsOn(page);
  await page.locator("label ::-p-text(now)").click();
  const glow = () =>
    page.$eval("[data-run=run-neck-turn]", (run) => Number(run.querySelector<SVGElement>("[data-glow]")?.dataset.glow));
  const resting = await still(glow, 600);
  await hands.select("neck-turn");
  await insist(
    (times) => page.keyboard.press(times % 2 === 0 ? "." : ","),
    async () => (await glow()) > 2 * resting,
    300,
  );
  await still(glow, 600);
  await page.click("[data-run=run-neck-turn] text");
  await until(readout, (words) => words.includes("Worst in Owl wakes: "));
  await page.locator("label ::-p-text(all turn)").click();
  await tab("review");
});

test("the two faults of the greenhouse are found and explained; over time the board starts anew", async () => {
  const hands = handsOn(page);
  expect(await concerns()).toEqual(["thinWire", "weak"]);
  expect(await hands.textOf("[data-concern=thinWire]")).toContain("6.0 m of 0.08 mm²");
  expect(await hands.textOf("[data-concern=weak]")).toContain("when all of its servos start together");
  await tab("course");
  await page.waitForSelector("[data-worst]");
  await page.waitForFunction(() => document.querySelector("[data-worst]")?.textContent?.includes("starts anew"));
  expect(await hands.textOf("[data-warmest]")).toContain("that it may carry");
  expect(await page.$$eval("[data-compared] tbody th", (all) => all.map((one) => one.textContent))).toEqual([
    "As it is",
    "Starts one after another",
    "Moves half as fast again as long",
    "Wires of twice the copper",
  ]);
});

test("a supply that is undone while its currents are looked at takes nothing with it", async () => {
  const hands = handsOn(page);
  await tab("things");
  await page.select("select[aria-label='Add a supply']", "adapter");
  await tab("course");
  await until(
    () => hands.textOf("[data-worst]"),
    (words) => words.toLowerCase().includes("mains adapter"),
  );
  for (let rounds = 0; rounds < 4; rounds += 1) {
    await page.keyboard.down("Control");
    await page.keyboard.press(rounds % 2 === 0 ? "z" : "y");
    await page.keyboard.up("Control");
  }
  await page.keyboard.down("Control");
  await page.keyboard.press("z");
  await page.keyboard.up("Control");
  await until(
    () => hands.textOf("[data-worst]"),
    (words) => !words.toLowerCase().includes("mains adapter"),
  );
  expect(complaints).toEqual([]);
});

test("pressing a wire in the drawing says what it carries, and shows its fields; the case that is shown changes the numbers", async () => {
  const hands = handsOn(page);
  await page.click("[data-run=run-vent-crank] text");
  await page.waitForFunction(() => document.querySelector("[data-power-readout]")?.textContent?.includes("Vent crank"));
  const turning = await readout();
  expect(turning).toContain("while all turn");
  await page.locator("label ::-p-text(all start)").click();
  await page.waitForFunction(
    (before) => document.querySelector("[data-power-readout]")?.textContent !== before,
    {},
    turning,
  );
  expect(await readout()).toContain("when all start together");
  expect(await hands.valueOf("Length")).toContain("600");
  await page.focus("[aria-label^='Wiring, as a drawing']");
  await page.keyboard.press("ArrowDown");
  await page.waitForFunction(
    () => !document.querySelector("[data-power-readout]")?.textContent?.includes("Vent crank"),
  );
});

test("both are mended by a click each, and can be undone; nothing is left to say", async () => {
  const hands = handsOn(page);
  await tab("review");
  await untilConcerns(2);
  await hands.press("0.75 mm² (gauge 18) instead");
  await untilConcerns(1);
  await hands.press("Take one that gives 6.00 A");
  await page.waitForSelector("[data-review=clean]");
  await hands.press("Undo: Take one that gives 6.00 A");
  await untilConcerns(1);
  await page.keyboard.down("Control");
  await page.keyboard.press("y");
  await page.keyboard.up("Control");
  await page.waitForSelector("[data-review=clean]");
});

test("a brown-out in motion: the board starts anew, says so, its joints are limp; held again they go on", async () => {
  const hands = handsOn(page);
  await page.click("[data-thing='supply:supply-owl'] rect");
  await hands.type("At most", "0.7");
  await page.keyboard.press("Tab");
  await hands.goTo("poses");
  await insist(
    async (times) => {
      await hands.press(times % 2 === 0 ? "Call6 joints" : "Look left6 joints");
      await hands.press("Go to");
    },
    () => page.evaluate(() => document.body.textContent?.includes("Fern went out and starts anew")),
    1500,
  );
  await hands.untilRack("neck-turn", "limp");
  await hands.untilRack("elbow", "held");
  await hands.select("neck-turn");
  // A board that is still starting can hold nothing: a person tries again.
  await insist(
    () => page.keyboard.press("h"),
    async () => (await hands.rackText("neck-turn")).includes("held"),
    500,
  );
  await hands.goTo("power");
  await page.waitForSelector("svg[data-wiring]");
  await page.click("[data-thing='supply:supply-owl'] rect");
  await hands.type("At most", "6");
  await page.waitForFunction(() => document.querySelectorAll("[data-concern]").length === 0);
});

test("two cells where there was an adapter: over their voltage, without a fuse; a regulator between mends the one", async () => {
  const hands = handsOn(page);
  await tab("things");
  await page.click("[data-thing='supply:supply-owl'] rect");
  await hands.choose("It is", "battery");
  await tab("review");
  await page.waitForSelector("[data-concern=voltage]");
  expect(await hands.textOf("[data-concern=voltage]")).toContain("full");
  await page.waitForSelector("[data-concern=fuse]");
  await page.locator("[data-concern=voltage] button ::-p-text(A regulator of)").click();
  await page.waitForFunction(() => document.querySelector("[data-concern=voltage]") === null);
  await page.waitForSelector("[data-thing='supply:regulator-supply-owl']");
});

test("a guided measurement: typed off a meter, then taken from a meter's line; what was a model is measured", async () => {
  const hands = handsOn(page);
  await hands.goTo("inputs");
  await hands.press("Settings of Vane on Pebble");
  await hands.type("Name in the line “name=value”", "meter0");
  await page.keyboard.press("Tab");
  await hands.press("Done");
  await hands.goTo("power");
  await tab("things");
  await hands.choose("Thing", "Wrist tilt");
  const draws = () => hands.textOf("[data-draws]");
  await page.waitForFunction(() => document.querySelector("[data-draws]")?.textContent?.includes("by a model"));
  await page.click("[data-measure] summary");
  await page.waitForFunction(() =>
    document.querySelector("[data-measure]")?.textContent?.includes("red lead towards 5 V rail"),
  );
  await hands.type("Seen turning", "0.21 A");
  await page.waitForFunction(() => document.querySelector("[data-draws]")?.textContent?.includes("0.21 A"));
  await hands.choose("The number comes from", "the line of Vane on Pebble, in mA");
  await page.waitForFunction(() =>
    /[1-9]\d* mA/.test(document.querySelector("[data-measure] .text-lg")?.textContent ?? ""),
  );
  await hands.press("It stands: take it as at rest");
  await page.waitForFunction(() => !document.querySelector("[data-draws]")?.textContent?.includes("by a model"));
  expect(await draws()).toMatch(/at rest\d+ mA/);
  // What the model would have said stands beside it.
  expect(await hands.textOf("[data-model=idle]")).toMatch(/measured .*(times that|the same)/);
  await page.waitForFunction(() => document.querySelector("[data-measure]")?.textContent?.includes("Last measured 20"));
});

test("the drawing on paper: its scale is read off the PDF by its ruler, and the wires are listed", async () => {
  await tab("paper");
  await page.waitForSelector("[data-wires] tr");
  expect(await page.$$eval("[data-wires] tr", (all) => all.length)).toBeGreaterThan(18);
  expect(await handsOn(page).textOf("[data-shopping]")).toContain("Wire of 0.75 mm²");
  await page.click("[aria-label='Switch-on check'] input");
  await page.waitForFunction(() =>
    document.querySelector("[aria-label='Switch-on check']")?.textContent?.includes("Seen 20"),
  );
  await page.evaluate(() => {
    window.print = () => {};
  });
  await page.locator("#power-panel ::-p-xpath(.//button[starts-with(., 'Print')])").click();
  await page.waitForSelector("[data-ruler]");
  await page.waitForFunction(() =>
    [...document.querySelectorAll<HTMLImageElement>("img[data-sheet]")].every(
      (one) => one.complete && one.naturalWidth > 0,
    ),
  );
  const { boxes, rules } = readPdf(await page.pdf({ preferCSSPageSize: true }));
  expect(boxes[0]?.map(Math.round)).toEqual([595, 842]);
  // 100 mm are 283.46 points.
  expect(rules.length).toBeGreaterThan(0);
  for (const rule of rules) expect(Math.abs(rule - 283.46)).toBeLessThan(0.1);
  await page.evaluate(() => window.dispatchEvent(new Event("afterprint")));
  await page.waitForFunction(() => document.querySelector("[data-ruler]") === null);
});

test("servos that lost their rail are wired anew in one step; an empty bench says where to begin", async () => {
  const hands = handsOn(page);
  await tab("things");
  await hands.choose("Thing", "Owl rail");
  await hands.press("Remove Owl rail");
  await page.waitForFunction(() => document.querySelector("main")?.textContent?.includes("not fed"));
  await hands.press("Wire the 6 that are not fed");
  await page.waitForFunction(
    () => ![...document.querySelectorAll("[data-thing^='joint:']")].some((one) => one.textContent?.includes("not fed")),
  );
  await hands.untilSaved();
  await hands.press("Night greenhouse");
  await hands.press("Empty bench");
  await page.waitForFunction(() => document.querySelector("main")?.textContent?.includes("Add a joint first"));
  expect(complaints).toEqual([]);
});
