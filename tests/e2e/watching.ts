import type { Page } from "puppeteer-core";
import { insist } from "./waiting";

/**
 * Keeps an eye on the horn, as a person does: where it rests while the tool says that it stands ready, and where it is when the step is over.
 * When the page was too busy to show the horn at rest before a step, or stood still during one, the eye has not seen enough, and says so.
 */
export async function keepWatching(page: Page): Promise<void> {
  await page.evaluate(() => {
    let rested = Number.NaN;
    let last = Number.NaN;
    let stillFor = 0;
    let wasWatching = false;
    let lookedMs = performance.now();
    let missedMs = 0;
    setInterval(() => {
      const nowMs = performance.now();
      missedMs = Math.max(missedMs, nowMs - lookedMs);
      lookedMs = nowMs;
      const horn = document.querySelector<SVGElement>("[data-horn]")?.style.transform ?? "";
      const deg = Number(/rotate\(([^)]+)deg\)/.exec(horn)?.[1]);
      const status = document.querySelector("main [role=status]")?.textContent ?? "";
      const isWatching = status.includes("watch the horn");
      stillFor = Math.abs(deg - last) < 0.15 ? stillFor + 1 : 0;
      last = deg;
      if (status.includes("stands ready") && stillFor >= 5) rested = deg;
      if (isWatching && !wasWatching) missedMs = 0;
      if (isWatching) document.body.dataset.turned = String(missedMs < 120 ? deg - rested : Number.NaN);
      else if (wasWatching) {
        document.body.dataset.seen = document.body.dataset.turned;
        rested = Number.NaN;
      }
      wasWatching = isWatching;
    }, 8);
  });
}

/** One step as a person does it: watches it to its end, has it shown again when they missed it, and says what the horn did. */
export async function answerStep(page: Page): Promise<void> {
  if ((await statusOf(page)).toLowerCase().includes("mark")) return answerMark(page);
  for (let shows = 0; shows < 12; shows += 1) {
    // On a machine that stood still the board has let go, as it should: the person goes on where they were.
    if (await isInterrupted(page)) await goOn(page);
    const isSeen = await page
      .waitForFunction(() => document.body.dataset.seen !== undefined, { timeout: 4000 })
      .then(
        () => true,
        () => false,
      );
    const turned = await page.evaluate(() => {
      const seen = Number(document.body.dataset.seen);
      delete document.body.dataset.seen;
      return seen;
    });
    if (isSeen && Number.isFinite(turned)) {
      // A key that comes right at the end of a step is taken for one that bounced: whoever sees that nothing happened presses again.
      // What it says changes by itself as well, when a step is over: only the count of the step tells that it was answered.
      const step = async () => (await statusOf(page)).split(":")[0];
      const before = await step();
      await insist(
        () => page.keyboard.press(Math.abs(turned) > 0.3 ? "j" : "k"),
        async () => (await step()) !== before || (await isInterrupted(page)),
        300,
      );
      if ((await step()) !== before) return;
    }
    await page.keyboard.press("r");
  }
  throw new Error("The horn was never seen from beginning to end of a step.");
}

const isInterrupted = async (page: Page) => (await statusOf(page)).includes("interrupted");

/** Holds a servo again whose search was interrupted: the button says so. */
const goOn = (page: Page): Promise<void> =>
  insist(
    // The words may have changed in the meantime, and the button with them.
    () => page.click("main section .btn-primary").catch(() => {}),
    async () => !(await isInterrupted(page)),
    1000,
  );

/** Nothing slips here: the horn is marked, and is at its mark again. It is asked for longer than a key would be pressed once. */
async function answerMark(page: Page): Promise<void> {
  const before = await statusOf(page);
  await insist(
    () => page.keyboard.press("j"),
    async () => (await statusOf(page)) !== before,
    50,
  );
}

/** The angle of the horn as it is drawn, in degrees. */
export const hornDeg = (page: Page): Promise<number> =>
  page.$eval("[data-horn]", (horn) => Number(/rotate\(([^)]+)deg\)/.exec((horn as SVGElement).style.transform)?.[1]));

/**
 * Which way the horn creeps, +1 clockwise, −1 the other way, 0 for one that rests: watched until it has turned by 0.8°, or has stood for three
 * seconds of the bench's time, over at least 20 pictures of the page.
 */
export const creeps = (page: Page, timesFaster = 1): Promise<number> =>
  page.evaluate(
    (restMs) =>
      new Promise<number>((resolve) => {
        const read = () => document.querySelector<SVGElement>("[data-horn]")?.style.transform ?? "";
        const degOf = (horn: string) => Number(/rotate\(([^)]+)deg\)/.exec(horn)?.[1]);
        const from = degOf(read());
        let pictures = 0;
        const sinceMs = performance.now();
        const look = () => {
          pictures += 1;
          // The horn is drawn within one turn: past its lowest place it begins anew.
          const byDeg = ((((degOf(read()) - from + 180) % 360) + 360) % 360) - 180;
          const hasMoved = Math.abs(byDeg) > 0.8;
          const hasRested = pictures > 20 && performance.now() - sinceMs > restMs;
          if (hasMoved || hasRested) resolve(hasMoved ? Math.sign(byDeg) : 0);
          else requestAnimationFrame(look);
        };
        look();
      }),
    3000 / timesFaster,
  );

export const statusOf = (page: Page): Promise<string> =>
  page.$eval("main [role=status]", (one) => one.textContent ?? "").catch(() => "");
