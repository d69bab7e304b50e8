import { seededRandom } from "@core/sim";
import type { HTTPRequest, KeyInput, Page } from "puppeteer-core";
import { stations } from "../../src/views/stations";
import { openBrowser, openPage } from "../e2e/browser";
import { startServer } from "../e2e/served";
import { pause } from "../e2e/waiting";

/** What a hand in a hurry presses, types and chooses. */
const places = ["/", "/cards", ...stations.map(({ id }) => `/${id}`)];
const keys =
  "Escape p c h , . s n g t m r d ? Delete Backspace ArrowLeft ArrowRight ArrowUp ArrowDown Enter Space Tab Home End".split(
    " ",
  ) as KeyInput[];
const words = "|-1|1e9|abc|0|90|1500 µs|NaN|-0|0.0000001|999999999999|12,5|3/4|Owl|°|45|7.5 %|250|"
  .split("|")
  .concat("a".repeat(90));
const within =
  "button, select, input:not([type=file]), textarea, summary, [role=option], [role=tab], [role=slider], [data-step]";

/** What a bench that stands always shows. */
const isWell = () =>
  [...document.querySelectorAll("header button")].some((one) => one.textContent?.includes("Release all")) &&
  (document.querySelector("main")?.textContent ?? "").length > 40;

/**
 * So many random doings at the bench itself, in a browser: presses, words, drags, keys, undo, stations, reloads; parts of the page that cannot be fetched
 * for a while; a database that the browser clears. Gives what the page complained of, and when Release all or the station was not there; with the last doings.
 */
export async function screenFaults(seed: number, steps: number): Promise<string[]> {
  const random = seededRandom(seed);
  const pick = <One>(list: readonly One[]): One => list[Math.floor(random() * list.length)] as One;
  const { url, server } = await startServer();
  const browser = await openBrowser();
  const { page, complaints } = await openPage(browser, `${url}${pick(places)}`);
  const session = await page.createCDPSession();
  await session.send("Browser.setDownloadBehavior", { behavior: "deny" });
  await page.evaluateOnNewDocument("window.print = () => {}");
  let isFetched = true;
  await page.setRequestInterception(true);
  page.on("request", (request: HTTPRequest) => {
    const isPart = request.resourceType() === "script" && !/frame|ground|client|page/.test(request.url());
    void (isPart && !isFetched ? request.abort() : request.continue());
  });

  /** One thing on the page, of what is open before it first. */
  const choose = (where: number, which: number) =>
    page.evaluate(
      (selector, place, chance) => {
        const open = [...document.querySelectorAll("dialog[open], :popover-open")].at(-1);
        const root = (place < 0.85 && open) || (place < 0.75 && document.querySelector("main")) || document.body;
        const all = [...root.querySelectorAll<HTMLElement>(selector)].filter(
          (one) => one.checkVisibility() && !one.matches(":disabled") && !one.textContent?.includes("Bring it here"),
        );
        document.querySelector("[data-chosen]")?.removeAttribute("data-chosen");
        const one = all[Math.floor(chance * all.length)];
        one?.setAttribute("data-chosen", "");
        const options = one instanceof HTMLSelectElement ? [...one.options].filter((option) => !option.disabled) : [];
        const isText = one?.matches("textarea, input:not([type=checkbox], [type=radio], [type=range])") ?? false;
        const name = one?.getAttribute("aria-label") ?? one?.textContent?.slice(0, 40) ?? "nothing";
        return { name, isText, values: options.map(({ value }) => value) };
      },
      within,
      where,
      which,
    );

  const doings: readonly (readonly [number, () => Promise<string>])[] = [
    [6, async () => cross(page, pick(places))],
    [10, async () => undoOrRedo(page, random() < 0.7, 1 + Math.floor(random() * 4))],
    [8, async () => press(page, pick(keys))],
    [4, async () => drag(page, [random(), random(), random(), random()])],
    [1, async () => reload(page)],
    [
      1,
      async () => {
        isFetched = !isFetched;
        return isFetched ? "all is fetched" : "no more parts are fetched";
      },
    ],
    [
      0.3,
      async () => {
        await session.send("Storage.clearDataForOrigin", { origin: url, storageTypes: "indexeddb" });
        return "the browser clears what it kept";
      },
    ],
    [
      70,
      async () => {
        const { name, isText, values } = await choose(random(), random());
        if (values.length > 0) {
          const value = pick(values);
          await page.select("[data-chosen]", value).catch(() => {});
          return `“${name}”: ${value}`;
        }
        if (!isText) {
          await page.evaluate(() => document.querySelector<HTMLElement>("[data-chosen]")?.click());
          return `“${name}”`;
        }
        const word = pick(words);
        await page.evaluate(() => document.querySelector<HTMLInputElement>("[data-chosen]")?.select());
        await page.keyboard.type(word);
        return `“${name}”: ${word}, ${await press(page, pick<KeyInput>(["Enter", "Tab", "Escape"]))}`;
      },
    ],
  ];
  /** Each as many times as it weighs, in tenths. */
  const bag = doings.flatMap(([weight, act]) => Array.from({ length: Math.round(10 * weight) }, () => act));

  const faults: string[] = [];
  const done: string[] = [];
  for (let step = 0; step < steps; step += 1) {
    done.push(await pick(bag)().catch((error) => `failed: ${String(error).split("\n")[0]}`));
    if (random() < 0.3) await pause(60);
    if (step % 20 < 19 && step < steps - 1) continue;
    const wasFetched = isFetched;
    isFetched = true;
    const isStanding =
      !wasFetched || (await page.waitForFunction(isWell, { timeout: 10_000 }).then(Boolean, () => false));
    const said = complaints
      .splice(0)
      .filter((one) => !/Failed to load|Failed to fetch|ERR_|could not be fetched/.test(one));
    if (!isStanding) said.push(`Nothing stands at ${page.url()}`);
    for (const one of said) faults.push(`step ${step}: ${one.slice(0, 400)}\n  after ${done.slice(-10).join(" | ")}`);
    if (!isStanding) await page.goto(`${url}/`, { waitUntil: "load" });
  }
  await browser.close();
  server.kill();
  return faults;
}

async function cross(page: Page, place: string): Promise<string> {
  await page.evaluate(
    (to) => document.querySelector<HTMLElement>(`nav a[href="${to}"], a[href="${to}"]`)?.click(),
    place,
  );
  await pause(150);
  return `to ${place}`;
}

async function undoOrRedo(page: Page, isUndo: boolean, times: number): Promise<string> {
  await page.keyboard.down("Control");
  for (let time = 0; time < times; time += 1) await page.keyboard.press(isUndo ? "KeyZ" : "KeyY");
  await page.keyboard.up("Control");
  return `${times} ${isUndo ? "undone" : "done again"}`;
}

async function press(page: Page, key: KeyInput): Promise<string> {
  await page.keyboard.press(key);
  return `key ${key}`;
}

async function drag(page: Page, shares: readonly number[]): Promise<string> {
  const [x = 0, y = 0, toX = 0, toY = 0] = shares.map((share, at) =>
    at % 2 === 0 ? 10 + share * 1260 : 60 + share * 700,
  );
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(toX, toY, { steps: 4 });
  await page.mouse.up();
  return `dragged ${[x, y, toX, toY].map(Math.round).join(", ")}`;
}

async function reload(page: Page): Promise<string> {
  await page.reload({ waitUntil: "load" });
  await page.waitForSelector("header button");
  return "loaded anew";
}
