import { openBrowser, openPage } from "./tests/e2e/browser";
import { startServer } from "./tests/e2e/served";
import { handsOn } from "./tests/e2e/hands";
const { url, server } = await startServer();
const b = await openBrowser(); const { page, complaints } = await openPage(b, url + "/routine", { timesFaster: 8 }); const hands = handsOn(page);
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
const c = await page.createCDPSession();
await hands.press("Settings").catch(() => {});
await page.evaluate(() => [...document.querySelectorAll("[role=tab]")].find((t) => t.textContent === "Settings")?.dispatchEvent(new MouseEvent("click", { bubbles: true })));
console.log(await page.evaluate(() => [...document.querySelectorAll("main select, main label")].map((e) => e.textContent?.slice(0, 60)).join(" | ").slice(0, 800)));
await page.evaluate(() => { for (const s of document.querySelectorAll("main select") as any) { const o = [...s.options].find((x: any) => /ever/.test(x.textContent)); if (o) { s.value = o.value; s.dispatchEvent(new Event("change", { bubbles: true })); } } });
await wait(1500); console.log(await page.evaluate(() => { const b = [...document.querySelectorAll("main button")].filter((x) => /play/i.test(x.textContent ?? "")); (b[0] as any)?.click(); return b.map((x) => x.textContent).join("|"); }));
const w = page.workers().find((o) => /benchWorker|blob/.test(o.url()))!;
const measure = async () => {
  await c.send("HeapProfiler.enable"); await c.send("HeapProfiler.collectGarbage");
  const { usedSize } = await c.send("Runtime.getHeapUsage");
  const wc = (w as any).client; await wc.send("HeapProfiler.enable"); await wc.send("HeapProfiler.collectGarbage"); const wu = await wc.send("Runtime.getHeapUsage");
  const dom = await c.send("Memory.getDOMCounters");
  console.log(new Date().toISOString().slice(11, 19), "page", (usedSize / 1e6).toFixed(2), "worker", (wu.usedSize / 1e6).toFixed(2), JSON.stringify(dom), await page.evaluate(() => document.querySelector("header")?.innerText.replace(/\n/g, " ").slice(0, 120)));
};
for (let k = 0; k < 7; k++) { await wait(30_000); await measure(); }
console.log(complaints);
await b.close(); server.kill(); process.exit();
