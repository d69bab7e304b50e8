import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Browser, ElementHandle, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/routine`));
  await page.waitForSelector("[data-step=wake-3]");
});
afterAll(() => browser?.close());

const tab = (at: number) =>
  page.evaluate((place) => document.querySelectorAll<HTMLElement>("[role=tab]")[place]?.click(), at);

/** Drags from a place within an element, by so many px. */
async function drag(selector: string, from: { x: number; y: number }, by: { x: number; y: number }): Promise<void> {
  const box = await (await page.waitForSelector(selector))?.boundingBox();
  if (!box) throw new Error(`${selector} is not there.`);
  const [x, y] = [box.x + from.x * box.width, box.y + from.y * box.height];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + by.x / 2, y + by.y / 2, { steps: 4 });
  await page.mouse.move(x + by.x, y + by.y, { steps: 4 });
  await page.mouse.up();
}
const stepOrder = () =>
  page.$$eval("[data-step]", (all) => all.map((one) => one.getAttribute("data-step")?.at(-1)).join(""));
const middle = { x: 0.5, y: 0.5 };

test("the edge of a step is dragged for its time, on the grid; its field and the lanes follow", async () => {
  const hands = handsOn(page);
  await page.click("[data-step=wake-3]");
  await page.waitForSelector("[title='Arrives: drag']");
  expect(await hands.valueOf("Time of step 3")).toBe("1.10");
  await drag("[title='Arrives: drag']", middle, { x: 36, y: 0 });
  const dragged = Number(await hands.valueOf("Time of step 3"));
  expect(dragged).toBeGreaterThan(1.4);
  expect(dragged).toBeLessThan(1.8);
  // It begins at 1.82 s and arrives on the grid.
  expect(Math.round(1820 + dragged * 1000) % 50).toBe(0);
  await hands.press("Undo: Change time");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("of 8.04 s") ?? false);
});

test("a step is dragged to another place, copied, pasted, cut and walked by keyboard", async () => {
  const hands = handsOn(page);
  await drag("[data-step=wake-3]", middle, { x: 190, y: 0 });
  await page.waitForFunction(() => document.querySelectorAll("[data-step]")[2]?.getAttribute("data-step") === "wake-4");
  expect(await stepOrder()).toBe("1243567");
  await hands.press("Undo: Reorder steps");
  await page.focus("[data-step=wake-3]");
  await page.keyboard.down("Control");
  await page.keyboard.press("c");
  await page.keyboard.press("v");
  await page.keyboard.up("Control");
  await page.waitForFunction(() => document.querySelectorAll("[data-step]").length === 8);
  await hands.press("Undo: Paste steps");
  await page.focus("[data-step=wake-3]");
  await page.click("[data-step=wake-3]");
  await page.keyboard.press("ArrowRight");
  await page.waitForFunction(() => document.activeElement?.getAttribute("data-step") === "wake-4");
  await page.keyboard.press("ArrowUp");
  await page.waitForFunction(() => document.querySelector("main")?.textContent?.includes("of 8.09 s"));
  await page.keyboard.press("Delete");
  await page.waitForFunction(() => document.querySelectorAll("[data-step]").length === 6);
  await hands.press("Undo: Remove step");
  await hands.press("Undo: Change time");
});

test("a double click puts a key on the curve; dragged, it bends it; each is undone by itself", async () => {
  const hands = handsOn(page);
  const lane = "[data-lane=beak] [role=slider]";
  const box = await (await page.waitForSelector(lane))?.boundingBox();
  if (!box) throw new Error("There is no lane.");
  for (const share of [0.3, 0.4, 0.5])
    await page.mouse.click(box.x + share * box.width, box.y + box.height / 2, { count: 2 });
  await page.waitForFunction(() => document.querySelectorAll("[data-lane=beak] [data-key]").length === 3);
  const keyAt = await page.$$eval("[data-lane=beak] [data-key]", (all) =>
    all.map((one) => one.getAttribute("data-key")),
  );
  await drag(`[data-lane=beak] [data-key="${keyAt[1]}"]`, middle, { x: 0, y: -18 });
  await page.waitForFunction(() =>
    /, (1\d|2\d|3\d)/.test(
      document.querySelector("[data-lane=beak] [role=slider]")?.getAttribute("aria-valuetext") ?? "",
    ),
  );
  expect(await page.$$("[data-lane=beak] [data-key]")).toHaveLength(3);
  await hands.press("Undo: Move keys");
  await hands.press("Undo: Add key");
  await hands.press("Undo: Add key");
  await hands.press("Undo: Add key");
});

test("a frame over two lanes chooses the keys of both; a click beside them lets go; all of a part are chosen by key", async () => {
  const hands = handsOn(page);
  const boxOf = async (jointId: string) => {
    const box = await (await page.waitForSelector(`[data-lane=${jointId}] [role=slider]`))?.boundingBox();
    if (!box) throw new Error("There is no lane.");
    return box;
  };
  const chosen = () => page.$$eval("[data-key] .fill-secondary", (all) => all.length);
  const [upper, lower] = [await boxOf("neck-turn"), await boxOf("neck-nod")];
  for (const [box, share] of [
    [upper, 0.3],
    [upper, 0.5],
    [lower, 0.4],
  ] as const)
    await page.mouse.click(box.x + share * box.width, box.y + box.height / 2, { count: 2 });
  await page.waitForFunction(() => document.querySelectorAll("[data-key]").length === 3);

  await page.mouse.move(lower.x + 0.6 * lower.width, lower.y + lower.height - 4);
  await page.mouse.down();
  await page.mouse.move(upper.x + 0.35 * upper.width, upper.y + 4, { steps: 6 });
  await page.mouse.up();
  expect(await chosen()).toBe(2);
  await page.mouse.click(lower.x + 0.8 * lower.width, lower.y + 6);
  expect(await chosen()).toBe(0);

  await page.keyboard.down("Control");
  await page.keyboard.down("Shift");
  await page.keyboard.press("a");
  await page.keyboard.up("Shift");
  await page.keyboard.up("Control");
  await page.waitForFunction(() => document.querySelectorAll("[data-key] .fill-secondary").length === 3);
  await page.keyboard.press("Delete");
  await page.waitForFunction(() => document.querySelector("[data-key]") === null);
  await hands.press("Undo: Remove keys");
  await page.waitForFunction(() => document.querySelectorAll("[data-key]").length === 3);
  for (let times = 0; times < 3; times += 1) await hands.press("Undo: Add key");
});

test("zoomed in about the cursor and moved along, only what is in view is drawn", async () => {
  const hands = handsOn(page);
  for (let times = 0; times < 4; times += 1) await hands.press("Zoom in");
  await page.waitForFunction(() => document.querySelectorAll("[data-step]").length < 4);
  await page.focus("[role=scrollbar]");
  for (let times = 0; times < 6; times += 1) await page.keyboard.press("ArrowRight");
  await hands.press("All");
  await page.waitForFunction(() => document.querySelectorAll("[data-step]").length === 7);
});

test("along the ruler every moment is seen as a ghost; paused, the servos follow it", async () => {
  const hands = handsOn(page);
  const stood = await hands.rackText("neck-turn");
  await page.focus("[aria-label='Moment of the routine']");
  for (let times = 0; times < 3; times += 1) await page.keyboard.press("ArrowRight");
  expect(await hands.rackText("neck-turn")).toBe(stood);
  await page.keyboard.press("Home");
  await hands.press("Play");
  await hands.press("Pause");
  await drag("[aria-label='Moment of the routine']", { x: 0.1, y: 0.3 }, { x: 150, y: 0 });
  await page.waitForFunction(
    () => /−(4|5)\d\.\d°/.test(document.querySelector("[data-joint=neck-turn]")?.textContent ?? ""),
    {},
  );
  await page.keyboard.press("s");
});

test("movement from elsewhere: columns are matched, units guessed, nothing is taken before it was seen", async () => {
  const hands = handsOn(page);
  const path = join(mkdtempSync(join(tmpdir(), "vantel-motion-")), "nodding.csv");
  const rows = Array.from(
    { length: 60 },
    (_, at) => `${at * 25};${(1500 + 150 * Math.sin(at / 9)).toFixed(0)};${at % 7}`,
  );
  writeFileSync(path, ["time_ms;Neck nod;mood", ...rows].join("\n"));
  await tab(2);
  await hands.press("From a file");
  const input = (await page.waitForSelector("dialog input[type=file]")) as ElementHandle<HTMLInputElement>;
  await input.uploadFile(path);
  await page.waitForFunction(() => document.querySelector("dialog table") !== null);
  expect(
    await (await hands.find("Unit of Neck nod")).evaluate((one) => (one as unknown as HTMLSelectElement).value),
  ).toBe("setPoint");
  expect(await hands.textOf("dialog")).toContain("1.48 s of 1 joint.");
  expect(await page.$$("[data-take]")).toHaveLength(0);
  await hands.press("Take it");
  await page.waitForSelector("[data-take]");
  expect(await hands.textOf("[data-lane=neck-nod]")).toContain("Neck nod");
  // Its slip is trimmed at its end, and moved along.
  await drag("[data-clip]", { x: 0.5, y: 0.5 }, { x: 140, y: 0 });
  await page.waitForFunction(
    () =>
      (document.querySelector<HTMLInputElement>("section[aria-label^='Clip of'] input")?.value ?? "0.00") !== "0.00",
  );
  await drag("[data-clip]", { x: 0.99, y: 0.5 }, { x: -50, y: 0 });
  await page.waitForFunction(() => {
    const field = [...document.querySelectorAll("label")].find((one) => one.textContent === "to");
    return Number((field?.nextElementSibling?.querySelector("input") as HTMLInputElement | null)?.value) < 1.2;
  });
  expect(complaints).toEqual([]);
});
