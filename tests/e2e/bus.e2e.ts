import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Browser, ElementHandle, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { insist, paced } from "./waiting";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/bus`));
});
afterAll(() => browser?.close());

const says = (text: string, within = "main") =>
  page.waitForFunction(
    (wanted, place) => document.querySelector(place)?.textContent?.includes(wanted),
    {},
    text,
    within,
  );
/** Plugs a servo of the table in, or takes it out. */
async function plug(label: string, isIn: boolean): Promise<void> {
  await page.waitForFunction(
    (name) => document.querySelector("section[aria-label='Who is on the wire']")?.textContent?.includes(name),
    {},
    label,
  );
  const toggle = await page.evaluateHandle(
    (name) =>
      [...document.querySelectorAll("label")].find((one) => one.textContent?.includes(name))?.querySelector("input") ??
      null,
    label,
  );
  const input = toggle.asElement() as ElementHandle<HTMLInputElement> | null;
  if (!input) throw new Error(`There is no ${label} on the table.`);
  if ((await input.evaluate((one) => one.checked)) !== isIn) await input.click();
  await page.waitForFunction((one, wanted) => one.checked === wanted, {}, input, isIn);
}
/** Chooses a device on the map by its name. */
const chooseDevice = (name: string) =>
  page.evaluate((wanted) => {
    const plates = document.querySelectorAll<HTMLButtonElement>("section[aria-label='Who is on the wire'] ol button");
    [...plates].find((plate) => plate.textContent?.includes(wanted))?.click();
  }, name);
const wire = "section[aria-label='Who is on the wire']";

test("three new servos of one number are numbered one at a time; a clash on the way is recognised and walked out of", async () => {
  const hands = handsOn(page);
  await plug("New servo, red sticker", true);
  await plug("New servo, green sticker", true);
  await hands.press("Look for number 20");
  await says("Two or more answer as 20");
  expect(await (await hands.find("Make it number 4")).evaluate((one) => (one as HTMLButtonElement).disabled)).toBe(
    true,
  );

  await plug("New servo, green sticker", false);
  for (const [number, next] of [
    [4, "New servo, green sticker"],
    [5, "New servo, blue sticker"],
    [6, null],
  ] as const) {
    await hands.press("Look for number 20");
    await says("Just one answers as 20");
    await hands.press(`Make it number ${number}`);
    await says(`It is number ${number} now.`);
    if (next) await plug(next, true);
  }
  await hands.press("Scan");
  await says("6 found.");
  for (const number of [4, 5, 6]) expect(await hands.textOf(wire)).toContain(`${number}Kestrel ${number}`);
});

test("their numbers are theirs: after a reload they answer as before", async () => {
  const hands = handsOn(page);
  await page.reload();
  await page.waitForSelector("[role=listbox] [role=option]");
  await hands.press("Scan");
  await says("6 found.");
  expect(await hands.textOf(wire)).toContain("6Kestrel 6");
});

test("a register that needs the torque off is written only after one has agreed to it", async () => {
  const hands = handsOn(page);
  await chooseDevice("Kestrel 4");
  await hands.press("Watch and move");
  await hands.press("Torque on");
  await says("Grip is written.");
  await hands.press("Registers");
  await says("Kestrel 4, number 4");
  await page.waitForFunction(() => document.querySelector("main table")?.textContent?.includes("7302"));
  await hands.type("New highest place", "-40");
  await says("must let go for a moment", "body");
  await hands.press("Off, write, on again");
  await says("Highest place is written.");
  await hands.type("New highest place", "900");
  await says("goes from −160.00° (-10000) to 160.00° (10000)");
});

test("a packet is explained byte by byte, sent, answered; and when nobody answers it is said why", async () => {
  const hands = handsOn(page);
  await hands.press("Packets");
  await page.waitForSelector("section[aria-label=Packet]");
  await hands.choose("Operation", "47 get");
  await hands.type("To id", "4");
  await page.focus("section[aria-label=Packet] label:nth-of-type(2) input").catch(() => {});
  await typeInto("Parameters", "02 16");
  await says("A request to device 4: get.");
  await hands.press("Send");
  await says("A reply after");
  expect(await hands.textOf("section[aria-label='What came back']")).toContain("Place");
  await hands.type("To id", "99");
  await hands.press("Send");
  await says("Nobody is known to be number 99");
  await typeInto("The bytes, as they go out", "B4 47 04 02 02 16 00");
  await says("a device would say nothing at all");
  await hands.press("Send");
  await says("is ignored without a word");
  // What moves a joint goes through the gate and nowhere else.
  await typeInto("The bytes, as they go out", "B4 50 03 03 32 24 9F 01");
  await hands.press("Send");
  await says("only the gate may send it");
});

/** Replaces what stands in a field whose label begins so. */
async function typeInto(label: string, text: string): Promise<void> {
  const handle = await page.evaluateHandle(
    (begins) =>
      [...document.querySelectorAll("label")]
        .find((one) => one.textContent?.startsWith(begins))
        ?.querySelector<HTMLElement>("input, textarea") ?? null,
    label,
  );
  const field = handle.asElement() as ElementHandle<HTMLElement> | null;
  if (!field) throw new Error(`There is no “${label}”.`);
  await field.focus();
  await page.keyboard.down("Control");
  await page.keyboard.press("a");
  await page.keyboard.up("Control");
  await page.keyboard.type(text);
  await page.keyboard.press("Tab");
}

test("a third family is entered from a page of its manual, and proved with its example", async () => {
  const hands = handsOn(page);
  await hands.press("Family");
  await hands.press("New family from this one");
  await says("Everything you change holds at once");
  await typeInto("Name", "Godwit");
  await typeInto("Header", "C3");
  await typeInto("Fields of a request, in order", "header, id, length, operation, parameters, check");
  await typeInto("Fields of a reply, in order", "header, id, length, error, parameters, check");
  // The page says: C3, id, length, operation, what it carries, and all bytes from the id on xored. Its example reads two bytes at 0x20 of number 9.
  await typeInto("One packet a line", "C3 09 04 11 20 02 3E");
  await says("It would be right with");
  await page.evaluate(() => {
    const remedies = [...document.querySelectorAll("section[aria-label='Prove it'] li")];
    remedies
      .find((one) => one.textContent?.includes("xor of all bytes, over id, length, operation, parameters"))
      ?.querySelector("button")
      ?.click();
  });
  await says("Proved by this example");
  const file = join(mkdtempSync(join(tmpdir(), "vantel-layout-")), "broken.json");
  writeFileSync(file, '{"format": "vantel-layout", "version": 1, "layout": {"name": "x"}}');
  const input = (await page.$("main input[type=file]")) as ElementHandle<HTMLInputElement> | null;
  await input?.uploadFile(file);
  await says("The family is damaged at");
  await hands.press("Undo: Change family");
});

test("the mixed arm is driven, a plug is pulled and put back, and nothing jumps", async () => {
  const hands = handsOn(page);
  await hands.select("elbow");
  await hands.press("Watch and move");
  await page.waitForFunction(
    () =>
      document.querySelector("main dl")?.textContent?.includes("12.0") ||
      document.querySelector("main dl")?.textContent?.includes("11."),
  );
  const bench = page.url();
  expect(bench).toContain("/bus");
  await hands.goTo("poses");
  await page.evaluate(() =>
    [...document.querySelectorAll<HTMLButtonElement>("main button")]
      .find((one) => one.textContent?.includes("Reach tray"))
      ?.click(),
  );
  await hands.press("Go to");
  await page.waitForFunction(() =>
    /10[0-9]\.\d°|9\d\.\d°|8\d\.\d°|[1-6]\d\.\d°/.test(document.querySelector("[data-joint=elbow]")?.textContent ?? ""),
  );
  await hands.goTo("bus");
  await plug("Elbow", false);
  await says("Elbow (id 3) does not answer", "body");
  await says("does not answer", wire);
  await plug("Elbow", true);
  await says("Elbow (id 3) answers again", "body");
  await says("Kestrel, held", wire);
});

test("the arm is moved by hand, recorded as it reads, and played", async () => {
  const hands = handsOn(page);
  await hands.goTo("routine");
  await hands.press("New routine");
  await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>("[role=tab]")]
      .find((one) => one.textContent?.startsWith("Takes"))
      ?.click(),
  );
  await hands.press("as a hand turns them: released, and read");
  await hands.type("after", "0");
  await hands.press("Record 1 joint");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("recording") ?? false);
  await hands.goTo("bus");
  await hands.press("Watch and move");
  await paced(4, 350, () => hands.press("by hand −10°"));
  await hands.goTo("routine");
  await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>("[role=tab]")]
      .find((one) => one.textContent?.startsWith("Takes"))
      ?.click(),
  );
  await hands.press("End recording");
  await page.waitForSelector("[data-take]");
  await hands.select("elbow");
  const isHeld = () => page.evaluate(() => document.querySelector("[data-joint=elbow]")?.textContent?.includes("held"));
  await insist(() => page.keyboard.press("h"), isHeld, 1500);
  await hands.press("Play");
  await page.waitForFunction(() => document.querySelector("header")?.textContent?.includes("Playing"));
  await page.waitForFunction(() => document.querySelector("header")?.textContent?.includes("In your hands"));
  expect(complaints).toEqual([]);
});
