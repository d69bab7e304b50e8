import type { Page } from "puppeteer-core";

/** Keeps an eye on the horn: whether it moves from just before the tool says “watch” to the end of the step. */
export async function keepWatching(page: Page): Promise<void> {
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
export async function answerStep(page: Page): Promise<void> {
  await page.waitForFunction(() => document.body.dataset.seen !== undefined, { timeout: 10_000 });
  const turned = await page.evaluate(() => {
    const seen = Number(document.body.dataset.seen);
    delete document.body.dataset.seen;
    return seen;
  });
  await page.keyboard.press(Math.abs(turned) > 0.3 ? "j" : "k");
}

/** The angle of the horn as it is drawn, in degrees. */
export const hornDeg = (page: Page): Promise<number> =>
  page.$eval("[data-horn]", (horn) => Number(/rotate\(([^)]+)\)/.exec(horn.getAttribute("transform") ?? "")?.[1]));

export const statusOf = (page: Page): Promise<string> =>
  page.$eval("main [role=status]", (one) => one.textContent ?? "").catch(() => "");
