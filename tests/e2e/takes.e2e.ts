import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { paced, stays, still, until } from "./waiting";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/routine`));
});
afterAll(() => browser?.close());

const tab = async (name: string) => {
  await page.evaluate((wanted) => {
    const all = [...document.querySelectorAll<HTMLElement>("[role=tab]")];
    all.find((one) => one.textContent?.startsWith(wanted))?.click();
  }, name);
};
const says = (text: string) =>
  page.waitForFunction((wanted) => document.querySelector("main")?.textContent?.includes(wanted), {}, text);
const keysIn = (jointId: string) => page.$$eval(`[data-lane="${jointId}"] [data-key]`, (all) => all.length);

test("the owl is performed with a knob and a stick, and the take lies in the routine", async () => {
  const hands = handsOn(page);
  await hands.press("New routine");
  await tab("Takes");
  await (await hands.find("Record Neck nod")).click();
  await hands.type("after", "0.5");
  await page.click("summary");
  await hands.press("Record 2 joints");
  await says("End recording");
  const knob = await hands.find("Bench knob");
  await knob.focus();
  await paced(12, 60, () => page.keyboard.press("ArrowUp"));
  const stick = await hands.find("Stick, across and Stick, up");
  await stick.focus();
  await paced(8, 60, () => page.keyboard.press("ArrowUp"));
  await knob.focus();
  await paced(12, 60, () => page.keyboard.press("ArrowDown"));
  await hands.press("End recording");
  await page.waitForSelector("[data-take]");
  await page.waitForSelector("[data-clip]");
  expect(await hands.textOf("[data-take]")).toContain("Neck turn, Neck nod");
  expect(await page.$$("[data-lane]")).toHaveLength(2);
});

test("the beak is recorded over it, while the neck plays what was recorded", async () => {
  const hands = handsOn(page);
  for (const name of ["Record Neck turn", "Record Neck nod", "Record Beak"]) await (await hands.find(name)).click();
  await hands.select("beak");
  await hands.press("Record 1 joint");
  await page.waitForFunction(() => document.querySelector("[data-joint=neck-turn]")?.textContent?.includes("routine"));
  await page.waitForFunction(() => document.querySelector("main")?.textContent?.includes("recording 0"));
  await paced(20, 30, () => page.keyboard.press("."));
  expect(await still(() => hands.rackText("beak"), 300)).not.toContain("routine");
  await hands.press("End recording");
  await page.waitForFunction(() => document.querySelectorAll("[data-take]").length === 2);
  await page.waitForFunction(() => document.querySelectorAll("[data-clip]").length === 2);
  expect(await page.$$("[data-lane]")).toHaveLength(3);
});

test("the first take becomes a few keys within half a degree, in place of its clip; one undo brings it back", async () => {
  const hands = handsOn(page);
  await page.focus("[data-clip]");
  await page
    .$eval("[data-clip]", (clip) => {
      const box = clip.getBoundingClientRect();
      const at = { bubbles: true, clientX: box.left + box.width / 2, clientY: box.top + 5, pointerId: 1 };
      clip.dispatchEvent(new PointerEvent("pointerdown", at));
      clip.dispatchEvent(new PointerEvent("pointerup", at));
    })
    .catch(() => {});
  await says("Uses the take from");
  await hands.press("Clean up");
  await page.waitForSelector("[data-readout=cleaned]");
  const [, samples, keys, error] =
    /(\d+) samples → (\d+) keys; the keys are off by ([\d.]+)°/.exec(await hands.textOf("[data-readout=cleaned]")) ??
    [];
  expect(Number(error)).toBeLessThanOrEqual(0.5);
  expect(Number(keys)).toBeLessThan(Number(samples) / 5);
  await hands.press(`Put ${keys} keys into the lanes, in place of the clip`);
  await page.waitForFunction(() => document.querySelectorAll("[data-clip]").length === 1);
  expect((await keysIn("neck-turn")) + (await keysIn("neck-nod"))).toBe(Number(keys));
  await hands.press("Undo: Turn take into keys");
  await page.waitForFunction(() => document.querySelectorAll("[data-clip]").length === 2);
  await hands.press("Redo: Turn take into keys");
  await page.waitForFunction(() => document.querySelectorAll("[data-clip]").length === 1);
});

test("keys are walked, moved and taken away by keyboard, and each can be undone", async () => {
  const hands = handsOn(page);
  const lane = await hands.find("Lane of Neck turn").catch(() => page.$("[data-lane=neck-turn] [role=slider]"));
  await page.focus("[data-lane=neck-turn] [role=slider]");
  expect(lane).not.toBeNull();
  const value = () =>
    page.$eval("[data-lane=neck-turn] [role=slider]", (one) => one.getAttribute("aria-valuetext") ?? "");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await page.waitForFunction(() =>
    document
      .querySelector("[data-lane=neck-turn] [role=slider]")
      ?.getAttribute("aria-valuetext")
      ?.startsWith("key 2 of"),
  );
  const before = await value();
  await page.keyboard.press("ArrowUp");
  await page.waitForFunction(
    (old) => document.querySelector("[data-lane=neck-turn] [role=slider]")?.getAttribute("aria-valuetext") !== old,
    {},
    before,
  );
  const degOf = (text: string) => Number(/, (−?[\d.]+)°/.exec(text)?.[1]?.replace("−", "-"));
  expect(degOf(await value()) - degOf(before)).toBeCloseTo(1, 1);
  const count = await keysIn("neck-turn");
  await page.keyboard.press("Delete");
  await page.waitForFunction(
    (was) => document.querySelectorAll("[data-lane=neck-turn] [data-key]").length === was - 1,
    {},
    count,
  );
  await hands.press("Undo: Remove keys");
  await hands.press("Undo: Move keys");
});

test("a move that is too fast is found before anything turns, and mended by one click", async () => {
  const hands = handsOn(page);
  await tab("Steps");
  await hands.press("Add a move");
  await hands.choose("Pose of step 1", "Blink");
  await hands.type("Time of step 1", "0.1");
  await tab("Check");
  // What the move was first found to be asked for, before it went to this pose, may stand there for a moment.
  await page.waitForFunction(() =>
    /lid is asked for \d+ °\/s; its (speed limit is|servo is rated for) \d+/.test(
      document.querySelector("[data-finding=speed]")?.textContent ?? "",
    ),
  );
  expect(await hands.textOf("[data-joint=left-lid]")).toContain("held");
  await hands.press("Stretch to feasible");
  await page.waitForFunction(() => document.querySelector("[data-finding=speed]") === null);
  await tab("Steps");
  await page.click("[data-step]");
  expect(Number(await hands.valueOf("Time of step 1"))).toBeGreaterThan(0.15);
});

test("it plays; a reload in the middle loses nothing, and it plays again", async () => {
  const hands = handsOn(page);
  const untilNeckMoves = async () => {
    const seen = new Set<string>();
    await until(
      async () => seen.add(await hands.rackText("neck-turn")).size,
      (places) => places > 5,
    );
  };
  await hands.press("Play");
  await page.waitForFunction(() => document.querySelector("header")?.textContent?.includes("Playing Routine 3"));
  await untilNeckMoves();
  await hands.untilSaved();
  await page.reload();
  await page.waitForSelector("[role=listbox] [role=option]");
  await hands.press("Routine 3");
  await page.waitForFunction(() => document.querySelectorAll("[data-clip]").length === 1);
  expect(await page.$$("[data-lane]")).toHaveLength(5);
  await page.waitForFunction(() => document.querySelector("[data-joint=beak]")?.textContent?.includes("held"));
  await hands.press("Play");
  await page.waitForFunction(() => document.querySelector("header")?.textContent?.includes("Playing Routine 3"));
  await untilNeckMoves();
  await page.waitForFunction(() => document.querySelector("header")?.textContent?.includes("In your hands"));
  // The clip's samples came through the reload as well: the beak is where the take left it.
  await page.waitForFunction(() => /(19|20)\.\d°/.test(document.querySelector("[data-joint=beak]")?.textContent ?? ""));
  expect(complaints).toEqual([]);
});

test("a page that dies in the middle of a take loses a few seconds of it at most", async () => {
  const hands = handsOn(page);
  await tab("Takes");
  await hands.type("after", "0");
  await hands.press("Record 1 joint");
  await page.waitForFunction(() => document.querySelector("main")?.textContent?.includes("recording 6"));
  await page.reload();
  await page.waitForSelector("[role=listbox] [role=option]");
  await hands.press("Routine 3");
  await tab("Takes");
  await page.waitForFunction(() => document.querySelectorAll("[data-take]").length === 3);
  const [, seconds] =
    /([\d.]+) s/.exec((await page.$$eval("[data-take]", (all) => all.at(-1)?.textContent)) ?? "") ?? [];
  expect(Number(seconds)).toBeGreaterThan(1.5);
});

test("the stage shows what plays, large, and how the boards are; keys pause it, stop it and release everything", async () => {
  const hands = handsOn(page);
  const untilStage = (words: string) =>
    page.waitForFunction(
      (wanted) => document.querySelector("dialog[data-stage]")?.textContent?.includes(wanted),
      {},
      words,
    );
  // Slowly, so that it plays on for as long as is looked at it.
  await page.select("select:has(option[value='300'])", "10");
  await hands.press("Stage");
  await page.waitForFunction(() => document.activeElement?.textContent?.startsWith("Start"));
  // A key that is held down is one press: it does not stop again what it has begun.
  await page.keyboard.down("Enter");
  await untilStage("Pause");
  await page.waitForFunction(() => document.activeElement?.textContent === "Stop and hold");
  await page.keyboard.down("Enter");
  await stays(() => page.$eval("dialog[data-stage]", (stage) => stage.textContent?.includes("Pause") ?? false), 400);
  await page.keyboard.up("Enter");
  await page.keyboard.press("p");
  await untilStage("Go on");
  // What has the focus is what stands where Start stood.
  await page.keyboard.press("Enter");
  await untilStage("Ready");
  // No key of the bench moves a joint from here.
  const target = () => page.$eval("[role=option][aria-selected=true]", (joint) => joint.textContent);
  const before = await still(target, 500);
  await page.keyboard.press(".");
  expect(await stays(target, 600)).toBe(before);
  // A board that is lost is named here, and why nothing starts.
  await page.locator("dialog ::-p-text(boards, live)").click();
  await hands.press("Pull the plug");
  await untilStage("Fern is silent");
  // Esc closes what is open over the stage, and releases everything with the same press.
  await page.keyboard.press("Escape");
  await hands.untilRack("shoulder", "limp");
  await hands.press("Leave the stage");
  await page.waitForFunction(() => !document.querySelector("dialog[data-stage]"));
  // A routine that is undone leaves it as well: no other stands there in its place.
  await hands.press("New routine");
  await page.waitForFunction(() => document.querySelector("main")?.textContent?.includes("Routine 4"));
  await hands.press("Stage");
  await untilStage("Start");
  await page.keyboard.down("Control");
  await page.keyboard.press("k");
  await page.keyboard.up("Control");
  await page.waitForSelector("dialog[open] input:focus");
  await page.keyboard.type("undo");
  await page.keyboard.press("Enter");
  await page.waitForFunction(() => !document.querySelector("dialog"));
});
