import type { Browser, Page } from "puppeteer-core";
import type { handsOn } from "./e2e/hands";
import { type Phone, phoneOf } from "./e2e/phone";

type Hands = ReturnType<typeof handsOn>;

/** Lets phones in at the station Remote, as somebody does who reads the codes off the screen. */
export async function phonesAt(hands: Hands, page: Page, names: readonly string[]): Promise<readonly Phone[]> {
  await page.click("[role=tab]:nth-child(2)");
  await page.waitForSelector("[data-address]");
  // From the picture before.
  if (await page.evaluate(() => document.body.textContent?.includes("Others are let in."))) {
    await hands.press("Let nobody in any more");
    await page.waitForFunction(() => document.body.textContent?.includes("No device is let in."));
  }
  await hands.press("Let others in");
  await page.waitForFunction(() => document.body.textContent?.includes("Others are let in."));
  const phones: Phone[] = [];
  for (const name of names) {
    await hands.press("Show a code");
    const code = await (await page.waitForSelector("[data-code]"))?.evaluate((element) => element.textContent ?? "");
    const address = await page.$eval("[data-address]", (element) => element.textContent ?? "");
    const phone = await phoneOf(page.browser(), `${address}#${code}`);
    await phone.pair("", name);
    await phone.untilThere();
    phones.push(phone);
    await page.waitForFunction(() => !document.querySelector("[data-code]"));
  }
  return phones;
}

/** Several pictures beside one another on paper, as one. */
export async function beside(browser: Browser, pictures: readonly Uint8Array[], path: string): Promise<void> {
  const page = await browser.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  const images = pictures.map(
    (one) =>
      `<img src="data:image/png;base64,${Buffer.from(one).toString("base64")}" style="max-height:740px;max-width:740px;border:6px solid #2a241b;border-radius:26px">`,
  );
  await page.setContent(
    `<body style="margin:0;height:800px;display:flex;gap:48px;align-items:center;justify-content:center;background:#d9ccb0">${images.join("")}</body>`,
  );
  await page.screenshot({ path: path as `${string}.png` });
}
