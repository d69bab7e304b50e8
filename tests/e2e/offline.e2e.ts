import type { ChildProcess } from "node:child_process";
import { appendFileSync, cpSync, mkdtempSync, rmSync, symlinkSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { startServer } from "./served";
import { until } from "./waiting";

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

test("once it was open, the bench opens and drives with its server ended, at any station", async () => {
  // A server of its own: it is ended.
  const { url, server } = await startServer();
  const { page } = await openPage(browser, url, { isKept: true });
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  const kept = await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
    const [name] = (await caches.keys()).filter((one) => one.includes("precache"));
    return name ? (await (await caches.open(name)).keys()).length : 0;
  });
  expect(kept).toBeGreaterThan(50);
  await ended(server);
  expect(await fetch(url).catch(() => "gone")).toBe("gone");

  await page.goto(`${url}/drive`, { waitUntil: "load" });
  await page.waitForSelector("[role=listbox] [role=option]");
  const hands = handsOn(page);
  await hands.untilRack("neck-turn", "held");
  await page.focus("[role=slider][aria-label='Dial of Neck turn']");
  await page.keyboard.press("ArrowRight");
  await hands.untilRack("neck-turn", "1.0°");
  for (const station of ["routine", "bus"]) await hands.goTo(station);
  await page.close();
});

test("a newer Vantel is told of, waits until it is asked for twice, and then the bench is there with all that was done", async () => {
  const { url, server } = await startServer();
  const { page } = await openPage(browser, `${url}/drive`, { isKept: true });
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  const hands = handsOn(page);
  await hands.type("Name of the joint", "Head turn");
  await hands.untilSaved();
  // The same port, with another build behind it.
  const root = mkdtempSync(join(tmpdir(), "vantel-newer-"));
  cpSync("dist", join(root, "dist"), { recursive: true });
  symlinkSync(resolve("node_modules"), join(root, "node_modules"));
  appendFileSync(join(root, "dist/client/sw.js"), "\n// Another build.");
  for (const packed of ["br", "gz"]) rmSync(join(root, `dist/client/sw.js.${packed}`), { force: true });
  await ended(server);
  const { server: newer } = await startServer(Number(new URL(url).port), root);
  await page.reload();
  await hands.press("A newer Vantel");
  await page.evaluate(() => Object.assign(window, { isThisPage: true }));
  await hands.press("Let all go and load it?");
  await until(() => page.evaluate(() => !("isThisPage" in window)).catch(() => false), Boolean);
  await hands.untilRack("neck-turn", "Head turn");
  expect(await hands.isThere("A newer Vantel")).toBe(false);
  await page.close();
  newer.kill();
});

const ended = (server: ChildProcess) =>
  new Promise((resolve) => {
    server.once("exit", resolve);
    server.kill();
  });
const pathOf = (page: Page) => page.evaluate(() => location.pathname);
const noticeOf = (page: Page, words: string) =>
  page.waitForFunction((wanted) => document.body.textContent?.includes(wanted), {}, words);
const pressStation = (page: Page, station: string) => page.click(`nav a[href="/${station}"]`);

test("where nothing is kept and the server is gone, the bench stays, with Release all; what was not fetched is fetched once it is back", async () => {
  const { url, server } = await startServer();
  const { page } = await openPage(browser, `${url}/drive`);
  const hands = handsOn(page);
  await hands.untilRack("neck-turn", "held");
  await ended(server);
  await page.click("header ::-p-aria(Find a command)");
  await hands.find("A fault here: show it again");
  await pressStation(page, "routine");
  await noticeOf(page, "This station cannot be fetched");
  expect(await pathOf(page)).toBe("/drive");
  await page.keyboard.press("Escape");
  await hands.untilRack("neck-turn", "limp");
  await hands.press("Hold all (12 limp)");
  await hands.untilRack("neck-turn", "held");
  await page.click("header ::-p-text(Release all)");
  await hands.untilRack("neck-turn", "limp");

  // What stands before the bench closes on Esc as well.
  await hands.press("3 simulated boards, live");
  await page.waitForSelector(":popover-open");
  await page.keyboard.press("Escape");
  await page.waitForFunction(() => document.querySelector(":popover-open") === null);

  const { server: again } = await startServer(Number(new URL(url).port));
  await hands.press("A fault here: show it again");
  await page.waitForSelector("dialog[open] input");
  await page.keyboard.press("Escape");
  await hands.goTo("routine");
  await page.close();
  again.kill();
});

test("a station whose code is missing says so; a server with another Vantel brings no second bench into the page: it is loaded whole, once that is meant", async () => {
  const { url, server } = await startServer();
  const { page } = await openPage(browser, `${url}/drive`);
  let isMissing = true;
  await page.setRequestInterception(true);
  page.on("request", async (request) => {
    if (isMissing && request.url().includes("RoutineStation")) return request.abort();
    if (request.resourceType() !== "fetch" || !request.url().endsWith("/poses")) return request.continue();
    const body = (await (await fetch(request.url())).text()).replace(/frame\.[\w-]+\.js/g, "frame.Another.js");
    return request.respond({ contentType: "text/html", body });
  });
  await page.evaluate(() => Object.assign(window, { isThisPage: true }));
  await pressStation(page, "routine");
  await page.waitForSelector("main [role=alert]");
  isMissing = false;
  await page.click("main ::-p-text(Fetch it again)");
  await page.waitForSelector("main h1");
  await pressStation(page, "poses");
  await noticeOf(page, "The server has another Vantel by now");
  expect(await pathOf(page)).toBe("/routine");
  await pressStation(page, "poses");
  // The page that is asked may just be on its way out.
  const isOther = () => page.evaluate(() => !("isThisPage" in window) && document.querySelector("main h1") !== null);
  await until(() => isOther().catch(() => false), Boolean);
  expect(await pathOf(page)).toBe("/poses");
  await page.close();
  server.kill();
});
