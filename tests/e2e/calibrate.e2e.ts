import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { until } from "./waiting";
import { answerStep, keepWatching, statusOf } from "./watching";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/calibrate`, { timesFaster: 2 }));
});
afterAll(() => browser?.close());

const status = () => statusOf(page);

test("a link that is lost in the middle of a search leaves the servo safe, and the search goes on afterwards", async () => {
  const hands = handsOn(page);
  await hands.select("neck-turn");
  await hands.press("End stops");
  await keepWatching(page);
  await hands.press("Find the end stops B");
  await answerStep(page);
  await answerStep(page);
  await hands.press("3 simulated boards, live");
  await hands.press("Pull the plug");
  await hands.until(() => document.querySelector("main [role=status]")?.textContent?.includes("interrupted") ?? false);
  await page.keyboard.press("j");
  expect(await status()).toContain("Does it move?, step 2");
  await hands.press("Plug it in");
  await hands.until(() => document.querySelector("header")?.textContent?.includes("3 simulated boards, live") ?? false);
  // Fern releases when its link falls silent: a person has to hold again.
  await hands.untilRack("neck-turn", "limp");
  await page.keyboard.press("Escape");
  await page.locator("main section .btn-primary").click();
  await hands.until(
    () => document.querySelector("main [role=status]")?.textContent?.includes("watch the horn") ?? false,
  );
  await hands.press("Give up");
});

test("five points, one of them a slip: it is pointed out, taken again, and the curve advised", async () => {
  const hands = handsOn(page);
  await hands.press("Angles");
  const measure = async (index: number, pulse: string, seen: (deg: number) => number) => {
    await hands.type("Sent now (1056 to 1944 µs by the limits)", pulse);
    await hands.standsAt(Number(pulse));
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

test("answers that cannot all be right are looked at again, each in its turn; said twice, they are named, and the search stands", async () => {
  const hands = handsOn(page);
  await page.goto(`${inject("baseUrl")}/calibrate`);
  await page.waitForSelector("[role=listbox] [role=option]");
  await hands.select("vent-crank");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("Find where it rests") ?? false);
  await page.keyboard.press("b");
  const answer = async (key: "j" | "k" | "l") => {
    const before = await until(status, (text) => text.includes("what does it do"));
    await page.keyboard.press(key);
    return until(status, (text) => text !== before);
  };
  // One way, the other, at rest, and beyond its rest the wrong way: twice each.
  for (const key of ["j", "l", "k"] as const) await answer(key);
  expect(await answer("l")).toContain("Once more, to be sure");
  expect(await answer("l")).toContain("Once more, to be sure");
  expect(await answer("k")).toContain("Once more, to be sure");
  expect(await answer("j")).toContain("does not fit");
  await page.keyboard.press("z");
  await until(status, (text) => text.includes("what does it do"));

  // After a reload it is shown again when a person says so; it had been on its way for ever.
  await page.reload();
  await page.waitForSelector("[role=listbox] [role=option]");
  await until(status, (text) => text.includes("interrupted"));
  await hands.press("Hold it and go on");
  await until(status, (text) => text.includes("what does it do"));
});
