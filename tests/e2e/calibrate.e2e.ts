import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/calibrate`));
});
afterAll(() => browser?.close());

const status = () => page.$eval("main [role=status]", (one) => one.textContent ?? "");

/** Keeps an eye on the horn: whether it moves from just before the tool says “watch” to the end of the step. */
async function keepWatching(): Promise<void> {
  await page.evaluate(() => {
    let before = 0;
    let wasWatching = false;
    setInterval(() => {
      const horn = document.querySelector("[data-horn]")?.getAttribute("transform") ?? "";
      const deg = Number(/rotate\(([^)]+)\)/.exec(horn)?.[1]);
      const isWatching = document.querySelector("main [role=status]")?.textContent?.includes("watch the horn") ?? false;
      if (!isWatching && !wasWatching) before = deg;
      if (isWatching) document.body.dataset.turned = String(deg - before);
      else if (wasWatching) document.body.dataset.seen = document.body.dataset.turned;
      wasWatching = isWatching;
    }, 8);
  });
}

/** One step as a person does it: watches it to its end, and says what the horn did. */
async function answerStep(): Promise<void> {
  await page.waitForFunction(() => document.body.dataset.seen !== undefined, { timeout: 10_000 });
  const turned = await page.evaluate(() => {
    const seen = Number(document.body.dataset.seen);
    delete document.body.dataset.seen;
    return seen;
  });
  await page.keyboard.press(Math.abs(turned) > 0.35 ? "j" : "k");
}

test("both end stops are found by keyboard, never pressed for long, and a reload in the middle loses nothing", async () => {
  const hands = handsOn(page);
  await hands.select("neck-turn");
  await hands.press("End stops");
  await keepWatching();
  await hands.press("Find the end stops");
  for (let steps = 0; steps < 3; steps += 1) await answerStep();
  const before = await status();
  expect(before).toContain("Upper stop, step 4");

  // Not answered: the step is over after 0.7 s by itself, and the servo stands back.
  await page.waitForFunction(() => document.body.dataset.seen !== undefined);
  await hands.waitMs(300);
  expect(await status()).toContain("what did the horn do?");
  expect(Number(await page.evaluate(() => document.body.dataset.seen))).toBeGreaterThan(4);

  await page.reload();
  await page.waitForSelector("[role=listbox] [role=option]");
  await hands.press("End stops");
  await page.waitForSelector("main [role=status]");
  expect(await status()).toContain("Upper stop, step 4");
  await page.keyboard.press("Escape");
  await hands.until(() => document.querySelector("main [role=status]")?.textContent?.includes("interrupted") ?? false);
  const goOn = await page.waitForSelector("main section .btn-primary");
  await keepWatching();
  await goOn?.click();
  for (let steps = 0; steps < 70 && !(await status()).includes("Both stops"); steps += 1) await answerStep();
  expect(await status()).toBe("Both stops are found");

  // Its truth: 2° and 176° about 90° at 1512 µs, 10.9 µs per degree with a bend of 2 %: −89.8° × 10.9 and 84.4° × 10.9.
  const found = await hands.textOf("[data-readout=stops]");
  const [, low, high] = /lower([\d.]+) µs.*upper([\d.]+) µs/.exec(found) ?? [];
  expect(Math.abs(Number(low) - 533)).toBeLessThan(14);
  expect(Math.abs(Number(high) - 2432)).toBeLessThan(14);
  await hands.press("Save, and keep the hard window just inside");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("On the card: 5") ?? false);
  await hands.press("Undo: Set hard window");
  await hands.press("Undo: Save end stops");
});

test("five points, one of them a slip: it is pointed out, taken again, and the curve advised", async () => {
  const hands = handsOn(page);
  await hands.press("Angles");
  const measure = async (index: number, pulse: string, seen: (deg: number) => number) => {
    await hands.type("Sent now (1056 to 1944 µs by the limits)", pulse);
    await hands.waitMs(1300);
    await hands.type(`Angle seen at point ${index}`, String(seen(await hands.readHorn(180))));
  };
  const honestly = (deg: number) => deg;
  await measure(1, "1100", honestly);
  await measure(2, "1300", honestly);
  await measure(3, "1500", (deg) => deg + 30);
  await measure(4, "1700", honestly);
  await hands.until(
    () => document.querySelector("main")?.textContent?.includes("does not go with the others") ?? false,
  );
  await hands.press("Remove point 3");
  await hands.until(() => !document.querySelector("main")?.textContent?.includes("does not go with the others"));
  await measure(4, "1500", honestly);
  await measure(5, "1900", honestly);
  await hands.until(() => document.querySelector("main")?.textContent?.includes("Straight is enough") ?? false);
  expect(await hands.textOf("[data-readout=centre]")).toMatch(
    /Off centre by .* µs, [\d.]+°, which is [\d.]+ teeth of its 25/,
  );
  await hands.press("Save on the card");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("5 points, 1") ?? false);
  expect(complaints).toEqual([]);
});
