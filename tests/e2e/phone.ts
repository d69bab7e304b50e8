import type { Browser, ElementHandle, Page, TouchHandle } from "puppeteer-core";

/** A phone with a browser of its own: what it does as a person with one thumb does it. */
export interface Phone {
  readonly page: Page;
  /** Types a code where one is given, and a name, and asks to be let in. */
  pair(code: string, name: string): Promise<void>;
  /** Waits until it shows its pad. */
  untilThere(): Promise<void>;
  /** Puts the thumb on a control, at shares of its width and height. */
  touch(controlId: string, x: number, y: number): Promise<void>;
  move(controlId: string, x: number, y: number): Promise<void>;
  lift(): Promise<void>;
  /** Touches a control and leaves it. */
  tap(controlId: string): Promise<void>;
  /** Touches what bears these words. */
  tapWords(words: string): Promise<void>;
  choosePad(label: string): Promise<void>;
  /** Its network is gone; and is back. */
  cut(): Promise<void>;
  mend(): Promise<void>;
}

export async function phoneOf(browser: Browser, address: string): Promise<Phone> {
  const context = await browser.createBrowserContext();
  const page = await context.newPage();
  await page.setViewport({ width: 390, height: 844, hasTouch: true, isMobile: true });
  await page.goto(address);
  await page.waitForSelector("form, main");
  let thumb: TouchHandle | null = null;
  const spotOf = async (controlId: string, x: number, y: number) => {
    const field = await page.waitForSelector(`[data-control="${controlId}"] :is([role=slider], button)`);
    const box = await field?.boundingBox();
    if (!box) throw new Error(`There is no control ${controlId}.`);
    return [box.x + x * box.width, box.y + y * box.height] as const;
  };
  return {
    page,
    async pair(code, name) {
      await page.waitForSelector("form");
      if (code) {
        await page.$eval("form input", (input) => input.select());
        await page.type("form input", code);
      }
      if (name) await page.type("input[placeholder=Phone]", name);
      await page.click("form button");
    },
    untilThere: async () => {
      await page.waitForSelector("main:not([inert]) [data-control]");
    },
    async touch(controlId, x, y) {
      const [px, py] = await spotOf(controlId, x, y);
      thumb = await page.touchscreen.touchStart(px, py);
    },
    async move(controlId, x, y) {
      const [px, py] = await spotOf(controlId, x, y);
      await thumb?.move(px, py);
    },
    async lift() {
      await thumb?.end();
      thumb = null;
    },
    async tap(controlId) {
      const [px, py] = await spotOf(controlId, 0.5, 0.5);
      await page.touchscreen.tap(px, py);
    },
    async tapWords(words) {
      const found = await page.waitForFunction(
        (wanted) => [...document.querySelectorAll("button")].find((one) => one.textContent?.includes(wanted)),
        {},
        words,
      );
      const box = await (found as ElementHandle).boundingBox();
      if (!box) throw new Error(`“${words}” is not seen.`);
      await page.touchscreen.tap(box.x + box.width / 2, box.y + box.height / 2);
    },
    async choosePad(label) {
      await page.waitForFunction(
        (wanted) => [...document.querySelectorAll("header option")].some((one) => one.textContent === wanted),
        {},
        label,
      );
      const value = await page.$$eval(
        "header option",
        (options, wanted) => options.find((one) => one.textContent === wanted)?.getAttribute("value") ?? "",
        label,
      );
      await page.select("header select", value);
    },
    cut: () => page.setOfflineMode(true),
    mend: () => page.setOfflineMode(false),
  };
}
