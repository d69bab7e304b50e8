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
 * Lets time pass faster in the bench worker of this window, by its clock and its timers: a servo on its way for a minute is there in 20 s. All that is
 * worked out stays as it is, frame by frame. What the worker is told before it is ready is kept for it.
 */
function hurryBench(timesFaster: number): void {
  const Steady = window.Worker;
  window.Worker = class extends Steady {
    constructor(url: string | URL, options?: WorkerOptions) {
      const { href } = new URL(url, location.href);
      const hurried = `
        const [now, later] = [performance.now.bind(performance), setTimeout];
        performance.now = () => now() * ${timesFaster};
        globalThis.setTimeout = (call, ms = 0, ...rest) => later(call, ms / ${timesFaster}, ...rest);
        const told = [];
        self.onmessage = ({ data }) => told.push(data);
        await import(${JSON.stringify(href)});
        for (const data of told) self.onmessage({ data });`;
      const isBench = href.includes("benchWorker");
      super(isBench ? URL.createObjectURL(new Blob([hurried], { type: "text/javascript" })) : url, options);
    }
  };
}

/** Keeps the sentences that the page shows for a while, each with its moment: they are gone when a test that failed is looked into. */
function keepWhatIsSaid(): void {
  const said: string[] = [];
  Object.assign(window, { said });
  const keep = (node: Node) => {
    const isNotice = node instanceof HTMLElement && node.parentElement?.ariaLive === "polite";
    if (isNotice) said.push(`${Math.round(performance.now())} ms: ${node.textContent}`);
  };
  new MutationObserver((changes) => {
    for (const { addedNodes } of changes) addedNodes.forEach(keep);
  }).observe(document, { childList: true, subtree: true });
}

/**
 * A page of the bench, opened and laid out. What the page complains about is kept in `complaints`.
 * Only who looks at it offline keeps it: in each fresh profile that fetches the whole of Vantel once. Only who waits for nothing but servos hurries them.
 */
export async function openPage(
  browser: Browser,
  url: string,
  { isKept = false, timesFaster = 1 } = {},
): Promise<{ page: Page; complaints: string[] }> {
  const page = await browser.newPage();
  page.setDefaultTimeout(patienceMs);
  if (timesFaster !== 1) {
    await page.setBypassCSP(true);
    await page.evaluateOnNewDocument(hurryBench, timesFaster);
  }
  if (!isKept) await page.evaluateOnNewDocument("delete Navigator.prototype.serviceWorker");
  // Some runners name functions with a helper that the page does not have.
  await page.evaluateOnNewDocument("globalThis.__name = (named) => named");
  await page.evaluateOnNewDocument(keepWhatIsSaid);
  // Asked whether they mean to leave servos hanging, these people do.
  page.on("dialog", (dialog) => void dialog.accept().catch(() => {}));
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
