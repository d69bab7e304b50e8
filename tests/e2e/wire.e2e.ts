import { appendFileSync } from "node:fs";
import { channelGroupsOf } from "@core/signal";
import { seededRandom } from "@core/sim";
import type { Browser, Page } from "puppeteer-core";
import { afterAll, beforeAll, expect, inject, test } from "vitest";
import { WebSocket } from "ws";
import { openBrowser, openPage } from "./browser";
import { expectNoJump, fern, headerOf, holdAll, openItsWire, playOn } from "./fernOnWire";
import { handsOn } from "./hands";
import { countsIn, RealBoard } from "./realBoard";
import { startServer } from "./served";
import { insist, paced, pause, stays, still, until } from "./waiting";

const board = new RealBoard(fern);

let browser: Browser;
let page: Page;
const headerSays = (words: string) => headerOf(page, words);

beforeAll(async () => {
  await board.start();
  browser = await openBrowser();
  ({ page } = await openPage(browser, `${inject("baseUrl")}/routine`));
});
afterAll(async () => {
  await board.kill();
  await browser?.close();
});

/** Holds all until there are more pulses than so many: again, if a machine that stood still has let the board go meanwhile. */
const heldSince = (pulses: number) =>
  insist(
    () => holdAll(page),
    () => board.pulses.length > pulses,
    4000,
  );

test("a board on a serial port of the server is chosen and opened; nothing moves by that", async () => {
  const hands = handsOn(page);
  await openItsWire(page, board.port);
  await headerSays("1 board and 2 simulated, live");
  await hands.until(() =>
    /\d+ frames a second taken/.test(document.querySelector("[data-readout=health]")?.textContent ?? ""),
  );
  await hands.untilRack("neck-turn", "limp");
  expect(board.pulses).toEqual([]);
  await page.keyboard.press("Escape");
});

test("while Owl wakes plays, every pulse on a pin is the count of the last frame that had come, in its window, and frames keep their period", async () => {
  const hands = handsOn(page);
  // All that came out is looked at, also of a go that was cut short.
  const isOver = async () => (await hands.textOf("header")).includes("In your hands");
  await playOn(page, async () => board.pulses.length >= 1000 && (await isOver()));
  const group = channelGroupsOf(fern)[0];
  if (!group) throw new Error("Fern has no channels.");
  const countNs = (group.atHighest - group.atLowest) / (group.highestCount - group.lowestCount);
  // The pins are read before the lines: the board goes on meanwhile, and a pulse must find the frame that it came from.
  const { pulses } = board;
  const frames = board.lines.flatMap(({ atNs, line }) => {
    const counts = countsIn(line);
    return counts ? [{ atNs, counts }] : [];
  });
  expect(pulses.length).toBeGreaterThan(1000);
  let at = 0;
  const moved = new Set<number>();
  for (const { channel, atNs, lengthNs } of pulses.toSorted((a, b) => a.atNs - b.atNs)) {
    // Each frame of the pins begins a whole number of periods after power-up.
    expect(atNs % group.periodNs).toBe(0);
    while (at + 1 < frames.length && (frames[at + 1]?.atNs ?? 0) <= atNs) at += 1;
    const count = frames[at]?.counts.get(channel) ?? Number.NaN;
    const told = group.atLowest + Math.trunc((count - group.lowestCount) * countNs);
    if (Math.abs(lengthNs - told) > 1) throw new Error(`Channel ${channel} at ${atNs}: ${lengthNs} ns, told ${told}.`);
    moved.add(count);
  }
  expect(moved.size).toBeGreaterThan(60);
  expectNoJump(board);
});

test("garbage on the line costs the lines it falls in, and nothing jumps", async () => {
  await paced(20, 30, async () =>
    appendFileSync(board.port, Buffer.from([0, 255, 10, 83, 32, 57, 32, 48, 58, 57, 57, 10, 200, 13])),
  );
  // What was said behind the garbage has been read.
  const frames = board.lines.length;
  await until(
    () => board.lines.length,
    (lines) => lines > frames + 10,
  );
  await headerSays("1 board and 2 simulated, live");
  expectNoJump(board);
});

test("a board that stands still for a second has let go, and hangs limp until a person holds it", async () => {
  const hands = handsOn(page);
  board.signal("SIGSTOP");
  await headerSays("Fern is silent");
  await pause(1000);
  board.signal("SIGCONT");
  await headerSays("1 board and 2 simulated, live");
  await hands.untilRack("neck-turn", "limp");
  await stays(() => board.pulses.length, 700);
  expectNoJump(board);
});

test("a board that dies is missed in words, and found again by itself when it is back; nothing is driven then", async () => {
  const hands = handsOn(page);
  await holdAll(page);
  await board.kill();
  await headerSays("Fern is not connected");
  await board.start();
  await headerSays("1 board and 2 simulated, live");
  await hands.untilRack("neck-turn", "limp");
  expect(await stays(() => board.pulses.length, 500)).toBe(0);
});

test("Release all reaches the pins within a frame and the way of the line", async () => {
  const hands = handsOn(page);
  await heldSince(board.pulses.length + 10);
  await page.keyboard.press("Escape");
  await hands.untilRack("neck-turn", "limp");
  await still(() => board.pulses.length, 300);
  const release = board.lines.findLast(({ line }) => line.startsWith("R "));
  const last = Math.max(...board.pulses.map(({ atNs }) => atNs));
  expect(release).toBeDefined();
  // Not one pulse begins once the line has come.
  expect(last).toBeLessThan(release?.atNs ?? 0);
});

test("whoever leaves a page that holds servos is asked first; loaded anew it lets the board go, and comes back limp", async () => {
  const hands = handsOn(page);
  await heldSince(board.pulses.length);
  const asked: string[] = [];
  page.on("dialog", (dialog) => asked.push(dialog.type()));
  await page.reload();
  await page.waitForSelector("[role=listbox] [role=option]");
  await headerSays("1 board and 2 simulated, live");
  await hands.untilRack("neck-turn", "limp");
  await stays(() => board.pulses.length, 500);
  expectNoJump(board);
  await page.reload();
  await headerSays("1 board and 2 simulated, live");
  expect(asked).toEqual(["beforeunload"]);
});

test("a page of another site, and one that calls the server by another name, reach no wire and no port", async () => {
  const { host, port } = new URL(inject("baseUrl"));
  const statusOf = (headers: Record<string, string>, origin?: string) =>
    new Promise<number>((resolve) => {
      const socket = new WebSocket(`ws://${host}/api/wire`, { headers, ...(origin && { origin }) });
      socket.on("unexpected-response", (_, answer) => resolve(answer.statusCode ?? 0));
      socket.on("open", () => resolve(101));
      socket.on("error", () => {});
    });
  expect(await statusOf({}, "http://garden.example")).toBe(403);
  expect(await statusOf({})).toBe(403);
  expect(await statusOf({ Host: `garden.example:${port}` }, `http://garden.example:${port}`)).toBe(403);
  expect(await statusOf({}, inject("baseUrl"))).toBe(101);
  const asked = await fetch(`${inject("baseUrl")}/api/ports`, { headers: { Origin: "http://garden.example" } });
  expect(asked.status).toBe(403);
  const health = await fetch(`${inject("baseUrl")}/`);
  expect(health.headers.get("content-security-policy")).toContain("default-src 'self'");
});

test("a page that says nothing for two seconds loses its wire, and the board is let go", async () => {
  const other = new RealBoard(fern);
  await other.start();
  const socket = new WebSocket(`${inject("baseUrl").replace("http", "ws")}/api/wire`, { origin: inject("baseUrl") });
  await new Promise((done) => socket.once("open", done));
  const lastWords = Buffer.from("R 1#DCA6\n").toString("hex");
  socket.send(
    JSON.stringify({ kind: "open", wire: { kind: "serverPort", path: other.port, bitsPerS: 115_200 }, lastWords }),
  );
  const told = await new Promise<string>((done) => socket.once("message", (data) => done(data.toString())));
  expect(told).toBe('{"kind":"open"}');
  socket.send(Buffer.from("V 2#3005\n"), { binary: true });
  const closed = new Promise((done) => socket.once("close", done));
  await closed;
  // The page hears of it before the board does.
  await until(
    () => other.lines.length,
    (lines) => lines >= 2,
  );
  expect(other.lines.map(({ line }) => line)).toEqual(["V 2#3005", "R 1#DCA6"]);
  await other.kill();
});

test("a page that says more than a wire carries loses it, and nothing comes behind the release", async () => {
  const other = new RealBoard(fern);
  await other.start();
  const socket = new WebSocket(`${inject("baseUrl").replace("http", "ws")}/api/wire`, { origin: inject("baseUrl") });
  await new Promise((done) => socket.once("open", done));
  const told: string[] = [];
  socket.on("message", (data, isBinary) => {
    if (!isBinary) told.push(data.toString());
  });
  const lastWords = Buffer.from("R 1#DCA6\n").toString("hex");
  const wire = { kind: "serverPort", path: other.port, bitsPerS: 115_200 };
  socket.send(JSON.stringify({ kind: "open", wire, lastWords }));
  await new Promise((done) => socket.once("message", done));
  const closed = new Promise((done) => socket.once("close", done));
  for (let times = 0; times < 200; times += 1) socket.send(Buffer.from("V 2#3005\n".repeat(3000)), { binary: true });
  await closed;
  // A board that has to read a flood on a busy machine comes to its end late.
  await until(
    () => other.lines.at(-1)?.line ?? "",
    (line) => line.startsWith("R"),
  );
  expect(told.at(-1)).toMatch(/does not keep up|more waits|More was sent/);
  expect(other.lines.at(-1)?.line).toBe("R 1#DCA6");
  await other.kill();
});

test("whatever pages say on such a socket, the server stands", async () => {
  const own = await startServer();
  const random = seededRandom(16);
  const pieces = [
    "{",
    "}",
    '"kind":"open"',
    '"wire":',
    "null",
    "[]",
    '{"kind":"here"}',
    '{"kind":"speed","bitsPerS":1e9}',
    '"lastWords":"zz"',
    ",",
  ];
  await Promise.all(
    Array.from({ length: 120 }, async () => {
      const socket = new WebSocket(`${own.url.replace("http", "ws")}/api/wire`, {
        origin: own.url,
      });
      socket.on("error", () => {});
      const isOpen = await Promise.race([
        new Promise<boolean>((done) => socket.once("open", () => done(true))),
        new Promise<boolean>((done) => socket.once("close", () => done(false))),
      ]);
      for (let times = 0; isOpen && times < 20 && socket.readyState === WebSocket.OPEN; times += 1) {
        const kind = random();
        const text = Array.from(
          { length: 1 + Math.floor(random() * 6) },
          () => pieces[Math.floor(random() * pieces.length)],
        ).join("");
        if (kind < 0.6) socket.send(text);
        else if (kind < 0.9) socket.send(Buffer.from(text), { binary: true });
        else socket.send(Buffer.alloc(70_000));
        await pause(random() * 10);
      }
      socket.terminate();
    }),
  );
  expect((await fetch(`${own.url}/api/health`)).ok).toBe(true);
  own.server.kill();
});

test("a wire that is held is not opened twice, and a name that nobody bears is told so", async () => {
  const told = (wire: object) =>
    new Promise<string>((resolve) => {
      const socket = new WebSocket(`${inject("baseUrl").replace("http", "ws")}/api/wire`, {
        origin: inject("baseUrl"),
      });
      socket.on("open", () => socket.send(JSON.stringify({ kind: "open", wire, lastWords: "" })));
      socket.on("message", (data) => {
        resolve(data.toString());
        socket.close();
      });
    });
  expect(await told({ kind: "serverPort", path: board.port, bitsPerS: 115_200 })).toContain("is held by another");
  expect(await told({ kind: "serverPort", path: "/dev/nothing", bitsPerS: 115_200 })).toContain("There is no port");
  expect(await told({ kind: "tcp", host: "127.0.0.1", port: 1 })).toContain("Nobody listens");
  expect(await told({ kind: "tcp", host: "x y", port: 1 })).toContain("does not know");
});

test("a board that differs is not driven; what it says stands beside what the project says, and is taken over as one edit", async () => {
  const hands = handsOn(page);
  await board.kill();
  const other = new RealBoard(fern, [
    {
      first: 0,
      last: 15,
      periodNs: 20_000_000,
      lowestCount: 0,
      atLowest: 0,
      highestCount: 20_000,
      atHighest: 20_000_000,
    },
  ]);
  await other.start();
  await hands.press("Fern is not connected");
  await hands.press("Choose its wire");
  await hands.type("Path of the port", other.port);
  await hands.press(`Open the port ${other.port}`);
  await headerSays("Fern is not driven");
  const said = await page.waitForSelector("[data-readout=said]");
  const text = await said?.evaluate((element) => element.textContent);
  expect(text).toContain("channels1612");
  expect(text).toContain(
    "channels 0 to 11: counts0 to 20000 make 0.0 to 20000.0 µs0 to 8191 make 0.0 to 20068.0 µs differs",
  );
  expect(other.lines.some(({ line }) => line.startsWith("S "))).toBe(false);
  await hands.press("Take over what the board says");
  await headerSays("1 board and 2 simulated, live");
  await hands.press("Undo: Take over what the board says");
  await headerSays("Fern is not driven");
  await hands.press("Fern is not driven");
  await hands.press("Close the wire");
  await headerSays("3 simulated boards, live");
  await hands.until(() => document.body.textContent?.includes("This project had it on the port") ?? false);
  await other.kill();
});

test("a server that is ended lets the board go and is missed in words; with another in its place the wire is opened again by itself", async () => {
  const first = await startServer();
  const other = new RealBoard(fern);
  await other.start();
  const { page: own } = await openPage(browser, `${first.url}/drive`);
  const hands = handsOn(own);
  const says = (words: string) =>
    own.waitForFunction((wanted) => document.querySelector("header")?.textContent?.includes(wanted), {}, words);
  await hands.press("3 simulated boards, live");
  await hands.press("Choose its wire");
  await hands.choose("The wire to Fern", "A serial port of the computer that serves Vantel");
  await hands.type("Path of the port", other.port);
  await hands.press(`Open the port ${other.port}`);
  await says("1 board and 2 simulated, live");
  // It says so of a board that was heard, and not of one that was only chosen.
  expect(other.lines.length).toBeGreaterThan(0);
  await own.keyboard.press("Escape");
  await hands.untilRack("neck-turn", "limp");
  await holdAll(own);
  await until(
    () => other.pulses.length,
    (pulses) => pulses > 0,
  );
  first.server.kill("SIGHUP");
  await says("Fern is not connected");
  await until(
    () => other.lines.at(-1)?.line ?? "",
    (line) => line.startsWith("R "),
  );
  await own.keyboard.press("Escape");
  await own.waitForFunction(() => document.body.textContent?.includes("Fern could not be told to release"));
  const seen = other.pulses.length;
  const again = await startServer(Number(new URL(first.url).port));
  await says("1 board and 2 simulated, live");
  await hands.untilRack("neck-turn", "limp");
  expect(await stays(() => other.pulses.length, 400)).toBe(seen);
  again.server.kill();
  await other.kill();
});
