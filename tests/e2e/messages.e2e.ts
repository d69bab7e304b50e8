import type { ChildProcess } from "node:child_process";
import { createSocket } from "node:dgram";
import type { MqttClient } from "mqtt";
import { encode, Message } from "node-osc";
import type { Browser, Page } from "puppeteer-core";
import { Packet } from "sacn";
import { afterAll, beforeAll, expect, test } from "vitest";
import { clientAt, kill, startBroker } from "./broker";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { freePort, startServer } from "./served";
import { insist, stays, still } from "./waiting";
import "./sitting";

/** Other machines: a real broker, a show desk, a lighting desk, and the handset that is not there. */
let browser: Browser;
let page: Page;
let hands: ReturnType<typeof handsOn>;
let server: ChildProcess;
let broker: ChildProcess;
let other: MqttClient;
let brokerPort: number;
let sacnPort: number;

beforeAll(async () => {
  [brokerPort, sacnPort] = [await freePort(), await freePort()];
  broker = await startBroker(brokerPort);
  other = await clientAt(brokerPort);
  process.env.SACN_PORT = String(sacnPort);
  const started = await startServer();
  server = started.server;
  browser = await openBrowser();
  ({ page } = await openPage(browser, `${started.url}/remote`));
  hands = handsOn(page);
});
afterAll(async () => {
  await browser.close();
  other.end(true);
  server.kill();
  broker.kill();
});

const tab = (place: number) => page.click(`[role=tab]:nth-child(${place})`);
const target = async (jointId: string): Promise<number> =>
  Number(/(−?[\d.]+)°/.exec(await hands.rackText(jointId))?.[1]?.replace("−", "-"));
const untilTarget = (jointId: string, wanted: number) =>
  page.waitForFunction(
    (id, deg) => {
      const text = document.querySelector(`[data-joint="${id}"]`)?.textContent ?? "";
      return Math.abs(Number(/(−?[\d.]+)°/.exec(text)?.[1]?.replace("−", "-")) - deg) < 0.3;
    },
    {},
    jointId,
    wanted,
  );
const untilSays = (words: string) =>
  page.waitForFunction((wanted) => document.body.textContent?.includes(wanted), {}, words);
let seq = 0;
const say = (name: string, value: number) =>
  other.publish(`vantel/bench/in/${name}`, JSON.stringify({ value, seq: ++seq, at: Date.now(), from: "shelf" }));
/** Turns the knob on the shelf so, and waits for the neck. A hand goes on saying where it is: what a slow machine hands on too late is dropped. */
async function turnTo(value: number, deg: number) {
  await insist(
    async () => say("knob", value),
    async () => Math.abs((await target("neck-turn")) - deg) < 0.3,
    1500,
  );
}
/** Leads a source to a joint over its whole travel. */
async function lead(source: string, jointLabel: string) {
  await hands.goTo("inputs");
  await hands.choose("Lead from", source);
  await hands.choose("Lead to", jointLabel);
  await hands.goTo("remote");
}

test("the bench is at a real broker; what is moved there stands here, and becomes a source with one click", async () => {
  await tab(3);
  await hands.choose("Through", "a broker of your own");
  await hands.type("Address of the broker", `mqtt://127.0.0.1:${brokerPort}`);
  await untilSays(`At mqtt://127.0.0.1:${brokerPort}`);
  const heard = new Promise<{ topic: string; isRetained: boolean }>((resolve) => {
    other.on("message", (topic, _, { retain }) => {
      if (topic.includes("joint/neck-turn")) resolve({ topic, isRetained: retain });
    });
  });
  other.subscribe("vantel/bench/out/#");
  expect((await heard).topic).toBe("vantel/bench/out/joint/neck-turn");
  say("knob", 700);
  await hands.press("Make a source of message “in/knob”");
  await lead("knob", "Neck turn");
  await turnTo(750, 40);
});

test("what the broker has kept moves nothing, and the log says so", async () => {
  await hands.choose("Through", "nothing: it is shut");
  await untilSays("is gone: knob do as was set");
  await other.publishAsync("vantel/bench/in/knob", "0", { retain: true, qos: 1 });
  await hands.choose("Through", "a broker of your own");
  await untilSays(`At mqtt://127.0.0.1:${brokerPort}`);
  await tab(5);
  await untilSays("What the broker had kept moves nothing");
  expect(await target("neck-turn")).toBe(40);
  await tab(3);
  await turnTo(500, 0);
  other.publish("vantel/bench/in/knob", "", { retain: true });
});

test("the broker dies in motion and comes back: no jump, nothing kept moves, and then it goes on softly", async () => {
  const stream = setInterval(() => say("knob", 880 + (seq % 3) * 20), 50);
  await page.waitForFunction(() => document.querySelector('[data-joint="neck-turn"]')?.textContent?.includes("6"));
  await kill(broker);
  clearInterval(stream);
  // Said to nobody: it is sent when the broker is back, and comes late.
  for (let at = 0; at < 5; at += 1) say("knob", 100);
  await untilSays("Trying again…");
  const stood = await still(() => target("neck-turn"), 500);
  broker = await startBroker(brokerPort);
  await untilSays(`At mqtt://127.0.0.1:${brokerPort}`);
  expect(stood).toBeGreaterThan(55);
  expect(await stays(() => target("neck-turn"), 1500)).toBe(stood);
  const beganMs = Date.now();
  await turnTo(100, -64);
  expect(Date.now() - beganMs).toBeGreaterThan(350);
});

test("a sender's last will: its source has vanished, and is back when it speaks again", async () => {
  other.publish("vantel/bench/here/shelf", "0");
  await untilSays("shelf is gone: knob do as was set");
  await turnTo(500, 0);
});

test("poses are for those only that may; a release is for everybody", async () => {
  other.publish("vantel/bench/do/pose", "Look left");
  await tab(5);
  await page.waitForFunction(() =>
    document.querySelector("table")?.textContent?.includes("may not ask for “pose Look left”"),
  );
  expect(await target("neck-turn")).toBe(0);
  await tab(3);
  await page.evaluate(() => {
    const label = [...document.querySelectorAll("label")].find((one) => one.textContent === "Look left");
    label?.querySelector("input")?.click();
  });
  // The bench's worker hears of the right a moment later: who asked too early asks again.
  await insist(
    () => other.publishAsync("vantel/bench/do/pose", JSON.stringify({ pose: "Look left", ms: 300 })),
    async () => (await target("neck-turn")) < -1,
    500,
  );
  await untilTarget("neck-turn", -55);
  other.publish("vantel/bench/do/release", "");
  await page.waitForFunction(() => document.querySelector('[data-joint="neck-turn"]')?.textContent?.includes("limp"));
  await hands.press("Hold all (12 limp)");
});

test("a show desk over OSC and a lighting desk over sACN: move it, then choose", async () => {
  await page.click("[aria-label='OSC door']");
  const oscPort = await freePort();
  await hands.type("UDP port", String(oscPort));
  await page.click("[aria-label='sACN door']");
  await untilSays(`At 127.0.0.1:${oscPort}`);
  await untilSays(`UDP port ${sacnPort} of this computer alone`);
  const udp = createSocket("udp4");
  // And the bench says to a desk how it stands.
  const said = new Promise<string>((resolve) => udp.on("message", (packet) => resolve(packet.toString("latin1"))));
  await new Promise<void>((resolve) => udp.bind(0, "127.0.0.1", resolve));
  await hands.type("States are said to", `127.0.0.1:${udp.address().port}`);
  const osc = (value: number) => udp.send(encode(new Message("/desk/fader", value)), oscPort, "127.0.0.1");
  await insist(
    (times) => Promise.resolve(osc(0.4 + (times % 2) / 10)),
    () => hands.isThere("Make a source of /desk/fader"),
    100,
  );
  await hands.press("Make a source of /desk/fader");
  await lead("/desk/fader", "Beak");
  osc(1);
  await untilTarget("beak", 35);
  expect(await said).toContain("/vantel/bench/out/joint/");
  let sequence = 0;
  const slots = (payload: Record<number, number>) =>
    udp.send(
      new Packet({ universe: 1, sequence: ++sequence, payload, useRawDmxValues: true }).buffer,
      sacnPort,
      "127.0.0.1",
    );
  await insist(
    (times) => Promise.resolve(slots({ 3: 10 + (times % 2) * 10 })),
    () => hands.isThere("Make a source of universe 1, slot 3"),
    50,
  );
  await hands.press("Make a source of universe 1, slot 3");
  await lead("universe 1, slot 3", "Ear tuft");
  slots({ 3: 255 });
  await page.waitForFunction(() => document.querySelector('[data-joint="ear-tuft"]')?.textContent?.includes("input"));
  udp.close();
  // The desk is silent now: its slot has vanished, as the standard says.
  await untilSays("is gone: universe 1, slot 3 do as was set");
});

test("the handset can be tried alone: its stick moves a joint, and far away it vanishes", async () => {
  await tab(4);
  await page.click("[aria-label='Handset switched on']");
  await hands.press("Make sources of its parts");
  await lead("Handset, across", "Neck turn");
  await tab(4);
  const stick = await hands.find("Stick of the handset");
  await stick.focus();
  for (let at = 0; at < 6; at += 1) await page.keyboard.press("ArrowRight");
  await untilTarget("neck-turn", 48);
  await page.$eval("[aria-label='Distance of the handset']", (input) => {
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set;
    set?.call(input, "70");
    input.dispatchEvent(new Event("input", { bubbles: true }));
  });
  await hands.goTo("inputs");
  await page.waitForFunction(() =>
    [...document.querySelectorAll("[data-source]")].some(
      (one) => one.querySelector("input")?.value === "Handset, across" && one.textContent?.includes("gone"),
    ),
  );
});
