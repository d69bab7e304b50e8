import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Browser, KeyInput, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { fileSaved, insist, paced, pause, stays, still } from "./waiting";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/inputs`));
  await page.waitForSelector("[data-lead]");
});
afterAll(() => browser?.close());

/** The target of a joint as the rack shows it. */
async function targetOf(jointId: string): Promise<number> {
  const text = await handsOn(page).rackText(jointId);
  return Number(/([−\d.]+)°?$/.exec(text)?.[1]?.replace("−", "-"));
}
const untilTarget = (jointId: string, low: number, high: number) =>
  page.waitForFunction(
    (id, from, to) => {
      const text = document.querySelector(`[data-joint="${id}"]`)?.textContent ?? "";
      const value = Number(/([−\d.]+)°?$/.exec(text)?.[1]?.replace("−", "-"));
      return value >= from && value <= to;
    },
    {},
    jointId,
    low,
    high,
  );
async function keys(label: string, key: KeyInput, times: number): Promise<void> {
  await (await handsOn(page).find(label)).focus();
  for (let presses = 0; presses < times; presses += 1) await page.keyboard.press(key);
}

test("a knob to an angle: the neck follows, and says whose it is", async () => {
  await keys("Bench knob", "End", 1);
  await untilTarget("neck-turn", 69.9, 70.1);
  await handsOn(page).untilRack("neck-turn", "input");
});

test("a stick to neck turn and nod, from the ready-made set; let go, it springs back", async () => {
  const hands = handsOn(page);
  await hands.select("neck-turn");
  await page.select("select[aria-label='Ready-made leads']", "stickToPair");
  await page.waitForFunction(() => document.querySelectorAll("[data-lead]").length === 6);
  const stick = await hands.find("Stick, across and Stick, up");
  const box = await stick.boundingBox();
  if (!box) throw new Error("There is no stick.");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 2, box.y + 2, { steps: 8 });
  await untilTarget("neck-turn", 78, 80);
  await untilTarget("neck-nod", 25, 35);
  await page.mouse.up();
  await untilTarget("neck-turn", -2, 2);
  await untilTarget("neck-nod", -3, 4);
});

test("a stick that goes from the page while it is held is let go", async () => {
  const hands = handsOn(page);
  const stick = await page.waitForSelector("[role=slider][aria-label='Stick, across and Stick, up']");
  const box = await stick?.boundingBox();
  await page.mouse.move((box?.x ?? 0) + 48, (box?.y ?? 0) + 48);
  await page.mouse.down();
  await page.mouse.move((box?.x ?? 0) + 90, (box?.y ?? 0) + 48);
  await untilTarget("neck-turn", 30, 90);
  // To another station by its key, with the button still down.
  await page.keyboard.press("2");
  await untilTarget("neck-turn", -3, 3);
  await page.mouse.up();
  await hands.goTo("inputs");
});

test("how long it takes from hand to pulse is measured and said; npm run bench prints it", async () => {
  const hands = handsOn(page);
  await paced(40, 13, (move) => keys("Bench knob", move % 2 === 0 ? "ArrowUp" : "ArrowDown", 1));
  await hands.press("Seen");
  await page.waitForFunction(() =>
    /pulse[1-9]\d* ms in the middle, 99 of 100 under \d+ ms/.test(
      document.querySelector("[data-readout=lead]")?.textContent ?? "",
    ),
  );
});

test("a knob for the speed and a switch for the way turn the vent", async () => {
  const hands = handsOn(page);
  await hands.select("vent-crank");
  await page.select("select[aria-label='Ready-made leads']", "knobAndSwitch");
  await page.waitForFunction(() =>
    document.querySelector("main [aria-current=true]")?.textContent?.includes("Vent crank"),
  );
  await hands.press("Vent way");
  await keys("Bench knob", "Home", 1);
  await keys("Bench knob", "End", 1);
  await untilTarget("vent-crank", 0.99, 1);
  await hands.press("Vent way");
  await untilTarget("vent-crank", -1, -0.99);
  await keys("Bench knob", "Home", 1);
  await untilTarget("vent-crank", -0.01, 0.01);
});

test("a sensor opens the lid when it is bright for long enough, and closes it later", async () => {
  const hands = handsOn(page);
  await hands.select("left-lid");
  await page.select("select[aria-label='Ready-made leads']", "sensorOpens");
  await page.waitForFunction(() =>
    document.querySelector("main [aria-current=true]")?.textContent?.includes("Left lid"),
  );
  await keys("World of Dusk sensor", "Home", 1);
  await untilTarget("left-lid", -0.1, 1);
  await keys("World of Dusk sensor", "End", 1);
  await untilTarget("left-lid", 59, 60);
  await keys("World of Dusk sensor", "Home", 1);
  await pause(1000);
  expect(await targetOf("left-lid")).toBeGreaterThan(50);
  await untilTarget("left-lid", -0.1, 1);
});

test("what does not fit is refused when it is wired, in words", async () => {
  await page.select("select[aria-label='Lead from']", "bench-knob");
  await page.select("select[aria-label='Lead to']", "stop");
  await page.waitForFunction(() => document.body.textContent?.includes("does not say when to act"));
});

test("solo: only the lit lead moves; in a test nothing does, and all is worked out", async () => {
  const hands = handsOn(page);
  await keys("Bench knob", "End", 1);
  await untilTarget("neck-turn", 69, 71);
  await hands.press("Solo Stick, up to Neck nod");
  await keys("Bench knob", "Home", 1);
  expect(await stays(() => targetOf("neck-turn"), 700)).toBeCloseTo(70, 0);
  await hands.press("Solo Stick, up to Neck nod");
  await page.click("main header .toggle");
  await keys("Bench knob", "ArrowUp", 3);
  expect(await stays(() => targetOf("neck-turn"), 500)).toBeCloseTo(70, 0);
  await page.click("main header .toggle");
  await keys("Bench knob", "Home", 1);
  await untilTarget("neck-turn", -71, -69);
});

test("a knob takes the neck from a playing routine, and gives it back when told to", async () => {
  const hands = handsOn(page);
  await hands.select("neck-turn");
  await page.click("[data-lead='lead-knob-turn'] button");
  await hands.goTo("routine");
  await hands.press("Owl wakes");
  await hands.press("Play");
  await hands.goTo("inputs");
  await hands.press("Who has it");
  await page.waitForFunction(() => document.querySelector("[data-joint=neck-turn]")?.textContent?.includes("routine"));
  await keys("Bench knob", "ArrowUp", 2);
  await page.waitForFunction(() => document.querySelector("[data-readout=owner]")?.textContent?.includes("Bench knob"));
  await hands.untilRack("neck-nod", "routine");
  await hands.press("Give it back");
  await page.waitForFunction(() => document.querySelector("[data-joint=neck-turn]")?.textContent?.includes("routine"));
  await page.keyboard.press("s");
});

test("a gamepad is learnt by moving it, drives the beak, and when it is unplugged says so", async () => {
  const hands = handsOn(page);
  await page.evaluate(() => {
    const pad = {
      index: 0,
      id: "pad",
      connected: true,
      mapping: "standard",
      timestamp: 0,
      axes: [0, 0],
      buttons: [{ value: 0, pressed: false, touched: false }],
      vibrationActuator: null,
    };
    Object.assign(window, { fakePad: pad });
    navigator.getGamepads = () => [(window as unknown as { fakePad: Gamepad }).fakePad];
    const here = new Event("gamepadconnected");
    Object.assign(here, { gamepad: pad });
    window.dispatchEvent(here);
  });
  const turn = (axis: number, value: number) =>
    page.evaluate(
      (at, to) => {
        (window as unknown as { fakePad: { axes: number[] } }).fakePad.axes[at] = to;
      },
      axis,
      value,
    );
  await page.select("select[aria-label='Add a source']", "gamepad");
  await page.waitForFunction(() =>
    document.querySelector("[data-source]:last-of-type")?.textContent?.includes("pad 1"),
  );
  const name = await page.$$eval(
    "[data-source] input",
    (all) => (all as HTMLInputElement[]).find((one) => one.value.startsWith("Gamepad"))?.value ?? "",
  );
  await hands.press(`Settings of ${name}`);
  await hands.press("pad 1, axis 0: learn another");
  await insist(
    (times) => turn(1, times % 2 === 0 ? 0.9 : -0.9),
    () => hands.isThere("pad 1, axis 1: learn another"),
    200,
  );
  await hands.press("Done");
  await page.select(
    "select[aria-label='Lead from']",
    (await page.$$eval("[data-source]", (all) =>
      all.find((one) => one.querySelector("input")?.value.startsWith("Gamepad"))?.getAttribute("data-source"),
    )) ?? "",
  );
  await page.select("select[aria-label='Lead to']", "joint:beak");
  await turn(1, -1);
  await untilTarget("beak", -0.1, 0.5);
  await turn(1, 1);
  await untilTarget("beak", 34, 35);
  const held = await still(() => targetOf("beak"), 250);
  await page.evaluate(() => {
    const { fakePad } = window as unknown as { fakePad: Gamepad };
    navigator.getGamepads = () => [];
    const gone = new Event("gamepaddisconnected");
    Object.assign(gone, { gamepad: fakePad });
    window.dispatchEvent(gone);
  });
  await page.waitForFunction(() => document.body.textContent?.includes("The gamepad is gone"));
  await page.waitForFunction(() =>
    [...document.querySelectorAll("[data-source]")].some((one) => one.textContent?.includes("gone")),
  );
  expect(await stays(() => targetOf("beak"), 250)).toBe(held);
});

test("the knob you mean, then the joint you mean: a lead is made of what was moved", async () => {
  const hands = handsOn(page);
  await hands.select("grip");
  const before = (await page.$$("[data-lead]")).length;
  await hands.press("Learn: move both");
  await hands.until(() => document.body.textContent?.includes("Move the source you mean.") ?? false);
  await (await hands.find("Lid slider")).focus();
  const isHeard = () =>
    page.evaluate(() => document.querySelector("main [role=status]")?.textContent?.includes("Lid slider"));
  await insist((times) => page.keyboard.press(times % 2 === 0 ? "Home" : "End"), isHeard, 200);
  await page.focus("[role=option][aria-selected=true]");
  const isLed = () => page.evaluate((count) => document.querySelectorAll("[data-lead]").length === count + 1, before);
  await insist(
    async () => {
      await page.keyboard.down("Shift");
      await page.keyboard.press(".");
      await page.keyboard.up("Shift");
    },
    isLed,
    200,
  );
  // Where it stands by now, nobody counted: only what is moved is heard.
  await keys("Lid slider", "End", 1);
  await keys("Lid slider", "Home", 1);
  await untilTarget("grip", -0.1, 0.5);
});

test("a key and a MIDI controller are learnt; a key that the bench uses is refused", async () => {
  const hands = handsOn(page);
  const settingsOf = async (label: string) => {
    const name = await page.$$eval(
      "[data-source] input",
      (all, begins) => (all as HTMLInputElement[]).find((one) => one.value.startsWith(begins))?.value ?? "",
      label,
    );
    await hands.press(`Settings of ${name}`);
  };
  await page.select("select[aria-label='Add a source']", "key");
  await settingsOf("Key of");
  await hands.press("no key yet: learn another");
  await page.keyboard.press("h");
  await page.waitForFunction(() =>
    document.querySelector("dialog [role=alert]")?.textContent?.includes("bench itself"),
  );
  await hands.press("no key yet: learn another");
  await page.keyboard.press("x");
  await hands.find("key X: learn another");
  await hands.press("Done");

  await page.evaluate(() => {
    const port = { onmidimessage: null as null | ((event: { data: Uint8Array }) => void) };
    Object.assign(window, { fakeMidi: port });
    Object.assign(navigator, {
      requestMIDIAccess: async () => ({ inputs: new Map([["one", port]]), onstatechange: null }),
    });
  });
  const send = (...bytes: number[]) =>
    page.evaluate((data) => {
      const { fakeMidi } = window as unknown as { fakeMidi: { onmidimessage: (event: { data: Uint8Array }) => void } };
      fakeMidi.onmidimessage({ data: Uint8Array.from(data) });
    }, bytes);
  await page.select("select[aria-label='Add a source']", "midi");
  await settingsOf("MIDI");
  await hands.press("controller 1, channel 1: learn another");
  await insist(
    (times) => send(0xb2, 21, 90 + (times % 2)),
    () => hands.isThere("controller 21, channel 3: learn another"),
    200,
  );
  await hands.press("Done");
  await send(0xb2, 21, 64);
  await page.waitForFunction(() =>
    [...document.querySelectorAll("[data-source]")].some((one) =>
      /controller 21, channel 364/.test(one.textContent ?? ""),
    ),
  );
});

test("the log has a line for each change, and goes out as CSV", async () => {
  const hands = handsOn(page);
  await hands.press("Log");
  await page.waitForSelector("[data-log]");
  await keys("Bench knob", "ArrowUp", 5);
  await page.waitForFunction(() => document.querySelectorAll("[data-log] tbody tr").length >= 5);
  await hands.press("Pause");
  const session = await page.createCDPSession();
  const folder = mkdtempSync(join(tmpdir(), "inputs-"));
  await session.send("Browser.setDownloadBehavior", { behavior: "allow", downloadPath: folder });
  await hands.press("Export CSV");
  const lines = (await fileSaved(join(folder, "inputs-log.csv"))).trim().split("\r\n");
  expect(lines[0]).toBe("time_ms,source,target,raw,mapped,set_point,actual");
  expect(lines.length).toBeGreaterThanOrEqual(6);
  expect(complaints).toEqual([]);
});

test("a stick leads the hand of the arm: its joints follow together, and come back with it", async () => {
  const hands = handsOn(page);
  await hands.select("shoulder");
  await page.select("select[aria-label='Ready-made leads']", "stickToTip");
  await page.waitForFunction(() =>
    document.querySelector("main [aria-current=true]")?.textContent?.includes("Hand of Trellis, to the left"),
  );
  const stick = await hands.find("Stick, across and Stick, up");
  await stick.evaluate((element) => element.scrollIntoView({ block: "center" }));
  const box = await stick.boundingBox();
  if (!box) throw new Error("There is no stick.");
  const before = await targetOf("shoulder");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 2, box.y + box.height / 2, { steps: 8 });
  await page.waitForFunction(
    (was) =>
      Math.abs(
        Number.parseFloat(
          (document.querySelector("[data-joint=shoulder]")?.textContent ?? "")
            .match(/[−\d.]+(?=°)/)?.[0]
            ?.replace("−", "-") ?? "0",
        ) - was,
      ) > 15,
    {},
    before,
  );
  await hands.untilRack("shoulder", "input");
  await page.mouse.up();
  expect(complaints).toEqual([]);
});

test("a button that goes from the page while it is held is let go", async () => {
  const hands = handsOn(page);
  const untilReads = (number: string) =>
    page.waitForFunction(
      (wanted) => document.querySelector("[data-source=call-button] .number")?.textContent === wanted,
      {},
      number,
    );
  const button = await hands.find("Push Call button");
  await button.scrollIntoView();
  await button.hover();
  await page.mouse.down();
  await untilReads("1.00");
  await page.keyboard.press("2");
  await page.waitForFunction(() => location.pathname === "/drive");
  await page.keyboard.press("4");
  await untilReads("0.00");
  await page.mouse.up();
});
