import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Browser, ElementHandle, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { fileSaved } from "./waiting";

let browser: Browser;
let page: Page;
const folder = mkdtempSync(join(tmpdir(), "vantel-files-"));
beforeAll(async () => {
  browser = await openBrowser();
  ({ page } = await openPage(browser, `${inject("baseUrl")}/drive`));
  const devtools = await page.createCDPSession();
  await devtools.send("Browser.setDownloadBehavior", { behavior: "allow", downloadPath: folder });
});
afterAll(() => browser?.close());

const importFile = async (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  const input = (await page.waitForSelector("input[type=file]")) as ElementHandle<HTMLInputElement>;
  await input.uploadFile(path);
};

test("every edit can be undone and done again, and is saved within a second", async () => {
  const hands = handsOn(page);
  await hands.select("neck-nod");
  await hands.type("Upper limit", "20");
  await hands.press("Reverse direction");
  await hands.press("Undo: Reverse direction");
  await hands.press("Undo: Set travel limits");
  expect(await hands.valueOf("Upper limit")).toBe("35.0");
  await page.keyboard.press("Tab");
  await hands.press("Redo: Set travel limits");
  expect(await hands.valueOf("Upper limit")).toBe("20.0");
  await hands.untilSaved();
  await page.reload();
  await page.waitForSelector("[role=listbox] [role=option]");
  expect(await hands.valueOf("Upper limit")).toBe("20.0");
});

test("a joint is renamed where it stands, and the rack follows; an empty name is refused", async () => {
  const hands = handsOn(page);
  await hands.type("Name of the joint", "Nodding");
  await hands.until(() => document.querySelector("[data-joint=neck-nod]")?.textContent?.includes("Nodding") ?? false);
  await hands.press("Undo: Rename joint");
  await hands.until(() => document.querySelector("[data-joint=neck-nod]")?.textContent?.includes("Neck nod") ?? false);
  await hands.type("Name of the joint", "   ");
  await hands.until(() => document.body.textContent?.includes("A name needs at least one character") ?? false);
  await hands.untilRack("neck-nod", "Neck nod");
});

test("a limit that makes no sense is refused in its field and changes nothing", async () => {
  const hands = handsOn(page);
  await hands.type("Upper limit", "-90");
  await hands.until(() => document.querySelector("main [role=alert]")?.textContent?.includes("must be below") ?? false);
  await hands.type("Home", "ninety");
  await hands.until(() => document.body.textContent?.includes("is not a number") ?? false);
  await page.reload();
  await page.waitForSelector("[role=listbox] [role=option]");
  expect(await hands.valueOf("Upper limit")).toBe("20.0");
});

test("export, damage, foreign, too new, import: only the whole file changes anything", async () => {
  const hands = handsOn(page);
  await hands.press("Night greenhouse");
  await hands.press("Export as a file");
  const text = await fileSaved(join(folder, "night-greenhouse.vantel.json"));

  for (const [name, content, says] of [
    ["cut.json", text.slice(0, 5000), "breaks off at line"],
    ["foreign.json", '{"hello": 1}', "not a Vantel project"],
    ["new.json", text.replace(/"version": \d+/, '"version": 99'), "version 99"],
    ["wrong.json", text.replace('"channel": 4', '"channel": "four"'), "joints → 4 → channel"],
  ] as const) {
    await importFile(name, content);
    await hands.until(
      (wanted) => document.querySelector("header [role=alert]")?.textContent?.includes(wanted) ?? false,
      says,
    );
    expect(await hands.textOf("header [role=alert]")).toContain("Nothing was changed");
  }
  expect(await hands.valueOf("Upper limit")).toBe("20.0");

  await importFile(
    "other.json",
    text.replace("Night greenhouse", "Winter greenhouse").replaceAll("Neck nod", "Head nod"),
  );
  await hands.until(() => document.querySelector("[data-joint=neck-nod]")?.textContent?.includes("Head nod") ?? false);
  await hands.press("Winter greenhouse");
  await hands.until(() => document.querySelector("header")?.textContent?.includes("Night greenhouse") ?? false);
});

test("a second tab does not take the bench until it is asked to", async () => {
  const other = await browser.newPage();
  await other.goto(`${inject("baseUrl")}/drive`);
  await other.waitForFunction(() => document.body.textContent?.includes("open in another tab"));
  await handsOn(other).press("Bring it here");
  await other.waitForSelector("[role=listbox] [role=option]");
  await page.bringToFront();
  await page.waitForFunction(() => document.body.textContent?.includes("open in another tab"));
  // The other tab is closed: the bench comes back by itself.
  await other.close();
  await page.waitForSelector("[role=listbox] [role=option]");
});

test("cleared by the browser while it is open, what lies on the bench is kept anew, and is there after a reload", async () => {
  const hands = handsOn(page);
  const session = await page.createCDPSession();
  const { origin } = new URL(page.url());
  await session.send("Storage.clearDataForOrigin", { origin, storageTypes: "indexeddb" });
  await hands.until(() => document.body.textContent?.includes("has cleared what it kept for Vantel") ?? false);
  await hands.untilSaved();
  await hands.goTo("routine");
  // Their names without the marks of the check, which comes when it comes.
  const shown = () =>
    page.$$eval("[data-step]", (steps) => steps.map((step) => step.textContent.replace("▲ ", "")).join(" | "));
  await page.waitForSelector("[data-step]");
  const before = await shown();
  await page.reload();
  await page.waitForSelector("[data-step]");
  expect(await shown()).toBe(before);
});

test("cleared while another tab has the bench, that one keeps its own: this one does not write what it had before", async () => {
  const other = await browser.newPage();
  await other.goto(`${inject("baseUrl")}/drive`);
  const there = handsOn(other);
  await there.press("Bring it here");
  await other.waitForSelector("[role=listbox] [role=option]");
  await there.select("beak");
  await there.type("Name of the joint", "Other beak");
  await there.untilRack("beak", "Other beak");
  await there.untilSaved();
  const session = await other.createCDPSession();
  await session.send("Storage.clearDataForOrigin", {
    origin: new URL(other.url()).origin,
    storageTypes: "indexeddb",
  });
  await there.until(() => document.body.textContent?.includes("has cleared what it kept for Vantel") ?? false);
  await there.untilSaved();
  // Here nobody says so, and the bench comes back as the other tab left it.
  expect(await page.evaluate(() => document.body.textContent?.includes("has cleared what it kept"))).toBe(false);
  await other.close();
  await page.bringToFront();
  await handsOn(page).untilRack("beak", "Other beak");
});
