import type { ChildProcess } from "node:child_process";
import { networkInterfaces } from "node:os";
import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { type Phone, phoneOf } from "./phone";
import { startServer } from "./served";
import { pause, stays, still, until } from "./waiting";
import "./sitting";

/** Two phones and a bench: let in with a code, worked by touch, cut off, thrown out. */
let browser: Browser;
/** A server of its own: one has one bench, and another sitting that looks at Remote would have this one's door. */
let url: string;
let server: ChildProcess;
let page: Page;
let hands: ReturnType<typeof handsOn>;
let ada: Phone;
let bob: Phone;
let complaints: string[];

beforeAll(async () => {
  ({ url, server } = await startServer());
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${url}/remote`));
  hands = handsOn(page);
});
afterAll(async () => {
  await browser.close();
  server.kill();
});

const tab = (place: number) => page.click(`[role=tab]:nth-child(${place})`);
const isOnLan = Object.values(networkInterfaces()).some((all) =>
  all?.some(({ internal, family }) => !internal && family === "IPv4"),
);
const target = (jointId: string): Promise<number> =>
  page.$eval(`[data-joint="${jointId}"]`, (element) =>
    Number(/(−?[\d.]+)°/.exec(element.textContent ?? "")?.[1]?.replace("−", "-")),
  );
/** Where a joint's target stands once it goes no further. */
const settled = (jointId: string): Promise<number> => still(() => target(jointId), 250);
const untilTarget = (jointId: string, low: number, high: number) =>
  page.waitForFunction(
    (id, from, to) => {
      const text = document.querySelector(`[data-joint="${id}"]`)?.textContent ?? "";
      const deg = Number(/(−?[\d.]+)°/.exec(text)?.[1]?.replace("−", "-"));
      return deg >= from && deg <= to;
    },
    {},
    jointId,
    low,
    high,
  );

test("nobody but this computer finds the door, until others are let in; then the address and a code are shown", async () => {
  const { port } = new URL(url);
  const lan = Object.values(networkInterfaces())
    .flatMap((all) => all ?? [])
    .find(({ internal, family }) => !internal && family === "IPv4")?.address;
  const knock = (path: string) =>
    fetch(`http://${lan}:${port}${path}`).then(
      ({ status }) => status,
      () => "nobody",
    );
  if (isOnLan) expect(await knock("/pad")).toBe("nobody");
  await tab(2);
  if (isOnLan) {
    await hands.press("Let others in");
    await hands.until(() => document.body.textContent?.includes("Others are let in.") ?? false);
    // A pad's page, and nothing else of the bench.
    expect(await knock("/pad")).toBe(200);
    expect(await Promise.all(["/", "/drive", "/api/ports", "/api/health", "/sw.js"].map(knock))).toEqual(
      Array(5).fill(404),
    );
  }
  await hands.press("Show a code");
  await page.waitForSelector("[data-code]");
});

test("a phone comes in with the code, once; a wrong one does not", async () => {
  const read = () => page.$eval("[data-code]", (element) => element.textContent ?? "");
  const address = await page.$eval("[data-address]", (element) => element.textContent ?? "");
  const code = await read();
  bob = await phoneOf(browser, address);
  await bob.pair(code === "000000" ? "111111" : "000000", "Bob's phone");
  await bob.page.waitForFunction(() => document.querySelector("[role=alert]")?.textContent?.includes("not the code"));
  ada = await phoneOf(browser, `${address}#${code}`);
  await ada.pair("", "Ada's phone");
  await ada.untilThere();
  // It is worn out now.
  await bob.pair(code, "");
  await bob.page.waitForFunction(() =>
    document.querySelector("[role=alert]")?.textContent?.includes("No code is good"),
  );
  await hands.press("Show a code");
  await page.waitForFunction((old) => (document.querySelector("[data-code]")?.textContent ?? old) !== old, {}, code);
  await bob.pair(await read(), "");
  await bob.untilThere();
  await page.waitForSelector('[data-device="Ada\'s phone"]');
});

test("a slider moves its joint, and the pad shows it; the bench says whose thumb is on it", async () => {
  await ada.touch("pad-turn", 0.9, 0.5);
  await untilTarget("neck-turn", 40, 70);
  await page.waitForFunction(() => document.querySelector("[data-device]")?.textContent?.includes("Thumb on Turn"));
  await ada.page.waitForFunction(() => {
    const words = document.querySelector('[data-control="pad-turn"] [data-target]')?.textContent ?? "";
    return Number(words.replace("°", "")) > 40;
  });
  // The same is seen on the other pad, with whose it is.
  await bob.page.waitForFunction(() =>
    document.querySelector('[data-control="pad-turn"]')?.textContent?.includes("Ada"),
  );
});

test("two thumbs on one joint: the first has it until it leaves", async () => {
  const before = await settled("neck-turn");
  await bob.touch("pad-turn", 0.1, 0.5);
  await bob.page.waitForFunction(() =>
    document.querySelector("[role=status]")?.textContent?.includes("Ada's phone has it"),
  );
  expect(await target("neck-turn")).toBe(before);
  await ada.lift();
  await bob.move("pad-turn", 0.15, 0.5);
  await untilTarget("neck-turn", -70, -40);
  await bob.lift();
});

test("hold to move: the joint stops where it is as soon as the thumb is lifted", async () => {
  const from = await target("neck-nod");
  await ada.touch("pad-nod", 0.5, 0.95);
  await until(
    () => target("neck-nod"),
    (deg) => deg !== from,
  );
  await ada.lift();
  await settled("neck-nod");
  await stays(() => target("neck-nod"), 400);
});

/** How the target of a joint went on, looked at in every display frame: until when it changed, by the clock of this computer. */
const watch = (jointId: string) =>
  page.evaluate((id) => {
    const seen = { text: "", changedMs: 0, lookedMs: Date.now(), stoodStillMs: 0 };
    Object.assign(globalThis, { seen });
    const look = () => {
      const text = document.querySelector(`[data-joint="${id}"]`)?.textContent ?? "";
      const nowMs = Date.now();
      seen.stoodStillMs = Math.max(seen.stoodStillMs, nowMs - seen.lookedMs);
      seen.lookedMs = nowMs;
      if (text !== seen.text) Object.assign(seen, { text, changedMs: nowMs });
      requestAnimationFrame(look);
    };
    look();
  }, jointId);
/** When it changed last, and how long the machine stood still at most meanwhile, which is nobody's fault. */
const seenOfIt = () =>
  page.evaluate(() => (globalThis as unknown as { seen: { changedMs: number; stoodStillMs: number } }).seen);
/** The rack writes its numbers no more often. */
const rackPaceMs = 120;

test("hold to move with the network cut in the middle: it stops within 300 ms, and the bench says who is silent", async () => {
  await hands.goTo("drive");
  await hands.select("neck-nod");
  const limit = await page.$$eval("main label", (labels) =>
    labels.map((label) => label.textContent ?? "").find((text) => text.startsWith("Speed limit")),
  );
  await hands.type(limit ?? "", "8");
  await hands.goTo("remote");
  await watch("neck-nod");
  await ada.touch("pad-nod", 0.5, 0.05);
  await pause(600);
  await ada.cut();
  const cutMs = Date.now();
  await still(() => target("neck-nod"), 1500);
  const { changedMs: stoppedMs, stoodStillMs } = await seenOfIt();
  // It was on its way, and far from where it was sent.
  expect(stoppedMs).toBeGreaterThan(cutMs - 200);
  expect(stoppedMs).toBeLessThan(cutMs + 300 + rackPaceMs + stoodStillMs);
  expect(await target("neck-nod")).toBeLessThan(25);
  await page.waitForFunction(() => document.body.textContent?.includes("Ada's phone is silent"));
  await ada.mend();
  await ada.lift();
  await ada.untilThere();
});

test("a stick for neck turn and nod is laid out in two clicks, and works both from the phone", async () => {
  await tab(1);
  await hands.select("neck-turn");
  await seeBlanks(bob.page);
  await hands.press("A stick for two joints");
  await page.waitForFunction(() => document.querySelectorAll("[aria-label=Pads] li").length === 2);
  await ada.choosePad("Stick");
  // While the bench is changed, a pad that others look at goes on showing its numbers.
  await bob.page.waitForFunction(() => document.querySelectorAll("header option").length === 2);
  await bob.page.waitForFunction(() => Number(document.body.dataset.pictures) > 20);
  expect(await bob.page.evaluate(() => document.body.dataset.blanks)).toBe("0");
  const id = await ada.page.$eval("[data-control]", (element) => element.getAttribute("data-control") ?? "");
  await ada.touch(id, 0.95, 0.05);
  await untilTarget("neck-turn", 60, 90);
  await untilTarget("neck-nod", 20, 40);
  // It springs back to its middle.
  await ada.lift();
  await untilTarget("neck-turn", -2, 2);
});

/** Counts, picture by picture, how often a number on the pad is blank. */
const seeBlanks = (phone: Page) =>
  phone.evaluate(() => {
    let [pictures, blanks] = [0, 0];
    const look = () => {
      pictures += 1;
      blanks += [...document.querySelectorAll("[data-target]")].filter((one) => one.textContent === "–").length;
      Object.assign(document.body.dataset, { pictures, blanks });
      requestAnimationFrame(look);
    };
    look();
  });

test("a pad that is changed under a thumb takes the thumb with it: hold to move ends there", async () => {
  const firstPad = await ada.page.$eval("header option", (option) => option.textContent ?? "");
  await ada.choosePad(firstPad);
  await ada.touch("pad-nod", 0.5, (await target("neck-nod")) > 0 ? 0.95 : 0.05);
  const from = await target("neck-nod");
  await until(
    () => target("neck-nod"),
    (deg) => deg !== from,
  );
  await ada.choosePad("Stick");
  // At its 8 °/s it would go on for seconds.
  expect(Math.abs((await settled("neck-nod")) - from)).toBeLessThan(12);
  await ada.lift();
});

test("left, middle, right, and let go: a button each", async () => {
  await hands.select("beak");
  await hands.press("One joint: left, middle, right, and let go");
  await bob.choosePad("Beak");
  await bob.tapWords("Right");
  await untilTarget("beak", 30, 40);
  await bob.tapWords("Middle");
  await untilTarget("beak", 10, 25);
  await bob.tapWords("Left");
  await untilTarget("beak", -1, 1);
  await bob.tapWords("Release Beak");
  await page.waitForFunction(() => document.querySelector('[data-joint="beak"]')?.textContent?.includes("limp"));
  // What is released stays limp, and the pad is told why nothing moves.
  await bob.tapWords("Right");
  expect(await stays(() => hands.rackText("beak"), 300)).toContain("limp");
  await bob.tapWords("Hold Beak");
  await page.waitForFunction(() => !document.querySelector('[data-joint="beak"]')?.textContent?.includes("limp"));
});

test("who may only look moves nothing, but may release everything", async () => {
  await tab(2);
  const may = await page.waitForSelector('[data-device="Bob\'s phone"] select');
  await may?.select("look");
  await bob.page.waitForFunction(() => document.querySelector("header")?.textContent?.includes("look only"));
  await bob.page.waitForSelector("[data-control][inert]");
  const before = await target("beak");
  const box = await (await bob.page.waitForSelector("[data-control] button"))?.boundingBox();
  await bob.page.touchscreen.tap((box?.x ?? 0) + 20, (box?.y ?? 0) + 20);
  expect(await stays(() => target("beak"), 400)).toBe(before);
  await bob.tapWords("Release all");
  await bob.page.waitForFunction(() => document.body.textContent?.includes("Everything is released"));
  await page.waitForFunction(() => document.querySelector('[data-joint="neck-turn"]')?.textContent?.includes("limp"));
});

test("thrown out, a phone is out at once; with nobody let in, all are", async () => {
  await page.click('[data-device="Bob\'s phone"] .btn-error');
  await bob.page.waitForFunction(() => document.body.textContent?.includes("thrown out"));
  await bob.page.reload();
  await bob.page.waitForSelector("form");
  if (isOnLan) {
    await hands.press("Let nobody in any more");
    await ada.page.waitForFunction(() => document.body.textContent?.includes("Nobody is let in any more"));
    await hands.until(() => document.body.textContent?.includes("Nobody but this computer is let in.") ?? false);
  }
  await tab(5);
  const log = await hands.textOf("[role=tabpanel] table");
  for (const words of ["It was let in from", "A code was wrong", "It was thrown out", "Released everything"])
    expect(log).toContain(words);
  expect(complaints).toEqual([]);
});
