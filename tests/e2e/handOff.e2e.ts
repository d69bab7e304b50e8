import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { demoProject } from "@core/demo";
import { handOff } from "@core/handOff";
import type { Browser, ElementHandle, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { readPdf } from "./pdf";
import { fileSaved } from "./waiting";

let browser: Browser;
let page: Page;
const folder = mkdtempSync(join(tmpdir(), "vantel-code-"));
beforeAll(async () => {
  browser = await openBrowser();
  ({ page } = await openPage(browser, `${inject("baseUrl")}/hand-off`));
  const devtools = await page.createCDPSession();
  await devtools.send("Browser.setDownloadBehavior", { behavior: "allow", downloadPath: folder });
});
afterAll(() => browser?.close());

const says = (words: string) =>
  page.waitForFunction((wanted) => document.querySelector("main")?.textContent?.includes(wanted), {}, words);

test("the code on the page is the code of the core; it is saved as it is shown", async () => {
  const hands = handsOn(page);
  await says("12 joints");
  await hands.press("Save");
  const made = handOff(demoProject(), new Map());
  if (!made.ok) throw new Error(made.problem);
  const file = join(folder, "night_greenhouse.c");
  const text = made.value.files.find(({ name }) => name === "night_greenhouse.c")?.text;
  expect(await fileSaved(file)).toBe(text);
});

test("a part of the file is a click away, and what is pointed at is explained", async () => {
  const hands = handsOn(page);
  await hands.press("The routines");
  await says("Steps, one after the other: which pose, in how many ms");
  await says("owl_wakes_steps[]");
});

test("lines of one's own stand in the code at once; one that names no place is refused in words", async () => {
  const hands = handsOn(page);
  await hands.type("Sets a pin", "pwm_put({board}, {chanel}, {pulse_us});");
  await says("names {chanel}");
  await hands.type("Sets a pin", "pwm_put({board}, {channel}, {pulse_us});");
  await hands.press("Your own lines");
  await says("pwm_put(joint->board, joint->channel, (joint->offset + joint->gain * count));");
  await hands.press("Undo: Write own lines");
});

test("numbers that were changed in the code come back as one edit, after a look", async () => {
  const hands = handsOn(page);
  const changed = readFileSync(join(folder, "night_greenhouse.c"), "utf8").replace(
    ".low = -80, .high = 80, .home = 0,",
    ".low = -80, .high = 75, .home = 12.5,",
  );
  const path = join(folder, "changed.c");
  writeFileSync(path, changed);
  await hands.press("Take numbers back");
  const input = (await page.waitForSelector("dialog input[type=file]")) as ElementHandle<HTMLInputElement>;
  await input.uploadFile(path);
  await hands.until(() => document.querySelector("dialog")?.textContent?.includes("2 numbers differ.") ?? false);
  await hands.press("Take 2 over");
  await hands.press("The joints");
  await says(".low = -80, .high = 75, .home = 12.5,");
  await hands.press("Undo: Take numbers back from code");
  await hands.press("Redo: Take numbers back from code");
  await hands.goTo("drive");
  await hands.select("neck-turn");
  expect(await hands.valueOf("Home")).toBe("12.5");
  expect(await hands.valueOf("Upper limit")).toBe("75.0");
});

test("a routine as a table: sampled, in each way of writing, and saved", async () => {
  const hands = handsOn(page);
  await hands.goTo("hand-off");
  await hands.press("Tables");
  await hands.choose("Table of", "Routine: Owl wakes");
  await says("time_ms,Neck turn_deg,Neck turn_count");
  await hands.choose("Written as", "Markdown");
  await says("| time_ms | Neck turn_deg |");
  await hands.choose("Rows a second", "10");
  await hands.until(
    () => document.querySelector("[aria-label='Owl_wakes.md']")?.textContent?.includes("| 100 |") ?? false,
  );
  await hands.until(
    () => ![...document.querySelectorAll("button")].some((one) => one.textContent === "Save" && one.disabled),
  );
  await hands.press("Save");
  const file = join(folder, "Owl_wakes.md");
  // A head, a line under it, and a row every 100 ms of 8.04 s.
  expect((await fileSaved(file)).trimEnd().split("\n")).toHaveLength(2 + 81);
});

test.each([
  ["A4", 595, 842],
  ["Letter", 612, 792],
])(
  "the bench on %s paper: nothing runs over a page, and what says so is true to scale in the PDF",
  async (paper, width, height) => {
    const hands = handsOn(page);
    await page.evaluate(() => {
      window.print = () => {};
    });
    await hands.press("Sheets");
    await hands.choose("Paper", paper);
    // Once this paper is laid out.
    await page.waitForSelector(`main article.paper[style*="${paper === "A4" ? "297mm" : "279.4mm"}"]`);
    await page.locator("main button:not([disabled]) ::-p-text(Print )").click();
    await page.waitForSelector(".print-only .paper");
    const over = await page.$$eval(".print-only .paper", (papers) =>
      papers.flatMap((one) => {
        const body = one.firstElementChild?.firstElementChild;
        return body && body.scrollHeight > body.clientHeight + 1 ? [one.getAttribute("aria-label")] : [];
      }),
    );
    expect(over).toEqual([]);
    const pages = await page.$$eval(".print-only .paper", (papers) => papers.length);
    const { boxes, rules } = readPdf(await page.pdf({ preferCSSPageSize: true }));
    expect(boxes).toHaveLength(pages);
    for (const box of boxes) {
      expect(Math.abs((box[0] ?? 0) - width)).toBeLessThan(1);
      expect(Math.abs((box[1] ?? 0) - height)).toBeLessThan(1);
    }
    // A protractor, and three pages of horns. 100 mm are 283.46 points.
    expect(rules).toHaveLength(4);
    for (const rule of rules) expect(Math.abs(rule - 283.46)).toBeLessThan(0.1);
  },
);

test("a link from a friend: looked at, taken in as one edit; a hostile one changes nothing", async () => {
  const hands = handsOn(page);
  await hands.press("Links");
  await hands.choose("What to give", "Owl wakes");
  const field = await hands.find("The link");
  const link = await field.evaluate((area) => (area as HTMLTextAreaElement).value);
  expect(link).toContain("/#gift=");
  // A friend opens it, at any station.
  await page.goto(link.replace("/#", "/poses#"));
  await says("Look left");
  await hands.until(() => document.querySelector("dialog")?.textContent?.includes("It holds a routine") ?? false);
  await hands.press("Take it in");
  await hands.until(() => location.hash === "");
  await hands.find("Undo: Take in a routine");
  await hands.goTo("routine");
  await page.waitForFunction(
    () =>
      [...document.querySelectorAll("select option, main li, main button")].filter((one) =>
        one.textContent?.includes("Owl wakes"),
      ).length > 1,
  );
  await hands.press("Undo: Take in a routine");
  await page.goto(`${link.slice(0, 200)}`);
  await hands.until(() => document.querySelector("dialog")?.textContent?.includes("Nothing was changed.") ?? false);
  await hands.press("Leave it");
  await hands.until(() => location.hash === "");
});
