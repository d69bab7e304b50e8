import { existsSync } from "node:fs";
import { openBrowser, openPage } from "../tests/e2e/browser";
import { handsOn } from "../tests/e2e/hands";
import { startServer } from "../tests/e2e/served";
import { pause } from "../tests/e2e/waiting";

const moves = 600;

/** From the moment a knob is moved in Chromium to the moment the frame with its pulse has left: measured by the page itself. */
export async function inputLag(): Promise<string[]> {
  if (!existsSync("dist/server/vantel.mjs")) return ["The site is not built: run bin/start or npm run build first."];
  const { url, server } = await startServer();
  const browser = await openBrowser();
  try {
    const { page } = await openPage(browser, `${url}/inputs`);
    const hands = handsOn(page);
    await hands.press("Seen");
    await (await hands.find("Bench knob")).focus();
    for (let move = 0; move < moves; move += 1) {
      await page.keyboard.press(move % 2 === 0 ? "ArrowUp" : "ArrowDown");
      await pause(7 + (move % 11));
    }
    const text = await hands.textOf("[data-readout=lead]");
    const [, middle, most] = /pulse(\d+) ms in the middle, 99 of 100 under (\d+) ms/.exec(text) ?? [];
    return [`${middle} ms in the middle (aim: under a frame of 20 ms), 99 of 100 under ${most} ms (aim: two frames)`];
  } finally {
    await browser.close();
    server.kill();
  }
}
