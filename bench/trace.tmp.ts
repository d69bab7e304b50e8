import { writeFileSync } from "node:fs";
import { openBrowser, openPage } from "../tests/e2e/browser";
import { handsOn } from "../tests/e2e/hands";
import { startServer } from "../tests/e2e/served";
const { url, server } = await startServer(); const browser = await openBrowser();
const { page } = await openPage(browser, url); const hands = handsOn(page);
const play = process.argv[2]==="play";
if (play) { await hands.goTo("routine"); await hands.press("Play"); await page.$eval("a[href='/']", (h) => (h as HTMLElement).click()); await page.waitForFunction(() => location.pathname === "/"); }
await hands.waitMs(3000);
const c = await page.createCDPSession(); await c.send("Performance.enable");
const read = async () => new Map((await c.send("Performance.getMetrics")).metrics.map(({ name, value }) => [name, value]));
const a = await read(); await hands.waitMs(4000); const b = await read();
for (const n of ["LayoutDuration","RecalcStyleDuration","ScriptDuration","V8CompileDuration","TaskDuration","TaskOtherDuration","LayoutCount","RecalcStyleCount"]) console.log(n, ((b.get(n)!-a.get(n)!)/(b.get("Timestamp")!-a.get("Timestamp")!)).toFixed(4));
await page.tracing.start({ path: "/tmp/trace.json", categories: ["devtools.timeline","disabled-by-default-devtools.timeline","cc","blink"] }); await hands.waitMs(3000); await page.tracing.stop();
await c.send("Profiler.enable"); await c.send("Profiler.start"); await hands.waitMs(3000); const { profile } = await c.send("Profiler.stop");
const self:Record<string,number>={}; const by=new Map(profile.nodes.map(n=>[n.id,n])); profile.samples!.forEach((s,i)=>{const f=by.get(s)!.callFrame; const k=f.functionName+" "+f.url.split("/").at(-1)+":"+f.lineNumber+":"+f.columnNumber; self[k]=(self[k]??0)+profile.timeDeltas![i]/1000;});
console.log(Object.entries(self).sort((x,y)=>y[1]-x[1]).slice(0,12).map(([k,v])=>v.toFixed(0)+" "+k).join("\n"));
await browser.close(); server.kill();
