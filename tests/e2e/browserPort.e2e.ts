import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { channelGroupsOf } from "@core/signal";
import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { openBrowser, openPage } from "./browser";
import { handsOn } from "./hands";
import { RealBoard } from "./realBoard";
import { freePort } from "./served";
import { insist, stays, still } from "./waiting";

const fern = byId(demoProject().boards, "fern");
let board: RealBoard;
let tcp: number;
let browser: Browser;
let page: Page;

/**
 * A stand-in of the shape of Web Serial, since no port can be chosen in a browser without a monitor: one port, whose bytes go to the firmware by a socket of
 * the server. It stands in the window, where a port is asked for, and in the worker, where it is used.
 */
function standIn(tcpPort: number) {
  type Controller = ReadableStreamDefaultController<Uint8Array>;
  const state = {
    isPluggedIn: true,
    controller: null as Controller | null,
    socket: null as WebSocket | null,
    speeds: [] as number[],
  };
  const port = {
    readable: null as ReadableStream<Uint8Array> | null,
    writable: null as WritableStream<Uint8Array> | null,
    getInfo: () => ({ usbVendorId: 0x0f0f, usbProductId: 0x0a0a }),
    async open({ baudRate }: { baudRate: number }) {
      if (port.readable) throw Object.assign(new Error("The port is already open."), { name: "InvalidStateError" });
      state.speeds.push(baudRate);
      const socket = new WebSocket(`${location.origin.replace(/^http/, "ws")}/api/wire`);
      socket.binaryType = "arraybuffer";
      state.socket = socket;
      const timer = setInterval(() => socket.readyState === 1 && socket.send('{"kind":"here"}'), 500);
      port.readable = new ReadableStream({
        start(controller) {
          state.controller = controller;
        },
      });
      port.writable = new WritableStream({
        write: (bytes) => void (socket.readyState === 1 && socket.send(bytes as Uint8Array<ArrayBuffer>)),
      });
      socket.onmessage = ({ data }) => {
        if (typeof data !== "string") state.controller?.enqueue(new Uint8Array(data));
      };
      socket.onclose = () => clearInterval(timer);
      await new Promise<void>((done) => {
        socket.onopen = () => {
          socket.send(
            JSON.stringify({ kind: "open", wire: { kind: "tcp", host: "127.0.0.1", port: tcpPort }, lastWords: "" }),
          );
          done();
        };
      });
    },
    async close() {
      if (port.readable?.locked || port.writable?.locked) throw new TypeError("Cannot close a port that is in use.");
      port.readable = port.writable = null;
      state.socket?.close();
    },
  };
  const serial = {
    requestPort: async () => port,
    getPorts: async () => (state.isPluggedIn ? [port] : []),
    /** As when its cable is pulled. */
    unplug() {
      state.isPluggedIn = false;
      state.controller?.error(Object.assign(new Error("The device has been lost."), { name: "NetworkError" }));
      state.socket?.close();
    },
    plugIn() {
      state.isPluggedIn = true;
    },
  };
  Object.defineProperty(navigator, "serial", { value: serial, configurable: true });
}

beforeAll(async () => {
  tcp = await freePort();
  board = new RealBoard(fern, channelGroupsOf(fern), tcp);
  await board.start();
  browser = await openBrowser();
  ({ page } = await openPage(browser, `${inject("baseUrl")}/drive`));
});
afterAll(async () => {
  await board.kill();
  await browser?.close();
});

const worker = () => {
  const found = page.workers().find((one) => one.url().includes("benchWorker"));
  if (!found) throw new Error("The bench has no worker.");
  return found;
};
const headerSays = (words: string) =>
  page.waitForFunction((wanted) => document.querySelector("header")?.textContent?.includes(wanted), {}, words);

test("a port of this browser is asked for, opened in the worker, and drives the same firmware; its cable pulled and put in again", async () => {
  const hands = handsOn(page);
  await page.evaluate(standIn, tcp);
  await worker().evaluate("globalThis.__name = (named) => named");
  await worker().evaluate(standIn, tcp);
  await hands.press("3 simulated boards, live");
  await hands.press("Choose its wire");
  await hands.choose("The wire to Fern", "A serial port of this browser");
  await hands.press("Choose a port…");
  await hands.press("Open the port 0f0f:0a0a of this browser");
  await headerSays("1 board and 2 simulated, live");
  await page.keyboard.press("Escape");
  await hands.untilRack("neck-turn", "limp");
  expect(board.pulses).toEqual([]);
  await hands.select("neck-turn");
  // A machine that stands still just then has the board let go again.
  await insist(
    async () => {
      if ((await hands.rackText("neck-turn")).includes("limp")) await page.keyboard.press("h");
    },
    () => board.pulses.length > 10,
    4000,
  );

  await worker().evaluate("navigator.serial.unplug()");
  await headerSays("Fern is not connected");
  // Half a second of silence, and the board has let go by itself.
  const seen = await still(() => board.pulses.length, 300);
  await worker().evaluate("navigator.serial.plugIn()");
  await headerSays("1 board and 2 simulated, live");
  await hands.untilRack("neck-turn", "limp");
  await stays(() => board.pulses.length, 300);
  expect(board.pulses.length).toBe(seen);
});

test("the browser takes the permission back: words say so, and the port is chosen again", async () => {
  const hands = handsOn(page);
  await hands.press("1 board and 2 simulated, live");
  await worker().evaluate("navigator.serial.unplug()");
  await hands.until(
    () => document.body.textContent?.includes("this browser may not use it any more. Choose it again.") ?? false,
  );
  await worker().evaluate("navigator.serial.plugIn()");
  await headerSays("1 board and 2 simulated, live");
  expect(await hands.rackText("neck-turn")).toContain("limp");
});
