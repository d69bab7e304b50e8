import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import puppeteer, { type Browser, type Page } from "puppeteer-core";

/** How long anything on a page is waited for: the machine may be busy, and only what never comes is a fault. */
const patienceMs = 60_000;

/** Debian's Chromium, headless, with a fresh profile, no wish to call anybody, and no pages of its own behind its window: those took half of its start. */
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
      "--disable-features=WebUIOmniboxPopup,WebUIOmniboxAimPopup",
    ],
  });
}

/** The page that the tests of a file share: `sitting.ts` prints it when one fails. */
export let shared: { readonly page: Page; readonly complaints: string[] } | null = null;

/**
 * A page of the bench, opened and laid out. What the page complains about is kept in `complaints`.
 * Only who looks at it offline keeps it: in each fresh profile that fetches the whole of Vantel once.
 */
export async function openPage(
  browser: Browser,
  url: string,
  { isKept = false } = {},
): Promise<{ page: Page; complaints: string[] }> {
  const page = await browser.newPage();
  page.setDefaultTimeout(patienceMs);
  if (!isKept) await page.evaluateOnNewDocument("delete Navigator.prototype.serviceWorker");
  // Some runners name functions with a helper that the page does not have.
  await page.evaluateOnNewDocument("globalThis.__name = (named) => named");
  const complaints: string[] = [];
  page.on("pageerror", (error) => complaints.push(String(error)));
  page.on("console", (message) => {
    if (message.type() === "error") complaints.push(message.text());
  });
  await page.goto(url, { waitUntil: "load" });
  await page.waitForSelector("[role=listbox] [role=option]");
  shared = { page, complaints };
  return { page, complaints };
}
