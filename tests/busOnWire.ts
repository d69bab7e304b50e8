import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync } from "node:fs";
import { createServer, type Server, type Socket } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { byId, type Project } from "../src/core/project";
import { SimBus, SimServo, truthOf } from "../src/core/sim";
import { openNodeStream } from "../src/tools/nodeStream";
import { Bench } from "../src/worker/bench";
import { BenchClock } from "../src/worker/benchClock";
import type { BusOutcome, BusRun } from "../src/worker/links/busMessages";
import { placeDevices } from "../src/worker/simulation/placeDevices";
import { builtFirmware } from "./fuzz/firmware";

const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** How an adapter is. */
export interface Adapter {
  readonly echoes: boolean;
  /** How long it holds back what comes from the bus. */
  readonly holdsMs: number;
}

/**
 * The simulated devices of a bus of a project at the other end of a real wire: a pseudo-terminal with an adapter behind it. They hear only what comes at the
 * speed of the bus; that the port itself runs at some speed, a pseudo-terminal does not mind.
 */
export class BusOnWire {
  readonly bus: SimBus;
  readonly port = join(mkdtempSync(join(tmpdir(), "vantel-bus-")), "port");
  readonly #bitsPerS: number;
  #socket: Socket | null = null;
  #server: Server | null = null;
  #adapter: ChildProcess | null = null;
  #timer: NodeJS.Timeout | null = null;

  constructor(project: Project, boardId: string) {
    const board = byId(project.boards, boardId);
    this.#bitsPerS = board.encoding.kind === "bus" ? board.encoding.bitsPerS : 0;
    const servos = new Map(project.cards.map((card) => [card.id, new SimServo(truthOf(card, project.simulated))]));
    this.bus = new SimBus((bytes) => this.#socket?.write(bytes.slice()));
    this.bus.devices = placeDevices(board, project, servos, {}, () => {})
      .filter(({ isPlugged }) => isPlugged)
      .map(({ device }) => device);
  }

  async start({ echoes, holdsMs }: Adapter): Promise<void> {
    this.#server = createServer((socket) => {
      socket.setNoDelay(true);
      this.#socket = socket;
      socket.on("data", (bytes) => this.bus.receive(bytes, this.#bitsPerS, performance.now() * 1000));
      socket.on("error", () => {});
    });
    const server = this.#server;
    await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
    const address = server.address();
    const tcp = typeof address === "object" && address ? address.port : 0;
    this.#adapter = spawn(builtFirmware("adapter"), [this.port, String(tcp), echoes ? "1" : "0", String(holdsMs)]);
    while (!this.#socket) await sleep(5);
    let lastMs = performance.now();
    const live = () => {
      const nowMs = performance.now();
      this.bus.advance(nowMs * 1000);
      if (nowMs - lastMs >= 5) {
        this.bus.step(nowMs, nowMs - lastMs);
        lastMs = nowMs;
      }
    };
    this.#timer = setInterval(live, 1);
  }

  /** Cuts the wire. */
  pull(): void {
    this.#adapter?.kill("SIGKILL");
  }

  end(): void {
    if (this.#timer) clearInterval(this.#timer);
    this.pull();
    this.#socket?.destroy();
    this.#server?.close();
  }
}

async function until(condition: () => boolean, withinMs = 20_000): Promise<void> {
  for (const endMs = performance.now() + withinMs; !condition(); await sleep(10))
    if (performance.now() > endMs) throw new Error(`It never came to be: ${condition}`);
}

/** A bench that runs by the real clock, with one board on a real wire. */
export function benchOnWire(project: Project, boardId: string, path: string) {
  const bench = new Bench({ openStream: openNodeStream, nowMs: () => performance.now() });
  const outcomes = new Map<number, BusOutcome>();
  const news: string[] = [];
  bench.onNews = (sentence) => void news.push(sentence);
  bench.onBus = (_, told) => {
    if (told.kind === "outcome") outcomes.set(told.runId, told.outcome);
  };
  const boards = project.boards.map((board) => {
    const bitsPerS = board.encoding.kind === "bus" ? board.encoding.bitsPerS : 115_200;
    return board.id === boardId ? { ...board, link: { kind: "serverPort" as const, path, bitsPerS } } : board;
  });
  bench.configure({ ...project, boards }, 1);
  const clock = new BenchClock(bench);
  clock.start();
  let runs = 0;
  return {
    bench,
    news,
    until,
    /** Runs something on the bus, and gives what came of it. */
    async run(run: BusRun): Promise<BusOutcome> {
      runs += 1;
      const runId = runs;
      bench.askBus(boardId, { kind: "run", runId, run });
      await until(() => outcomes.has(runId), 60_000);
      return outcomes.get(runId) as BusOutcome;
    },
    health: () => bench.healthAt(performance.now())[boardId],
    end() {
      bench.end(performance.now());
      clock.stop();
    },
  };
}
