import { mkdtempSync, readdirSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { fileSaved, until } from "./waiting";

let browser: Browser;
let page: Page;
let complaints: string[];
const folder = mkdtempSync(join(tmpdir(), "vantel-waves-"));
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/signal`));
  const devtools = await page.createCDPSession();
  await devtools.send("Browser.setDownloadBehavior", { behavior: "allow", downloadPath: folder });
});
afterAll(() => browser?.close());

const downloaded = async (ending: string): Promise<string> => {
  const name = await until(
    () => readdirSync(folder).find((one) => one.endsWith(ending)),
    (one) => one !== undefined,
  );
  return fileSaved(join(folder, name ?? ""));
};

test("the position in any unit moves all the others, and impossible ones are answered", async () => {
  const hands = handsOn(page);
  await hands.type("Travel −1…+1", "0.4");
  expect(await hands.valueOf("Pulse")).toBe("1700.00");
  await hands.type("Pulse in ms", "1500 us");
  expect(await hands.valueOf("Servo 0…180")).toBe("90.00");
  await hands.type("Angle", "95");
  await hands.until(
    () => document.querySelector("main [role=alert]")?.textContent?.includes("Ask for −80 to 80") ?? false,
  );
  await hands.type("Angle", "36");
  await hands.press("Working");
  await hands.until(
    () => document.querySelector("main")?.textContent?.includes("pulse = 5.5556 × 126 + 1000 = 1700 µs") ?? false,
  );
  expect(await hands.textOf("main")).toContain("prescale = round(20000000 / (8192 × 50)) − 1 = 48");
});

test("the planner ranks what works and says why the rest does not", async () => {
  const hands = handsOn(page);
  await hands.press("Timer planner");
  await page.waitForSelector("[data-readout=plans]");
  const first = await hands.textOf("[data-readout=plans] tbody tr");
  expect(first).toMatch(/^8 edge49999/);
  expect(await hands.textOf("main")).toContain("16 bits at this clock reach 305.18 Hz at the lowest");
  await hands.press("Maths");
  expect(await hands.textOf("main")).toContain("TOP = clock / (prescale × frame) − 1 = 20000000 / (8 × 50) − 1");
  await page.select("main select", "8");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("76.29 Hz at the lowest") ?? false);
  await hands.type("Clock", "0");
  await hands.until(() => document.querySelector("main [role=alert]")?.textContent?.includes("stands still") ?? false);
});

test("boards lie side by side for the same servo", async () => {
  const hands = handsOn(page);
  await hands.press("Side by side");
  await page.waitForSelector("[data-readout=comparison] tbody tr");
  await (await hands.find("Call in whole µs")).click();
  const rows = await page.$$eval("[data-readout=comparison] tbody tr", (all) => all.map((row) => row.textContent));
  expect(rows).toHaveLength(4);
  expect(rows[0]).toContain("49.82 Hz");
  expect(rows.find((row) => row?.includes("8-bit duty"))).toContain("14.118°");
  expect(await page.$$eval("main .recharts-line-curve", (lines) => lines.length)).toBe(4);
});

test("pasted numbers are recognised, with what they would do", async () => {
  const hands = handsOn(page);
  await hands.press("What unit?");
  await (await hands.find("Paste two or three numbers from a program or a forum")).type("1640, 7864");
  await hands.until(
    () => document.querySelector("[data-readout=readings] li")?.textContent?.includes("16 bits") ?? false,
  );
  expect(await hands.textOf("[data-readout=readings] li")).toContain("500.5 µs, 2399.9 µsSafe");
});

test("a sweep that is too fast says so, and is made as smooth as the board can", async () => {
  const hands = handsOn(page);
  await hands.press("Sweep");
  await hands.type("Step", "10");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("faster than the rated") ?? false);
  await hands.press("As smooth as this board can");
  await hands.until(() => !document.querySelector("main")?.textContent?.includes("faster than the rated"));
  expect(await hands.valueOf("Dwell")).toBe("20.07");
});

test("wobble, over 200 000 frames, is simulated in the background and judged against the deadband", async () => {
  const hands = handsOn(page);
  await hands.press("Wobble");
  await hands.press("Simulate");
  await page.waitForSelector("[data-readout=wobble]");
  expect(await hands.textOf("[data-readout=wobble]")).toContain("of 200 000 pulses");
  expect(await hands.textOf("[data-readout=wobble] [role=status]")).toMatch(/twitches about .* deadband of 4 µs/);
});

test("a board is changed, its neighbours are named, and an undo brings it back; the pulses export as VCD and CSV", async () => {
  const hands = handsOn(page);
  await hands.press("Board");
  await page.waitForSelector("[data-readout=board]");
  expect(await hands.textOf("main")).toContain("this also changes Neck nod, Left lid");
  await page.select("main select", "counts");
  await hands.until(() => document.querySelector("[data-readout=board]")?.textContent?.includes("50.000 Hz") ?? false);
  await hands.type("Channels 0 to 11", "300");
  await hands.until(
    () => document.querySelector("main [role=alert]")?.textContent?.includes("accepts 40 to 60 Hz") ?? false,
  );
  await hands.type("Channels 0 to 11", "0");
  await hands.until(() => document.querySelector("main")?.textContent?.includes("at least 1") ?? false);
  await hands.press("Undo: Set frame rate");
  await hands.press("Undo: Change board");
  await hands.press("Waveform");
  await hands.press("Export VCD");
  await hands.press("Export CSV");
  const vcd = await downloaded(".vcd");
  expect(vcd).toContain("$timescale 10 ns $end");
  expect(vcd.match(/\$var wire 1/g)).toHaveLength(6);
  expect(await downloaded(".csv")).toContain("time_us,Neck turn,Neck nod,Left lid,Right lid,Beak,Ear tuft");
  expect(complaints).toEqual([]);
});
