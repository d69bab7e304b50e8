import { execFileSync, spawn } from "node:child_process";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import puppeteer from "puppeteer-core";
import { startServer } from "../e2e/served";

/**
 * `npm run kills -- COUNT BUSY`: kills the whole browser that many times in the middle of editing, and looks at what it has kept. Nothing that was done
 * more than a second before may be lost, and nothing of which it said “Saved”. BUSY programs that do nothing but count run beside it. A script, not a test: it
 * takes minutes, and needs a built site.
 */
const [count = 20, busy = 2] = process.argv.slice(2).map(Number);
const profile = mkdtempSync(join(tmpdir(), "vantel-kills-"));
const { url, server } = await startServer();
const busyOnes = Array.from({ length: busy }, () => spawn(process.execPath, ["-e", "for (;;);"], { stdio: "ignore" }));
const field = "input[aria-label='Name of the project']";
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** What the page tells while it is edited: the edit, when it was done, and the last one of which it said that it is saved. */
interface Said {
  readonly edit: number;
  readonly atMs: number;
  readonly saved: number;
}

let last = 0;
let pending: { readonly said: readonly Said[]; readonly killedMs: number } | undefined;
let [lost, broken, oldestLostMs] = [0, 0, 0];
try {
  for (let round = 0; round <= count; round += 1) {
    const browser = await puppeteer.launch({
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      headless: true,
      userDataDir: profile,
      args: ["--no-sandbox", "--no-first-run", "--disable-background-networking", "--disable-component-update"],
    });
    const page = await browser.newPage();
    page.setDefaultTimeout(90_000);
    await page.evaluateOnNewDocument("globalThis.__name = (named) => named");
    const said: Said[] = [];
    page.on("console", (message) => {
      if (message.text().startsWith("{")) said.push(JSON.parse(message.text()));
    });
    await page.goto(url, { waitUntil: "load" });
    await page.waitForSelector("[role=listbox] [role=option]");
    await page.click("header button[popovertarget]");
    await page.waitForSelector(field);
    const name = await page.$eval(field, (input) => (input as HTMLInputElement).value);
    const kept = Number(/^Edit (\d+)$/.exec(name)?.[1] ?? 0);
    if (round > 0) judge(round, kept);
    if (round === count) {
      await browser.close();
      break;
    }
    // Edits at uneven moments, until the kill comes.
    await page.evaluate(
      (from, seed, selector) => {
        const input = document.querySelector(selector) as HTMLInputElement;
        const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set;
        let [edit, saved, sawSaving, random, editedMs] = [from, from, 0, seed, Date.now()];
        const next = () => {
          random = (random * 16_807) % 2_147_483_647;
          return random / 2_147_483_647;
        };
        const tell = () => console.log(JSON.stringify({ edit, atMs: editedMs, saved }));
        const go = () => {
          input.focus();
          set?.call(input, `Edit ${edit + 1}`);
          input.dispatchEvent(new Event("input", { bubbles: true }));
          // What was typed must have been taken in before the field is left.
          setTimeout(() => {
            edit += 1;
            editedMs = Date.now();
            input.blur();
            tell();
            setTimeout(go, 30 + next() ** 3 * 1500);
          }, 15);
        };
        setInterval(() => {
          const words = [...document.querySelectorAll("[aria-live=polite]")].map((one) => one.textContent);
          // It stands there from the edit before, until the page has shown anything else.
          if (words.includes("Saving…")) sawSaving = edit;
          if (!words.includes("Saved") || saved === edit || sawSaving !== edit) return;
          saved = edit;
          tell();
        }, 20);
        go();
      },
      last,
      1 + round * 7919,
      field,
    );
    await wait(700 + Math.random() * 3500);
    const killedMs = Date.now();
    execFileSync("pkill", ["-9", "-f", profile]);
    pending = { said, killedMs };
    last = said.at(-1)?.edit ?? last;
    await wait(200);
  }
} finally {
  for (const one of busyOnes) one.kill();
  server.kill();
}
console.log(
  `${count} kills: ${lost} lost something older than a second${lost > 0 ? ` (${oldestLostMs} ms)` : ""}, ${broken} lost something that was said to be saved.`,
);
process.exitCode = lost + broken > 0 ? 1 : 0;

/** Holds what a browser has kept against what was done before it was killed. */
function judge(round: number, kept: number): void {
  const { said = [], killedMs = 0 } = pending ?? {};
  const mustBe = Math.max(0, ...said.filter(({ atMs }) => killedMs - atMs > 1000).map(({ edit }) => edit));
  const wasSaved = Math.max(0, ...said.map(({ saved }) => saved));
  const firstLost = said.find(({ edit }) => edit > kept);
  if (kept < mustBe) {
    lost += 1;
    oldestLostMs = Math.max(oldestLostMs, killedMs - (firstLost?.atMs ?? killedMs));
  }
  if (kept < wasSaved) broken += 1;
  if (kept < mustBe || kept < wasSaved)
    console.log(
      `kill ${round}: ${kept} kept, ${mustBe} were older than a second, ${wasSaved} were said to be saved, ${last} were done`,
    );
}
