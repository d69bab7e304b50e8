import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { wireNames } from "@core/wire";
import type { AxeResults } from "axe-core";
import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { startServer } from "./served";
import { insist } from "./waiting";

const axeSource = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");
const pages = [
  "/",
  "/signal",
  "/drive",
  "/calibrate",
  "/inputs",
  "/figure?lines",
  "/poses",
  "/routine",
  "/bus",
  "/power",
  "/remote",
  "/hand-off",
  "/cards",
];

let browser: Browser;
let page: Page;
beforeAll(async () => {
  browser = await openBrowser();
  ({ page } = await openPage(browser, `${inject("baseUrl")}/`));
});
afterAll(() => browser?.close());

/** Brings axe to a page that was loaded anew. Nothing fades there from now on: colours are judged as they stand. */
async function bringAxe(on = page): Promise<void> {
  await on.evaluate(axeSource);
  await on.evaluate(() => {
    const sheet = new CSSStyleSheet();
    sheet.replaceSync("*, *::before, *::after, *::backdrop { transition: none !important }");
    document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
  });
}

/** Serious faults of a whole page in both themes: everything by day, and by night what a theme can change, colours. */
async function faultsOf(on = page, within: readonly string[] = ["html"]): Promise<string[]> {
  return [...(await faultsBy("daybench", on, within)), ...(await faultsBy("nightbench", on, within))];
}

/** Those of what changes while a page stands: the station, and what is laid over it. What is around it was looked at with the page. */
const faultsHere = () => faultsOf(page, ["main", "dialog[open]", ":popover-open"]);

async function faultsBy(theme: "daybench" | "nightbench", on: Page, within: readonly string[]): Promise<string[]> {
  await on.evaluate(async (name) => {
    document.documentElement.dataset.theme = name;
    await new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)));
  }, theme);
  // What passes is neither gathered nor sent over: that took half of the time.
  const asked = { resultTypes: ["violations"], ...(theme === "nightbench" && { runOnly: ["color-contrast"] }) };
  const violations = (await on.evaluate(
    `axe.run(${JSON.stringify({ include: within })}, ${JSON.stringify(asked)}).then(({ violations }) => violations)`,
  )) as AxeResults["violations"];
  return violations
    .filter(({ impact }) => impact === "serious" || impact === "critical")
    .map(({ id, nodes }) => `${theme}, ${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(" | ")}`);
}

/** To another page, as by a link: the bench stays open. */
async function walkTo(path: string): Promise<void> {
  await page.$eval("main", (old) => old.setAttribute("data-old", ""));
  await page.evaluate((to) => {
    const link = document.createElement("a");
    link.href = to;
    document.body.append(link);
    link.click();
  }, path);
  await page.waitForSelector("main:not([data-old]) h1");
}

test.each(pages)("axe finds nothing serious on %s", async (path) => {
  if (path === pages[0]) await bringAxe();
  else await walkTo(path);
  await page.waitForSelector("main h1");
  expect(await faultsOf()).toEqual([]);
});

const signalTools = ["Working", "Board", "Timer planner", "Side by side", "Sweep", "Wobble", "Waveform", "What unit?"];

test("axe finds nothing serious on the tools of Signal", async () => {
  const hands = handsOn(page);
  await page.goto(`${inject("baseUrl")}/signal`);
  await page.waitForSelector("main [role=tab]");
  await bringAxe();
  for (const tool of signalTools) {
    await hands.press(tool);
    await page.waitForFunction(() => !document.querySelector("main")?.textContent?.includes("Fetching"));
    expect([tool, ...(await faultsHere())]).toEqual([tool]);
  }
});

const busTools = ["Find and number", "Registers", "Watch and move", "Packets", "Family", "Time on the wire", "Faults"];

test("axe finds nothing serious on the tools of Bus", async () => {
  const hands = handsOn(page);
  await page.goto(`${inject("baseUrl")}/bus`);
  await page.waitForSelector("main [role=tab]");
  await bringAxe();
  for (const tool of busTools) {
    await hands.press(tool);
    await page.waitForFunction(() => !document.querySelector("main")?.textContent?.includes("Fetching"));
    expect([tool, ...(await faultsHere())]).toEqual([tool]);
  }
});

test("axe finds nothing serious while end stops are searched and points are measured", async () => {
  const hands = handsOn(page);
  await page.goto(`${inject("baseUrl")}/calibrate`);
  await page.waitForSelector("main h1");
  await bringAxe();
  await hands.select("grip");
  await hands.press("End stops");
  await hands.press("Find the end stops B");
  await page.waitForSelector("main [role=status]");
  expect(await faultsHere()).toEqual([]);
  await hands.press("Give up");
  for (const part of ["Angles", "Check", "Limits", "By itself"]) {
    await hands.press(part);
    expect([part, ...(await faultsHere())]).toEqual([part]);
  }
  await hands.select("vent-crank");
  for (const part of ["Neutral", "Speed"]) {
    await hands.press(part);
    expect([part, ...(await faultsHere())]).toEqual([part]);
  }
});

test("axe finds nothing serious on the links and on the choice of a wire, of any kind", async () => {
  const hands = handsOn(page);
  await page.goto(`${inject("baseUrl")}/drive`);
  await page.waitForSelector("main h1");
  await bringAxe();
  await hands.press("3 simulated boards, live");
  await hands.press("Choose its wire", 2);
  for (const kind of Object.values(wireNames)) {
    await hands.choose("The wire to Ivy", kind);
    expect([kind, ...(await faultsHere())]).toEqual([kind]);
  }
  await page.keyboard.press("Escape");
});

test("axe finds nothing serious on what may be wrong with a servo", async () => {
  const hands = handsOn(page);
  await page.keyboard.press("q");
  await page.waitForSelector("dialog[open]");
  expect(await faultsHere()).toEqual([]);
  await hands.press("It does not move at all");
  expect(await faultsHere()).toEqual([]);
  await page.keyboard.press("Escape");
});

test("axe finds nothing serious on code, and on numbers that are taken back from it", async () => {
  const hands = handsOn(page);
  await page.goto(`${inject("baseUrl")}/hand-off`);
  await page.waitForSelector("nav[aria-label='Parts of the file']");
  await bringAxe();
  for (const language of ["Python 3", "C99"]) {
    await hands.press(language);
    await page.waitForSelector("[aria-busy=false] code");
    expect([language, ...(await faultsHere())]).toEqual([language]);
  }
  await hands.press("Take numbers back");
  await hands.type("The code as it is now", "[JOINT_NECK_TURN] = {\n.home = 4,\n}");
  await hands.until(() => document.querySelector("dialog")?.textContent?.includes("1 number differs.") ?? false);
  expect(await faultsHere()).toEqual([]);
  await page.keyboard.press("Escape");
});

test("axe finds nothing serious on sheets, on links, and on what came with one", async () => {
  const hands = handsOn(page);
  for (const [tab, shown] of [
    ["Sheets", "article.paper"],
    ["Links", "section[aria-label='Make a link'] textarea"],
  ] as const) {
    await hands.press(tab);
    await page.waitForSelector(shown);
    expect([tab, ...(await faultsHere())]).toEqual([tab]);
  }
  const link = await (await hands.find("The link")).evaluate((field) => (field as HTMLTextAreaElement).value);
  await hands.type("The link", link, 1);
  await page.waitForSelector("dialog select");
  expect(await faultsHere()).toEqual([]);
  await page.keyboard.press("Escape");
});

test("axe finds nothing serious on what Inputs shows of a lead, and of a source", async () => {
  const hands = handsOn(page);
  await page.goto(`${inject("baseUrl")}/inputs`);
  await page.waitForSelector("[data-lead]");
  await bringAxe();
  await page.click("[data-lead='lead-stick-nod'] button");
  for (const tab of ["Chain", "Seen", "Log", "Who has it"]) {
    await hands.press(tab);
    await page.waitForFunction(
      (name) => document.querySelector("[role=tab][aria-selected=true]")?.textContent === name,
      {},
      tab,
    );
    expect([tab, ...(await faultsHere())]).toEqual([tab]);
  }
  await hands.press("Settings of Breath");
  expect(await faultsHere()).toEqual([]);
  await hands.press("Done");
});

test("axe finds nothing serious on the tabs of Routine, nor on what Poses opens", async () => {
  const hands = handsOn(page);
  await page.goto(`${inject("baseUrl")}/routine`);
  await page.waitForSelector("[data-step]");
  await bringAxe();
  await page.click("[data-step]");
  for (const at of [0, 1, 2, 3]) {
    await page.evaluate((place) => document.querySelectorAll<HTMLElement>("[role=tab]")[place]?.click(), at);
    await page.waitForFunction(
      (place) => document.querySelectorAll("[role=tab]")[place]?.getAttribute("aria-selected") === "true",
      {},
      at,
    );
    await page.evaluate(() => {
      for (const more of document.querySelectorAll("details")) more.open = true;
    });
    expect([at, ...(await faultsHere())]).toEqual([at]);
  }
  await hands.press("Stage");
  await page.waitForSelector("dialog[open]");
  expect(["stage", ...(await faultsHere())]).toEqual(["stage"]);
  await page.goto(`${inject("baseUrl")}/poses`);
  await page.waitForSelector("nav[aria-label=Poses] button");
  await bringAxe();
  for (const sheet of ["As a table", "Left and right", "Capture some joints", "Blend"]) {
    await hands.press(sheet);
    await page.waitForSelector("dialog[open]");
    expect([sheet, ...(await faultsHere())]).toEqual([sheet]);
    await page.evaluate(() => document.querySelector<HTMLDialogElement>("dialog[open]")?.close());
    await page.waitForFunction(() => document.querySelector("dialog[open]") === null);
  }
});

test("nor on any tab of Remote with its doors open, nor on a pad", async () => {
  const hands = handsOn(page);
  // A server has one bench: beside a sitting that lets pads in on the shared one, this would have no door of its own.
  const { url, server } = await startServer();
  await page.goto(`${url}/remote`);
  await page.waitForSelector("main [data-control]");
  await bringAxe();
  const showTab = (place: number) => page.click(`[role=tab]:nth-child(${place})`);
  await showTab(2);
  await hands.press("Show a code");
  const code = await (await page.waitForSelector("[data-code]"))?.evaluate((element) => element.textContent);
  const context = await browser.createBrowserContext();
  const pad = await context.newPage();
  await pad.setViewport({ width: 390, height: 844, hasTouch: true, isMobile: true });
  await pad.goto(`${url}/pad#${code}`);
  await pad.waitForSelector("form");
  await bringAxe(pad);
  expect(await faultsOf(pad)).toEqual([]);
  await pad.click("form button");
  await pad.waitForSelector("main:not([inert]) [data-control]");
  await page.waitForSelector("[data-device]");
  expect(await faultsOf(pad)).toEqual([]);
  for (let place = 1; place <= 5; place += 1) {
    await showTab(place);
    if (place === 3) for (const door of ["OSC door", "sACN door"]) await page.click(`[aria-label='${door}']`);
    expect([place, ...(await faultsHere())]).toEqual([place]);
  }
  await showTab(3);
  for (const door of ["OSC door", "sACN door"]) await page.click(`[aria-label='${door}']`);
  await context.close();
  await page.goto(`${inject("baseUrl")}/remote`);
  await page.waitForSelector("main [data-control]");
  server.kill();
});

test("what a mouse reads by resting, the keyboard's focus and a resting finger read as well", async () => {
  await page.focus("body");
  await handsOn(page).tabTo("Key sheet");
  await page.waitForFunction(() => document.querySelector("[data-hint]")?.textContent === "Key sheet (?)");
  await page.keyboard.press("Tab");
  await page.waitForFunction(() => document.querySelector("[data-hint]")?.textContent !== "Key sheet (?)");
  await page.keyboard.press("Escape");
  await page.waitForFunction(() => !document.querySelector("[data-hint]"));
  const box = await (await page.waitForSelector("[title='The whole bench (0)']"))?.boundingBox();
  const finger = await page.touchscreen.touchStart((box?.x ?? 0) + 5, (box?.y ?? 0) + 5);
  await page.waitForFunction(() => document.querySelector("[data-hint]")?.textContent === "The whole bench (0)");
  await finger.move((box?.x ?? 0) + 5, 400);
  await finger.end();
  await page.waitForFunction(() => !document.querySelector("[data-hint]"));
});

test("at a zoom of 200 % all of the bench is reached by scrolling, and Release all stays in sight", async () => {
  const bench = () =>
    page.evaluate(() => [document.documentElement.scrollWidth, document.documentElement.scrollHeight]);
  for (const size of [
    { width: 1280, height: 600 },
    { width: 1024, height: 768 },
  ]) {
    await page.setViewport(size);
    expect(await bench()).toEqual([size.width, size.height]);
  }
  await page.setViewport({ width: 640, height: 400 });
  const [width = 0, height = 0] = await bench();
  expect(width).toBeGreaterThan(900);
  expect(height).toBeGreaterThan(500);
  await page.evaluate(() => scrollTo(9999, 9999));
  const isSeen = () =>
    page.$eval("header .btn-error", (button) => {
      const { left, right, top, bottom } = button.getBoundingClientRect();
      return left >= 0 && right <= innerWidth && top >= 0 && bottom <= innerHeight;
    });
  expect(await isSeen()).toBe(true);
  await page.evaluate(() => scrollTo(0, 0));
  await page.setViewport({ width: 1280, height: 800 });
});

test("in a system's colours for contrast, drawings take them, and what is pressed is told apart", async () => {
  const session = await page.createCDPSession();
  const forced = { name: "forced-colors", value: "active" };
  await session.send("Emulation.setEmulatedMedia", {
    features: [forced, { name: "prefers-color-scheme", value: "dark" }],
  });
  await page.goto(`${inject("baseUrl")}/drive`);
  await page.waitForSelector("[role=slider] text");
  const look = await page.evaluate(() => {
    const colorOf = (what: string, of: "fill" | "backgroundColor" | "color") =>
      getComputedStyle(document.querySelector(what) as Element)[of];
    return {
      scale: colorOf("[role=slider] text.fill-base-content", "fill"),
      words: colorOf("main h1", "color"),
      pressed: colorOf("main [aria-pressed=true]", "backgroundColor"),
      other: colorOf("main [aria-pressed=false]", "backgroundColor"),
    };
  });
  expect(look.scale).toBe(look.words);
  expect(look.pressed).not.toBe(look.other);
  await session.send("Emulation.setEmulatedMedia", { features: [] });
});

test("the rack is walked with the arrow keys, and nothing scrolls sideways at 1024", async () => {
  await page.goto(`${inject("baseUrl")}/drive`);
  await page.waitForSelector("[role=option][aria-selected=true]");
  await page.focus("[role=option][aria-selected=true]");
  await page.keyboard.press("Home");
  await page.keyboard.press("ArrowDown");
  await page.waitForFunction(() => document.querySelector("main h1")?.textContent?.startsWith("Neck nod"));
  await page.keyboard.press("End");
  await page.waitForFunction(() => document.querySelector("main h1")?.textContent?.startsWith("Vent crank"));
  await page.setViewport({ width: 1024, height: 768 });
  for (const path of pages) {
    await walkTo(path);
    // With something limp the top line is at its longest; Release all stays in sight.
    const isLimp = () => page.evaluate(() => document.querySelector("header")?.textContent?.includes("Hold all"));
    await insist(() => page.keyboard.press("Escape"), isLimp, 200);
    expect([path, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, 1024]);
  }
});
