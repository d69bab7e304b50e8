import type { Page } from "puppeteer-core";
import { demoProject } from "../src/core/demo";
import { byId } from "../src/core/project";
import { channelGroupsOf } from "../src/core/signal";
import { openBrowser, openPage } from "./e2e/browser";
import { handsOn } from "./e2e/hands";
import { RealBoard } from "./e2e/realBoard";
import { startServer } from "./e2e/served";
import { pause } from "./e2e/waiting";
import { beside, phonesAt } from "./picturedPads";

/**
 * Takes the pictures in docs/screenshots from the demo: `npm run pictures`, or with the names of some of them.
 * Each picture starts from a fresh bench, so that they do not depend on each other.
 */
interface Picture {
  readonly name: string;
  readonly path: string;
  readonly theme: "day" | "night";
  readonly jointId?: string;
  /** For one that is not of the bench's own page. */
  readonly take?: (hands: ReturnType<typeof handsOn>, page: Page, path: string) => Promise<void>;
  readonly prepare?: (hands: ReturnType<typeof handsOn>, page: Page) => Promise<void>;
}

const pictures: readonly Picture[] = [
  { name: "bench-day", path: "/", theme: "day" },
  {
    name: "bench-night",
    path: "/",
    theme: "night",
    prepare: async (hands, page) => {
      await page.keyboard.press("5");
      await page.waitForSelector("main table");
      await hands.press("Look left6 joints");
      await hands.press("Go to");
      await page.keyboard.press("0");
      await page.waitForSelector("main ol");
      await pause(1200);
    },
  },
  {
    name: "wrong-day",
    path: "/",
    theme: "day",
    jointId: "neck-turn",
    prepare: async (hands, page) => {
      await page.keyboard.press("q");
      await hands.press("It turns only half-way");
      await page.mouse.move(640, 700);
      await pause(400);
    },
  },
  { name: "signal-day", path: "/signal", theme: "day", jointId: "left-lid" },
  {
    name: "drive-day",
    path: "/drive",
    theme: "day",
    jointId: "neck-turn",
    prepare: async (hands) => {
      await hands.type("Go to an angle or pulse", "48");
      await pause(1200);
    },
  },
  {
    name: "calibrate-day",
    path: "/calibrate",
    theme: "day",
    jointId: "neck-turn",
    prepare: async (hands) => {
      await hands.measureTwoPoints();
      await pause(400);
    },
  },
  {
    name: "cards-day",
    path: "/cards?card=card-neck-nod",
    theme: "day",
    jointId: "neck-nod",
    prepare: async () => {
      await pause(900);
    },
  },
  {
    name: "inputs-night",
    path: "/inputs",
    theme: "night",
    jointId: "neck-nod",
    prepare: async (hands, page) => {
      await page.waitForSelector("[data-lead]");
      await page.click("[data-lead='lead-stick-nod'] button");
      await (await hands.find("Stick, across and Stick, up")).focus();
      for (let presses = 0; presses < 9; presses += 1) await page.keyboard.press("ArrowUp");
      await pause(900);
    },
  },
  {
    name: "poses-day",
    path: "/poses",
    theme: "day",
    prepare: async (hands, page) => {
      await page.click('nav[aria-label=Poses] button[data-pose="pose-look-left"]');
      await hands.choose("Held against", "Look up right");
      await pause(300);
    },
  },
  {
    name: "routine-day",
    path: "/routine",
    theme: "day",
    prepare: async (hands, page) => {
      await page.click("[data-step=wake-3]");
      await page.evaluate(() => document.querySelectorAll<HTMLElement>("[role=tab]")[1]?.click());
      await hands.press("Play");
      await pause(4200);
    },
  },
  {
    name: "bus-day",
    path: "/bus",
    theme: "day",
    jointId: "elbow",
    prepare: async (hands, page) => {
      for (const [sticker, number] of [
        ["red", 4],
        ["green", 5],
        ["blue", 20],
      ] as const) {
        await page.evaluate((words) => {
          const label = [...document.querySelectorAll("label")].find((one) => one.textContent?.includes(words));
          label?.querySelector("input")?.click();
        }, `${sticker} sticker`);
        await hands.press("Look for number 20");
        await page.waitForFunction(() => document.querySelector("main")?.textContent?.includes("Just one answers"));
        if (number === 20) continue;
        await hands.press(`Make it number ${number}`);
        await page.waitForFunction(() => document.querySelector("main")?.textContent?.includes("now."));
      }
      await pause(500);
    },
  },
  {
    name: "hand-off-day",
    path: "/hand-off",
    theme: "day",
    jointId: "neck-turn",
    prepare: async (hands, page) => {
      await page.waitForSelector("nav[aria-label='Parts of the file']");
      await hands.press("The poses");
      await pause(800);
    },
  },
  {
    name: "links-day",
    path: "/drive",
    theme: "day",
    jointId: "neck-turn",
    prepare: async (hands, page) => {
      // One real board as the project describes it, and one that differs.
      const { boards } = demoProject();
      const [fern, pebble] = [byId(boards, "fern"), byId(boards, "pebble")];
      const other = [
        {
          first: 0,
          last: 15,
          periodNs: 20_000_000,
          lowestCount: 0,
          atLowest: 0,
          highestCount: 20_000,
          atHighest: 20_000_000,
        },
      ];
      const real = [new RealBoard(fern, channelGroupsOf(fern), 4781), new RealBoard(pebble, other, 4782)];
      await hands.press("3 simulated boards, live");
      for (const [at, board] of real.entries()) {
        await board.start();
        switchedOn.push(board);
        await hands.press("Choose its wire", at);
        const label = at === 0 ? fern.label : pebble.label;
        await hands.choose(`The wire to ${label}`, "A TCP address");
        await hands.type("Port", String(4781 + at));
        await hands.press(`Open 127.0.0.1:${4781 + at}`);
        await pause(1200);
      }
      await page.keyboard.press("Escape");
      await (await page.waitForSelector("header ::-p-text(Hold all)"))?.click();
      await pause(20_000);
      await hands.press("Pebble is not driven");
      await pause(1500);
    },
  },
  {
    name: "figure-hand-day",
    path: "/figure?fine",
    theme: "day",
    jointId: "shoulder",
    prepare: async (hands, page) => {
      await page.waitForSelector("canvas[data-pictures]");
      await hands.choose("Whose figure", "Trellis");
      await pause(500);
      await hands.type("It is at, in mm, x", "70");
      await hands.type("It is at, in mm, y", "-40");
      await hands.type("It is at, in mm, z", "60");
      await page.click("#figure-panel input[type=checkbox]:last-of-type");
      await pause(1500);
    },
  },
  { name: "power-review-day", path: "/power", theme: "day" },
  {
    name: "power-paper-day",
    path: "/power",
    theme: "day",
    // The first sheet as it comes out of the printer.
    take: async (_, page, path) => {
      await page.evaluate(() => {
        window.print = () => {};
      });
      await page.click("#power-panel-paper");
      await page.locator("#power-panel ::-p-xpath(.//button[starts-with(., 'Print')])").click();
      await page.waitForSelector("[data-ruler]");
      await page.waitForFunction(() =>
        [...document.querySelectorAll<HTMLImageElement>("img[data-sheet]")].every(({ complete }) => complete),
      );
      await page.emulateMediaType("print");
      await page.setViewport({ width: 794, height: 1123 });
      await page.screenshot({ path: path as `${string}.png` });
    },
  },
  {
    name: "figure-weight-night",
    path: "/figure?fine",
    theme: "night",
    jointId: "shoulder",
    prepare: async (hands, page) => {
      await page.waitForSelector("canvas[data-pictures]");
      await hands.choose("Whose figure", "Trellis");
      await page.click("#figure-panel-weight");
      await hands.type("Carried by Hand of Trellis", "150");
      await page.click("#figure-panel input[type=checkbox]");
      await pause(4000);
    },
  },
  {
    name: "pads-day",
    path: "/remote",
    theme: "day",
    take: async (hands, page, path) => {
      const [upright, lying] = await phonesAt(hands, page, ["Ada's phone", "Bob's tablet"]);
      if (!upright || !lying) return;
      await lying.page.setViewport({ width: 844, height: 390, hasTouch: true, isMobile: true });
      await upright.touch("pad-turn", 0.78, 0.5);
      await pause(900);
      await beside(page.browser(), [await upright.page.screenshot(), await lying.page.screenshot()], path);
    },
  },
  {
    name: "stage-night",
    path: "/routine",
    theme: "night",
    prepare: async (hands) => {
      await hands.press("Stage");
      await hands.press("Start P");
      await pause(4800);
    },
  },
];

/** Real boards that a picture needed. */
const switchedOn: RealBoard[] = [];

const wanted = process.argv.slice(2);
const { url, server } = await startServer();
try {
  for (const picture of pictures.filter(({ name }) => wanted.length === 0 || wanted.includes(name))) {
    const browser = await openBrowser();
    const { page } = await openPage(browser, url);
    await page.evaluate((theme) => localStorage.setItem("vantel.theme", theme), picture.theme);
    await page.goto(url + picture.path);
    await page.waitForSelector("[role=listbox] [role=option]");
    const hands = handsOn(page);
    if (picture.jointId) await hands.select(picture.jointId);
    await pause(600);
    await picture.prepare?.(hands, page);
    const path = `docs/screenshots/${picture.name}.png` as const;
    if (picture.take) await picture.take(hands, page, path);
    else await page.screenshot({ path });
    console.log(`docs/screenshots/${picture.name}.png`);
    await browser.close();
  }
} finally {
  server.kill();
  for (const board of switchedOn) await board.kill();
}
