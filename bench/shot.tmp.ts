import { openBrowser, openPage } from "../tests/e2e/browser";
import { handsOn } from "../tests/e2e/hands";
import { startServer } from "../tests/e2e/served";
const { url, server } = await startServer(); const browser = await openBrowser();
const { page } = await openPage(browser, url); const hands = handsOn(page);
for (const station of process.argv.slice(2)) { if (station!=="first") await hands.goTo(station); await hands.waitMs(1500); await page.screenshot({ path: `/tmp/shot-${station}.png` }); }
await browser.close(); server.kill();
