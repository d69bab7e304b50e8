import { createSocket } from "node:dgram";
import { readFileSync } from "node:fs";
import { connect as connectTcp } from "node:net";
import { demoProject } from "@core/demo";
import type { Project } from "@core/project";
import { padAskSchema, readMessage, shutDoors } from "@core/remote";
import { seededRandom } from "@core/sim";
import { connect } from "mqtt";
import { encode, Message } from "node-osc";
import { Packet } from "sacn";
import { WebSocket } from "ws";
import { valuesIn } from "../../src/server/remote/oscDoor";
import { packetIn } from "../../src/server/remote/sacnDoor";
import { freePort, startServer } from "../e2e/served";
import { type Host, hostAt, padAt, until } from "../remoteHost";

/** What a bench with all its doors open may be made to do: nothing, by whoever is not let in. */
interface Siege {
  readonly url: string;
  readonly host: Host;
  readonly cookie: string;
  /** Devices that were let in, to look only. */
  readonly strangers: readonly { readonly own: string; readonly deviceId: string }[];
  readonly random: () => number;
  readonly ports: { readonly mqtt: number; readonly osc: number; readonly sacn: number };
}

/** The greenhouse, with a source behind every door. */
function openRig(): Project {
  const demo = demoProject();
  const usual = { range: { low: 0, high: 1000 }, isMuted: false, ifLost: { kind: "hold" } } as const;
  const taken = { isHand: true, silentAfterMs: null };
  const sources: Project["sources"] = [
    { id: "by-mqtt", label: "By MQTT", ...usual, origin: { kind: "mqtt", topic: "knob", ...taken } },
    { id: "by-osc", label: "By OSC", ...usual, origin: { kind: "osc", address: "/a/b", argument: 0, ...taken } },
    { id: "by-sacn", label: "By sACN", ...usual, origin: { kind: "sacn", universe: 1, slot: 1, isFine: false } },
  ];
  return { ...demo, sources: [...demo.sources, ...sources], outside: { ...demo.outside, saysStates: false } };
}

const strangersAtPads = 12;
const memoryKb = (pid: number) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1]);
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Bytes of no sense, or nearly of some: a true word that was cut, changed, or grown. */
function odd(random: () => number, models: readonly string[]): Buffer {
  const whole = (below: number) => Math.floor(random() * below);
  const kind = whole(5);
  if (kind === 0) return Buffer.from(Array.from({ length: whole(300) }, () => whole(256)));
  const model = Buffer.from(models[whole(models.length)] ?? "");
  if (kind === 1) return model.subarray(0, whole(model.length));
  if (kind === 2) {
    const changed = Buffer.from(model);
    for (let at = 0; at < 1 + whole(4); at += 1) changed[whole(changed.length)] = whole(256);
    return changed;
  }
  if (kind === 3) return Buffer.concat([model, Buffer.alloc(whole(4000), model)]);
  return Buffer.from(
    JSON.stringify({ kind: ["hands", "release ", "x"][whole(3)], seq: random() * 1e20, hands: [[[[]]]], atMs: null }),
  );
}

/** Answers whether a socket was let in. */
function knocks(url: string, headers: Record<string, string>): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = new WebSocket(url, { headers });
    socket.on("open", () => {
      socket.terminate();
      resolve(true);
    });
    socket.on("error", () => resolve(false));
  });
}

/** Requests for what is not theirs: under other names, from other sites, by crooked paths, with made-up cookies. Each must be refused. */
async function knockAtPages({ url, random, cookie }: Siege, count: number): Promise<string | null> {
  const { host } = new URL(url);
  const ws = url.replace(/^http/, "ws");
  const [id] = cookie.split("=")[1]?.split(".") ?? [];
  const crooked = [
    "/../../etc/passwd",
    "/pad/../../package.json",
    "/_astro/..%2f..%2f..%2fpackage.json",
    "/%2e%2e/%2e%2e/x",
    "//etc/passwd",
    "/pad%00",
    "/api/../api/ports",
  ];
  for (let at = 0; at < count; at += 1) {
    const path = crooked[at % crooked.length] ?? "/";
    const text = await raw(url, `GET ${path} HTTP/1.1\r\nHost: ${host}\r\nConnection: close\r\n\r\n`);
    if (/root:|"name": "vantel"/.test(text)) return `${path} gave a file away`;
    const foreign = [
      { Host: "garden.example" },
      { Origin: "http://garden.example" },
      { Origin: "null" },
      { Origin: url.replace("127.0.0.1", "localhost"), Host: host },
    ][at % 4] as Record<string, string>;
    if (await knocks(`${ws}/api/pad`, { ...foreign, Cookie: cookie, "User-Agent": "node" }))
      return `let in: ${JSON.stringify(foreign)}`;
    if (await knocks(`${ws}/api/remote`, foreign)) return `a bench was let in: ${JSON.stringify(foreign)}`;
    const forged = [
      `vantel-pad=${id}.${"A".repeat(43)}`,
      "vantel-pad=",
      `vantel-pad=${id}`,
      "vantel-pad=..",
      `${cookie}.x`,
      `${cookie}x`,
    ][at % 6] as string;
    if (await knocks(`${ws}/api/pad`, { Origin: url, Cookie: forged, "User-Agent": "node" }))
      return `a forged cookie was taken: ${forged}`;
    if (await knocks(`${ws}/api/pad`, { Origin: url, Cookie: cookie, "User-Agent": "another" }))
      return "a cookie was taken from another browser";
    const body = odd(random, [JSON.stringify({ code: "000000", name: "x" })]);
    const paired = await fetch(`${url}/api/pad/pair`, {
      method: "POST",
      headers: { Origin: url },
      body: new Uint8Array(body),
    });
    if (paired.ok) return "an odd request was let in";
    const guess = await fetch(`${url}/api/pad/pair`, {
      method: "POST",
      headers: { Origin: url },
      body: JSON.stringify({ code: String(at).padStart(6, "0"), name: "x" }),
    });
    if (guess.ok) return "a guessed code was let in, though none was shown";
  }
  return null;
}

/** Speaks to a port as no client would. */
function raw(url: string, words: string): Promise<string> {
  const { hostname, port } = new URL(url);
  return new Promise((resolve) => {
    let text = "";
    const socket = connectTcp(Number(port), hostname, () => socket.write(words));
    socket.on("data", (data) => {
      text += data.toString();
    });
    socket.on("close", () => resolve(text));
    socket.on("error", () => resolve(text));
    socket.setTimeout(5000, () => socket.destroy());
  });
}

/** A device that was let in, may only look, and says whatever it likes: again and again, as it is thrown out of its socket each time. */
async function babbleAtPad({ url, host, random, strangers }: Siege, count: number): Promise<void> {
  const models = [
    JSON.stringify({
      kind: "hands",
      seq: 1,
      atMs: 1,
      hands: [{ id: "pad-turn", x: 0.5, y: null, isDown: true, downs: 1, downAtMs: 1 }],
    }),
    JSON.stringify({ kind: "time", askedMs: 1, atMs: 1 }),
  ];
  for (const { own, deviceId } of strangers) {
    // Who goes on saying what no pad says is cut off, and barred for a while: one device after the other tries it.
    const pad = await padAt(url, own);
    for (let at = 0; at < count && pad.socket.readyState === WebSocket.OPEN; at += 1) {
      pad.socket.send(odd(random, models), { binary: at % 7 === 0 });
      if (at % 50 === 0) await wait(0);
    }
    if (pad.socket.readyState === WebSocket.OPEN)
      await until(() => pad.socket.readyState === WebSocket.CLOSED, "the cut");
    host.ask({ kind: "throwOut", deviceId });
  }
}

/** What reads the words of strangers, by itself: whatever it is given, it reads it or says that it cannot. */
function readOdd(random: () => number, count: number): void {
  const models = [
    JSON.stringify({
      kind: "hands",
      seq: 1,
      atMs: 1,
      hands: [{ id: "a", x: 0.5, y: null, isDown: true, downs: 1, downAtMs: 1 }],
    }),
    encode(new Message("/a/b", 0.5, "x", true)).toString("latin1"),
    new Packet({ universe: 1, sequence: 1, payload: { 1: 99 } }).buffer.toString("latin1"),
    '{"value":0.5,"seq":3,"at":12,"from":"x"}',
  ];
  const topics = ["in/knob", "do/pose", "do/play", "here/x", "in/", "do/release", "x"];
  for (let at = 0; at < count; at += 1) {
    const bytes = odd(random, models);
    const values = valuesIn(bytes);
    if (values?.some(({ value }) => !Number.isFinite(value))) throw new Error(`OSC: ${bytes.toString("hex")}`);
    packetIn(bytes);
    const read = readMessage("vantel/bench", `vantel/bench/${topics[at % topics.length]}`, bytes.toString());
    if (read?.heard.kind === "value" && !Number.isFinite(read.heard.value))
      throw new Error(`MQTT: ${bytes.toString("hex")}`);
    try {
      padAskSchema.safeParse(JSON.parse(bytes.toString()));
    } catch (error) {
      if (!(error instanceof SyntaxError)) throw error;
    }
  }
}

async function babbleAtMqtt({ random, ports }: Siege, count: number): Promise<void> {
  const client = connect(`mqtt://127.0.0.1:${ports.mqtt}`, { reconnectPeriod: 50 });
  client.on("error", () => {});
  await until(() => client.connected, "the broker within");
  const topics = ["do/pose", "do/play", "do/x", "here/x", "out/here", "in", "do", "x/y/z"];
  for (let at = 0; at < count; at += 1) {
    const topic = `vantel/bench/${topics[at % topics.length]}`;
    client.publish(topic, odd(random, ["Watch", '{"pose":"Watch"}', "1e999", '{"value":5}']), { retain: at % 5 === 0 });
    if (at % 100 === 0) await wait(1);
  }
  await new Promise<void>((done) => client.end(false, {}, () => done()));
  // And what is no MQTT at all.
  for (let at = 0; at < 20; at += 1)
    await new Promise<void>((done) => {
      const socket = connectTcp(ports.mqtt, "127.0.0.1", () =>
        socket.end(odd(random, ["\x10\x0e\0\x04MQTT\x04\x02\0\0\0\x02ab"])),
      );
      socket.on("close", () => done());
      socket.on("error", () => done());
      socket.setTimeout(1000, () => socket.destroy());
    });
}

async function babbleAtUdp({ random, ports }: Siege, count: number): Promise<void> {
  const socket = createSocket("udp4");
  // No source waits for these, nor for what a few changed letters make of them: whoever says a bound address may.
  const osc = [
    encode(new Message("/zz/yyy", "x")).toString("latin1"),
    encode(new Message("/zz/*", 1)).toString("latin1"),
  ];
  const sacn = [
    new Packet({ universe: 2, sequence: 1, payload: { 1: 99 }, useRawDmxValues: true }).buffer.toString("latin1"),
  ];
  for (let at = 0; at < count; at += 1) {
    socket.send(odd(random, osc), ports.osc, "127.0.0.1");
    const cut = odd(random, sacn);
    // A whole packet that was changed in its numbers only would be a desk's.
    if (cut.length !== 638) socket.send(cut, ports.sacn, "127.0.0.1");
    if (at % 50 === 0) await wait(1);
  }
  await new Promise<void>((done) => socket.close(() => done()));
}

/**
 * Lays siege to every door with so many messages each. Gives what got in, or what was left broken, in words; or the figures.
 * Nothing that is said here may move anything: no joint's pulse may change.
 */
export async function siege(
  seed: number,
  count: number,
): Promise<{ readonly fault: string | null; readonly figures: readonly string[] }> {
  const random = seededRandom(seed);
  // Before there is a bench: it takes seconds, in which its boards would let go.
  readOdd(random, count);
  const ports = { mqtt: await freePort(), osc: await freePort(), sacn: await freePort() };
  process.env.SACN_PORT = String(ports.sacn);
  const { url, server } = await startServer();
  const project = openRig();
  const host = await hostAt(url, project);
  const figures: string[] = [];
  try {
    host.ask({
      kind: "doors",
      settings: {
        ...shutDoors,
        mqtt: { ...shutDoors.mqtt, via: "inside", port: ports.mqtt },
        osc: { ...shutDoors.osc, isOn: true, port: ports.osc },
        sacn: { ...shutDoors.sacn, isOn: true },
      },
    });
    await until(() => {
      const doors = host.last("doors")?.doors;
      return doors?.mqtt.state === "open" && doors.osc.state === "open" && doors.sacn.state === "open";
    }, "the doors to open");
    const cookie = await host.letIn("Stranger");
    const device = host.last("standing")?.standing.devices[0]?.device;
    if (!device) throw new Error("Nobody was let in.");
    host.ask({ kind: "device", device: { ...device, rights: { ...device.rights, isLookOnly: true } } });
    const strangers = [];
    for (let at = 0; at < strangersAtPads; at += 1) {
      const own = await host.letIn(`Stranger ${at}`);
      const one = host.last("standing")?.standing.devices.at(-1)?.device;
      if (!one) throw new Error("A stranger was not let in.");
      host.ask({ kind: "device", device: { ...one, rights: { ...one.rights, isLookOnly: true } } });
      strangers.push({ own, deviceId: one.id });
    }
    await wait(600);
    const stands = () => project.joints.map(({ id }) => host.read(id, "count")).join();
    const before = stands();
    const memoryBefore = memoryKb(server.pid ?? 0);
    const one: Siege = { url, host, cookie, strangers, random, ports };
    const fault = await knockAtPages(one, Math.ceil(count / 50));
    await babbleAtPad(one, count);
    await babbleAtMqtt(one, count);
    await babbleAtUdp(one, count);
    await wait(500);
    const grownMb = (memoryKb(server.pid ?? 0) - memoryBefore) / 1024;
    const doors = host.last("doors")?.doors;
    figures.push(
      `${doors?.refused} messages refused, ${doors?.taken} taken; the server grew by ${grownMb.toFixed(0)} MB; ${host.last("log")?.entries.length} entries in the log`,
    );
    if (fault) return { fault, figures };
    if (stands() !== before) return { fault: `Something moved: ${stands()} instead of ${before}`, figures };
    if (server.exitCode !== null) return { fault: "The server is gone.", figures };
    // Whoever is let in, and may, is heard all the same.
    host.ask({ kind: "device", device });
    await wait(300);
    const pad = await padAt(url, cookie);
    for (let at = 0; at < 40; at += 1) {
      pad.say("pad-turn", 0.9);
      await wait(25);
    }
    if (stands() === before) return { fault: "Nobody is heard any more.", figures };
    pad.end();
    return { fault: null, figures };
  } finally {
    host.end();
    server.kill();
  }
}
