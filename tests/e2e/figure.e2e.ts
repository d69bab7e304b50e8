import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { demoProject } from "@core/demo";
import { urdfOf } from "@core/figure";
import { byId } from "@core/project";
import type { Browser, ElementHandle, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { stays, still, until } from "./waiting";

let browser: Browser;
let page: Page;
let complaints: string[];
beforeAll(async () => {
  browser = await openBrowser();
  ({ page, complaints } = await openPage(browser, `${inject("baseUrl")}/figure`));
  await page.waitForSelector("[data-handle]");
});
afterAll(() => browser?.close());

const tab = (name: string) => page.click(`#figure-panel-${name}`);
const says = (words: string) =>
  page.waitForFunction((wanted) => document.querySelector("#figure-panel")?.textContent?.includes(wanted), {}, words);
/** A field as a number; a minus sign is one on the screen. */
const numberOf = async (label: string) => Number((await handsOn(page).valueOf(label)).replace("−", "-"));
/** Waits until a field says something else, and this is so of it. */
const untilNumber = (label: string, isSo: "less" | "near", than: number) =>
  page.waitForFunction(
    (name, how, limit) => {
      const field = [...document.querySelectorAll("input")].find((one) => one.labels?.[0]?.textContent === name);
      const value = Number(field?.value.replace("−", "-") ?? Number.NaN);
      return how === "less" ? value < limit : Math.abs(value - limit) < 3;
    },
    {},
    label,
    isSo,
    than,
  );
const pictures = () =>
  page.$eval("canvas[data-pictures]", (canvas) => Number((canvas as HTMLCanvasElement).dataset.pictures));

test("at rest the large picture is not drawn; when a joint turns it is", async () => {
  const hands = handsOn(page);
  await page.waitForSelector("canvas[data-pictures]");
  // The vent's servo creeps at its neutral, as such servos do: limp it stands.
  await page.keyboard.press("Escape");
  await hands.untilRack("vent-crank", "limp");
  const before = await still(pictures, 2000);
  await page.locator("header ::-p-text(Hold all)").click();
  await hands.untilRack("neck-turn", "held");
  await hands.select("neck-turn");
  await page.keyboard.press(".");
  await page.waitForFunction(
    (was) => Number(document.querySelector<HTMLCanvasElement>("canvas[data-pictures]")?.dataset.pictures) > was,
    {},
    before,
  );
});

test("an arm is made from a ready-made beginning, with the rig's own joints", async () => {
  const hands = handsOn(page);
  // From here on it is drawn in lines, by the same handles: without a graphics card three dimensions take the processors from all other sittings.
  await page.goto(`${inject("baseUrl")}/figure?lines`);
  await page.waitForSelector("[data-drawn-by=lines]");
  await hands.choose("Whose figure", "Trellis");
  await tab("parts");
  await hands.press("Begin anew");
  await page.locator("#figure-panel ::-p-text(Arm of 5 joints)").click();
  await page.waitForSelector("#figure-panel table");
  const labels = await page.$$eval("#figure-panel tbody button", (all) => all.map((one) => one.textContent));
  expect(labels).toEqual(["Foot", "Turntable", "Upper arm", "Forearm", "Hand", "Jaw", "Other jaw"]);
  // Each is moved by the joint that stands there in the rack.
  await hands.press("Forearm");
  expect(
    await (await hands.find("by")).evaluate((field) => (field as HTMLSelectElement).selectedOptions[0]?.text),
  ).toBe("Elbow");
  await hands.type("From there, in mm, z", "130");
  await says("130 mm");
  await hands.press("Undo: Change place of part");
  await says("120 mm");
  await hands.type("The figure stands at, y", "-170");
});

test("a part is dragged in steps, and undone in one", async () => {
  const hands = handsOn(page);
  const before = await hands.valueOf("From there, in mm, z");
  const box = await (await page.waitForSelector("[data-handle=part]"))?.boundingBox();
  if (!box) throw new Error("no handle");
  await page.mouse.move(box.x + 12, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + 12, box.y - 40, { steps: 8 });
  await page.mouse.up();
  await page.waitForFunction(
    (was) =>
      [...document.querySelectorAll("input")].some(
        (one) => one.labels?.[0]?.textContent === "From there, in mm, z" && one.value !== was,
      ),
    {},
    before,
  );
  const places = await Promise.all(["x", "y", "z"].map((axis) => numberOf(`From there, in mm, ${axis}`)));
  for (const place of places) expect(Math.abs(place % 5)).toBe(0);
  await hands.press("Undo: Change place of part");
  expect(await hands.valueOf("From there, in mm, z")).toBe(before);
});

test("its hand is dragged to a pot, and numbers take it to either side of it; both are captured", async () => {
  const hands = handsOn(page);
  await tab("around");
  await hands.press("Add a rod");
  await hands.type("Name of the thing", "Pot");
  await hands.type("Radius", "14");
  await hands.type("Length", "110");
  await hands.type("Its middle is at, in mm, x", "150");
  await hands.type("Its middle is at, in mm, y", "-170");
  await hands.type("Its middle is at, in mm, z", "55");
  await tab("hand");
  const box = await (await page.waitForSelector("[data-handle=tip]"))?.boundingBox();
  if (!box) throw new Error("no handle");
  await page.mouse.move(box.x + 12, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + 30, box.y + 90, { steps: 20 });
  await page.mouse.up();
  await says("It gets there.");
  const target = await hands.rackText("elbow");
  // Only the ghost has moved.
  await stays(() => hands.rackText("elbow"), 400);
  expect(await hands.rackText("elbow")).toBe(target);
  const stand = async (y: string) => {
    await hands.type("It is at, in mm, x", "150");
    await hands.type("It is at, in mm, y", y);
    await hands.type("It is at, in mm, z", "60");
    await says("It gets there.");
    await hands.press("Capture as a pose");
  };
  await stand("-250");
  await stand("-90");
  // In the pot itself it meets it, and says so.
  await hands.type("It is at, in mm, y", "-170");
  await says("meets Pot");
  await hands.press("Back to where it stands");
});

test("with the keys it is moved as well, in the hand's own directions too; out of reach is named", async () => {
  const hands = handsOn(page);
  await page.focus("[data-handle=tip]");
  const before = await numberOf("It is at, in mm, z");
  for (let press = 0; press < 4; press += 1) await page.keyboard.press("ArrowDown");
  await untilNumber("It is at, in mm, z", "less", before - 8);
  await hands.choose("Directions", "of the hand");
  await hands.press("5 mm on along ahead");
  await says("It gets there.");
  await hands.choose("Directions", "of the table");
  await hands.type("It is at, in mm, x", "900");
  await says("Out of reach by");
  await hands.press("Back to where it stands");
});

test("sent, it goes there by the usual road, within the joints' speed", async () => {
  const hands = handsOn(page);
  await hands.type("It is at, in mm, x", "140");
  await hands.type("It is at, in mm, z", "120");
  await says("It gets there.");
  const stoodAt = await hands.rackText("elbow");
  await hands.press("Send it there");
  await until(
    () => hands.rackText("elbow"),
    (text) => text !== stoodAt,
  );
  await hands.press("Back to where it stands");
  // It stands there now, or is on its way.
  await untilNumber("It is at, in mm, x", "near", 140);
});

test("weights: what each holds, what it could at worst, and what is too much", async () => {
  const hands = handsOn(page);
  await tab("weight");
  await page.waitForFunction(
    () =>
      document.querySelectorAll("#figure-panel tbody tr").length === 5 &&
      !document.querySelector("#figure-panel tbody")?.textContent?.includes("…"),
  );
  await says("can carry");
  await hands.type("Carried by Hand", "900");
  await says("cannot hold");
  await hands.type("Carried by Hand", "0");
  await page.waitForFunction(() => !document.querySelector("#figure-panel")?.textContent?.includes("cannot hold"));
});

test("a straight move that would meet the pot is found, mended and played", async () => {
  const hands = handsOn(page);
  await hands.goTo("routine");
  await hands.press("New routine");
  await hands.press("Add a move");
  await hands.press("Add a move");
  const poses = await (await hands.find("Pose of step 2")).evaluate((field) =>
    [...(field as HTMLSelectElement).options].map((option) => option.text).filter((text) => text.startsWith("Trellis")),
  );
  expect(poses.length).toBe(2);
  await hands.choose("Pose of step 2", poses[1] as string);
  await hands.type("Time of step 2", "3");
  await hands.choose("Its way", "straight, for a tip");
  await page.click("ol[aria-label=Steps] li:first-child button");
  await hands.choose("Pose of step 1", poses[0] as string);
  await hands.type("Time of step 1", "3");
  await page.locator("[role=tab] ::-p-text(Check)").click();
  const meets = await page.waitForSelector("[data-finding=meeting]");
  expect(await meets?.evaluate((one) => one.textContent)).toMatch(/meets Pot at \d+, −?-?\d+, \d+ mm/);
  await page.locator("[data-finding=meeting] button ::-p-text(Lead it round by)").click();
  await page.waitForFunction(() => document.querySelector("[data-finding=meeting]") === null);
  await page.locator("[role=tab] ::-p-text(Steps)").click();
  await page.locator("ol[aria-label=Steps] li:nth-child(2) button").click();
  await hands.choose("It points", "at its tilt, like a full cup");
  await page.waitForFunction(() =>
    document.querySelector("ol[aria-label=Steps]")?.textContent?.includes("round, tilt kept"),
  );
  await page.keyboard.press("p");
  await hands.untilRack("turntable", "routine");
});

test("a figure goes out to a file, and one is read from a file of other make: looked at first, matched, taken", async () => {
  const hands = handsOn(page);
  await hands.untilSaved();
  await page.goto(`${inject("baseUrl")}/figure?lines`);
  await page.waitForSelector("[data-drawn-by=lines]");
  await hands.choose("Whose figure", "Trellis");
  await tab("file");
  const folder = mkdtempSync(join(tmpdir(), "figure-"));
  const file = join(folder, "lift.urdf");
  const demo = demoProject();
  writeFileSync(
    file,
    urdfOf(demo, byId(demo.figures, "figure-trellis"))
      .text.replaceAll(/ vantel:[a-zA-Z]+="[^"]*"/g, "")
      .replaceAll(/<vantel:[^>]*>/g, ""),
  );
  const open = async (path: string) => {
    const field = (await page.waitForSelector("input[type=file][multiple]")) as ElementHandle<HTMLInputElement>;
    await field.uploadFile(path);
  };
  writeFileSync(join(folder, "broken.urdf"), "<robot><link name='a'>");
  await open(join(folder, "broken.urdf"));
  await says("not well-formed XML");
  await open(file);
  await page.waitForSelector("[data-urdf-look]");
  const elbow = await hands.find("Elbow: turns from −10 to 130 °");
  const matched = await elbow.evaluate((field) => (field as HTMLSelectElement).selectedOptions[0]?.text);
  expect(matched).toBe("is moved by Elbow");
  await hands.press("Take it in place of the figure of Trellis");
  await page.waitForSelector("#figure-panel table");
  const labels = await page.$$eval("#figure-panel tbody button", (all) => all.map((one) => one.textContent));
  expect(labels).toContain("Upper arm");
  await hands.press("Undo: Set figure");
  expect(complaints).toEqual([]);
});
