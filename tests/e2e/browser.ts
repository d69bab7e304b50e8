import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import puppeteer, { type Browser, type Page } from "puppeteer-core";

/** Debian's Chromium, headless, with a fresh profile and no wish to call anybody. */
export function openBrowser(): Promise<Browser> {
  return puppeteer.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    headless: true,
    userDataDir: mkdtempSync(join(tmpdir(), "vantel-browser-")),
    defaultViewport: { width: 1280, height: 800 },
    args: [
      "--no-sandbox",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
  });
}

/** The page that the tests of a file share, and where it was opened: see `again.ts`. */
export let shared: { readonly page: Page; readonly url: string; readonly complaints: string[] } | null = null;

/** A page of the bench, opened and laid out. What the page complains about is kept in `complaints`. */
export async function openPage(browser: Browser, url: string): Promise<{ page: Page; complaints: string[] }> {
  const page = await browser.newPage();
  // Some runners name functions with a helper that the page does not have.
  await page.evaluateOnNewDocument("globalThis.__name = (named) => named");
  const complaints: string[] = [];
  page.on("pageerror", (error) => complaints.push(String(error)));
  page.on("console", (message) => {
    if (message.type() === "error") complaints.push(message.text());
  });
  await page.goto(url, { waitUntil: "load" });
  await page.waitForSelector("[role=listbox] [role=option]", { timeout: 20_000 });
  shared = { page, url, complaints };
  return { page, complaints };
}

/** The page as on a first visit: nothing kept, nothing held. */
export async function openAnew(): Promise<void> {
  if (!shared) return;
  const { page, url, complaints } = shared;

  // A page of the site without the bench: nothing holds the data while it is thrown away.
  await page.goto(new URL("/api/health", url).href);
  await page.evaluate(async () => {
    localStorage.clear();
    for (const { name } of await indexedDB.databases())
      await new Promise((resolve) => {
        const thrown = indexedDB.deleteDatabase(name ?? "");
        thrown.onsuccess = thrown.onerror = thrown.onblocked = resolve;
      });
  });
  await page.goto(url, { waitUntil: "load" });
  await page.waitForSelector("[role=listbox] [role=option]", { timeout: 60_000 });
  // What the plain page in between lacked is nobody’s complaint.
  complaints.length = 0;
}
