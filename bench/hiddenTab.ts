import { existsSync } from "node:fs";
import { openBrowser, openPage } from "../tests/e2e/browser";
import { handsOn } from "../tests/e2e/hands";
import { startServer } from "../tests/e2e/served";
import { pause } from "../tests/e2e/waiting";

const hiddenMs = 20_000;

/** How late the ticks of the bench are while a routine plays and its tab is hidden, as the bench itself counts them. */
export async function hiddenTab(): Promise<string[]> {
  if (!existsSync("dist/server/vantel.mjs")) return ["The site is not built: run bin/start or npm run build first."];
  const { url, server } = await startServer();
  const browser = await openBrowser();
  try {
    const { page } = await openPage(browser, `${url}/routine`);
    const hands = handsOn(page);
    await hands.press("Carry a tray");
    await hands.press("Play");
    await hands.press("3 simulated boards, live");
    await page.waitForSelector("[data-readout=cadence]");
    const other = await browser.newPage();
    await other.goto("about:blank");
    await other.bringToFront();
    await pause(hiddenMs);
    const before = await hands.textOf("[data-readout=cadence]");
    await page.bringToFront();
    // The first words after it has come back are still about the time when it was hidden.
    const read = await page.waitForFunction(
      (old) => {
        const text = document.querySelector("[data-readout=cadence]")?.textContent;
        return text !== old && text;
      },
      { polling: "raf" },
      before,
    );
    const text = await read.jsonValue();
    return [`hidden for ${hiddenMs / 1000} s: ${text} (aim: 99 of 100 within 3 ms)`];
  } finally {
    await browser.close();
    server.kill();
  }
}
