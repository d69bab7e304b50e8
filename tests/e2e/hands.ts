import type { ElementHandle, Page } from "puppeteer-core";
import { pause } from "./waiting";

/** What a person does at the bench, for tests to read like it. */
export function handsOn(page: Page) {
  const hands = {
    async select(jointId: string) {
      await page.click(`[data-joint="${jointId}"]`);
    },
    /** Goes to a station by its place on the path, and waits until its page has taken the old one's place. */
    async goTo(station: string) {
      const isThere = await page.evaluate((id) => location.pathname.split("/")[1] === id, station);
      if (isThere) return;
      await page.$eval("main", (old) => old.setAttribute("data-old", ""));
      await page.click(`nav a[href="/${station}"]`);
      await page.waitForSelector("main:not([data-old]) h1");
    },
    /** A field or a button, by its label as a person reads it; `index` where several bear the same. */
    async find(label: string, index = 0): Promise<ElementHandle<HTMLElement>> {
      const found = await page.waitForFunction(
        (wanted, place) => {
          const squeeze = (text: string | null | undefined) => (text ?? "").replace(/\s+/g, " ").trim();
          const named = [
            ...document.querySelectorAll<HTMLElement>("input, select, textarea, button, [role=slider]"),
          ].filter(
            (element) =>
              squeeze(element.getAttribute("aria-label")) === wanted ||
              [...((element as HTMLInputElement).labels ?? [])].some((one) => squeeze(one.textContent) === wanted) ||
              (element.tagName === "BUTTON" && squeeze(element.textContent) === wanted),
          );
          return named.filter((element) => element.checkVisibility())[place];
        },
        {},
        label,
        index,
      );
      return found as ElementHandle<HTMLElement>;
    },
    /** Walks with Tab to what bears this name, as somebody without a mouse does. */
    async tabTo(name: string) {
      for (let steps = 0; steps < 150; steps += 1) {
        const isThere = await page.evaluate((wanted) => {
          const squeeze = (text: string | null | undefined) => (text ?? "").replace(/\s+/g, " ").trim();
          const active = document.activeElement as HTMLInputElement | null;
          return (
            squeeze(active?.getAttribute("aria-label")) === wanted ||
            squeeze(active?.textContent) === wanted ||
            [...(active?.labels ?? [])].some((label) => squeeze(label.textContent).startsWith(wanted))
          );
        }, name);
        if (isThere) return;
        await page.keyboard.press("Tab");
      }
      throw new Error(`Tab never came to “${name}”.`);
    },
    /** Is there a button that bears this name just now? */
    isThere: (name: string): Promise<boolean> =>
      page.evaluate(
        (wanted) =>
          [...document.querySelectorAll("button")].some(
            (one) => (one.getAttribute("aria-label") ?? one.textContent ?? "").replace(/\s+/g, " ").trim() === wanted,
          ),
        name,
      ),
    async press(name: string, index = 0) {
      await retried(async () => (await hands.find(name, index)).click());
    },
    /** Types into a field, and takes it with Enter. */
    async type(label: string, text: string, index = 0) {
      await retried(async () => (await hands.find(label, index)).click({ count: 3 }));
      const field = await hands.find(label, index);
      const isLong = await field.evaluate((element) => {
        // A click of three selects nothing where the field was drawn anew in the middle of it.
        if (element instanceof HTMLTextAreaElement || element instanceof HTMLInputElement) element.select();
        return element instanceof HTMLTextAreaElement;
      });
      await field.type(text);
      if (!isLong) await field.press("Enter");
    },
    /** Chooses one of a field's options by its words. */
    async choose(label: string, words: string) {
      const field = await hands.find(label);
      const value = await field.evaluate(
        (select, wanted) =>
          [...(select as unknown as HTMLSelectElement).options].find((option) => option.text === wanted)?.value,
        words,
      );
      if (value === undefined) throw new Error(`“${label}” has no “${words}”.`);
      await field.select(value);
    },
    async valueOf(label: string): Promise<string> {
      return (await hands.find(label)).evaluate((element) => (element as HTMLInputElement).value);
    },
    textOf: (selector: string): Promise<string> => page.$eval(selector, (element) => element.textContent ?? ""),
    /** How far a needle of the dial is turned, in degrees clockwise from the top. */
    needleDeg: (needle: "target" | "actual"): Promise<number> =>
      page.$eval(`[data-needle="${needle}"]`, (element) =>
        Number(/rotate\(([^)]+)deg\)/.exec((element as SVGElement).style.transform)?.[1]),
      ),
    /** What a person reads off the protractor under the horn: the servo's own angle, to half a degree. */
    async readHorn(travelDeg: number): Promise<number> {
      const turned = await page.$eval("[data-horn]", (element) =>
        Number(/rotate\(([^)]+)deg\)/.exec((element as SVGElement).style.transform)?.[1]),
      );
      return Math.round((turned + travelDeg / 2) * 2) / 2;
    },
    /** Waits until a pulse has left and the horn stands where it sent it: on a busy machine both may take their time. */
    async standsAt(pulse: number) {
      await page.waitForFunction(
        (wanted) => {
          const trace = document.querySelector("[aria-label='Trace of the selected joint'] dd .font-semibold");
          return Math.abs(Number(trace?.textContent) - wanted) < 6;
        },
        {},
        pulse,
      );
      await hands.standsStill();
    },
    /** Waits until the horn turns no more. */
    async standsStill() {
      let before = Number.NaN;
      for (let alike = 0; alike < 4; ) {
        await pause(180);
        const deg = await hands.readHorn(0);
        alike = Math.abs(deg - before) <= 0.5 ? alike + 1 : 0;
        before = deg;
      }
    },
    /** Measures the neck at 1100 and 1900 µs off the protractor, as its two points. */
    async measureTwoPoints() {
      for (const [index, pulse] of [
        [1, "1100"],
        [2, "1900"],
      ] as const) {
        await hands.type("Sent now (1056 to 1944 µs by the limits)", pulse);
        await hands.standsAt(Number(pulse));
        await hands.type(`Angle seen at point ${index}`, String(await hands.readHorn(180)));
      }
    },
    /** Waits until a condition on the page holds. */
    until: (condition: (argument: string) => boolean, argument = "") => page.waitForFunction(condition, {}, argument),
    /** The text beside a joint in the rack: who has it and its target. */
    rackText: (jointId: string): Promise<string> => hands.textOf(`[data-joint="${jointId}"]`),
    /** Waits until the rack says this of a joint: what is live is written a moment after it came. */
    async untilRack(jointId: string, words: string) {
      await page.waitForFunction(
        (id, wanted) => document.querySelector(`[data-joint="${id}"]`)?.textContent?.includes(wanted),
        {},
        jointId,
        words,
      );
    },
    async untilSaved() {
      await page.waitForFunction(() => document.querySelector("header")?.textContent?.includes("Saved"));
    },
  };
  return hands;
}

/** What is drawn anew while one reaches for it slips away once; a person reaches again. */
async function retried(reach: () => Promise<void>): Promise<void> {
  try {
    await reach();
  } catch (error) {
    if (!String(error).includes("detached")) throw error;
    await reach();
  }
}
