import { demoProject } from "@core/demo";
import { jointOf, shapeOf, snapshotLength } from "@core/engine";
import type { Project } from "@core/project";
import { type Hand, type PadTold, padToldSchema } from "@core/remote";
import { Bench } from "@worker/bench";
import { BenchClock } from "@worker/benchClock";
import { Lateness } from "@worker/lateness";
import { RemoteBench } from "@worker/remote/remoteBench";
import type { RemoteAsk, RemoteTold } from "@worker/remote/remoteMessages";
import { WebSocket as OpenSocket } from "ws";

const patienceMs = 15_000;

/** Waits until something holds. */
export async function until(holds: () => boolean, what: string): Promise<void> {
  for (const endMs = performance.now() + patienceMs; performance.now() < endMs; ) {
    if (holds()) return;
    await new Promise((done) => setTimeout(done, 5));
  }
  throw new Error(`Waited in vain: ${what}.`);
}

/** The bench as its worker has it, without a page: at a real server, on a real clock, with simulated boards. */
export async function hostAt(url: string, project: Project = demoProject()) {
  Object.assign(globalThis, {
    self: { location: { origin: url } },
    WebSocket: class extends OpenSocket {
      constructor(address: string) {
        super(address, { origin: url });
        this.onerror = () => {};
      }
    },
  });
  const bench = new Bench();
  bench.epochMs = performance.timeOrigin;
  const told = new Map<RemoteTold["kind"], RemoteTold>();
  const remote = new RemoteBench(bench, (one) => told.set(one.kind, one));
  const lateness = new Lateness();
  const ears: { onTick: (nowMs: number) => void } = { onTick: () => {} };
  bench.configure(project, 1);
  remote.configure(project);
  const clock = new BenchClock(bench, (nowMs) => {
    lateness.add(nowMs - bench.nextTickMs);
    remote.tick(nowMs);
    bench.tick(nowMs);
    for (const asked of bench.takeAsked()) if (asked.kind === "cue") remote.sayCue(asked.name);
    remote.afterTick(nowMs, bench.hasSent);
    ears.onTick(nowMs);
  });
  clock.start();
  const snapshot = new Float64Array(snapshotLength(shapeOf(project)));
  const last = <Kind extends RemoteTold["kind"]>(kind: Kind) =>
    told.get(kind) as Extract<RemoteTold, { kind: Kind }> | undefined;
  await until(() => last("standing") !== undefined, "the server's first word");
  bench.command({ kind: "holdAll" }, performance.now());
  return {
    bench,
    lateness,
    last,
    ask: (ask: RemoteAsk) => remote.ask(ask),
    /** `onTick` is called after each tick of the bench. */
    ears,
    read(jointId: string, field: Parameters<typeof jointOf>[2]): number {
      bench.write(snapshot);
      const at = project.joints.findIndex(({ id }) => id === jointId);
      return jointOf(snapshot, at, field);
    },
    /** Lets a device in, as somebody does who reads the code off the screen. */
    async letIn(name: string): Promise<string> {
      const before = last("standing")?.standing.code?.digits;
      const devices = last("standing")?.standing.devices.length ?? 0;
      remote.ask({ kind: "code" });
      await until(() => (last("standing")?.standing.code?.digits ?? before) !== before, "a code");
      const code = last("standing")?.standing.code?.digits ?? "";
      const answer = await fetch(`${url}/api/pad/pair`, {
        method: "POST",
        headers: { Origin: url, "Content-Type": "application/json" },
        body: JSON.stringify({ code, name }),
      });
      if (!answer.ok) throw new Error(await answer.text());
      await until(() => (last("standing")?.standing.devices.length ?? 0) > devices, "the device to be known");
      return answer.headers.get("set-cookie")?.split(";")[0] ?? "";
    },
    end() {
      clock.stop();
      bench.end(performance.now());
    },
  };
}
export type Host = Awaited<ReturnType<typeof hostAt>>;

/** A pad without a page: its connection, and thumbs that say how they stand. */
export async function padAt(url: string, cookie: string) {
  const socket = new OpenSocket(`${url.replace(/^http/, "ws")}/api/pad`, {
    origin: url,
    headers: { Cookie: cookie, "User-Agent": "node" },
  });
  let seq = 0;
  let downs = 0;
  let downAtMs = 0;
  let answered = 0;
  const told: PadTold[] = [];
  socket.on("message", (data: Buffer) => {
    const read = padToldSchema.parse(JSON.parse(data.toString()));
    if (read.kind === "time") {
      answered += 1;
      socket.send(JSON.stringify({ kind: "time", askedMs: read.askedMs, atMs: performance.now() }));
    } else if (read.kind !== "state") told.push(read);
  });
  socket.on("error", () => {});
  await until(() => answered >= 2, "the pad's clock to be known");
  return {
    told,
    socket,
    /** Puts the thumb on a control, or leaves it there. */
    say(controlId: string, x: number, isDown = true): void {
      if (isDown && downAtMs === 0) {
        downs += 1;
        downAtMs = performance.now();
      }
      if (!isDown) downAtMs = 0;
      seq += 1;
      const hand: Hand = { id: controlId, x, y: null, isDown, downs, downAtMs };
      socket.send(JSON.stringify({ kind: "hands", seq, atMs: performance.now(), hands: [hand] }));
    },
    end: () => socket.close(),
  };
}
