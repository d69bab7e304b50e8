import { head, jointOf, shapeOf, snapshotLength, sourceOf } from "@core/engine";
import { afarKeyOf } from "@core/origins";
import { type PadBook, padBookOf } from "@core/pads";
import type { Project } from "@core/project";
import { type BenchAsk, type BenchTold, benchToldSchema, ClockSync, type Device, PadHands } from "@core/remote";
import { dequal } from "dequal";
import type { Bench } from "../bench";
import { Lateness } from "../lateness";
import type { RemoteAsk, RemoteTold, Touch } from "./remoteMessages";

/** The server takes a bench that says nothing for 2 s for gone. */
const hereEveryMs = 500;
const againAfterMs = 2000;
const stateEveryMs = 66;
const lagsEveryMs = 1000;
const noServer = "The server of this bench does not answer. Is it running? It is started with bin/start.";

interface Moved {
  readonly deviceId: string;
  readonly atMs: number;
}

/**
 * The bench's end of what comes from afar: the one socket to the server, and the thumbs on all pads. What they do becomes commands of the bench like any
 * other. Lives in the worker, since a hidden page must not leave a thumb hanging.
 */
export class RemoteBench {
  readonly #bench: Bench;
  readonly #tellPage: (told: RemoteTold) => void;
  readonly #hands: PadHands;
  #socket: WebSocket | null = null;
  #again: ReturnType<typeof setTimeout> | undefined;
  #clock = new ClockSync();
  #saidHereMs = Number.NEGATIVE_INFINITY;
  #isLooking = false;
  #project: Project | null = null;
  #book: PadBook | null = null;
  #revision = 0;
  #snapshot = new Float64Array(0);
  #devices: readonly Device[] = [];
  #here = 0;
  #stateMs = 0;
  #lagsMs = 0;
  #touches: readonly Touch[] = [];
  #moved: Moved[] = [];
  readonly #lags = new Map<string, Lateness>();
  #trouble = "";

  constructor(bench: Bench, tellPage: (told: RemoteTold) => void) {
    this.#bench = bench;
    this.#tellPage = tellPage;
    this.#hands = new PadHands({
      act: (command, deviceId) => {
        if (command.kind === "source") this.#moved.push({ deviceId, atMs: command.atMs ?? Number.NaN });
        const done = this.#bench.command(command, performance.now());
        if (!done.ok) this.#say({ kind: "told", deviceId, sentence: done.problem });
      },
      tell: (deviceId, sentence) => this.#say({ kind: "told", deviceId, sentence }),
      onVanished: ({ name }, labels) => {
        if (labels.length > 0) this.#bench.onNews(`${name} is silent: ${labels.join(", ")} do as was set.`, true);
      },
    });
  }

  /** Takes the document, or a changed one. */
  configure(project: Project): void {
    this.#project = project;
    this.#hands.configure(project);
    this.#snapshot = new Float64Array(snapshotLength(shapeOf(project)));
    const book = padBookOf(project);
    if (!dequal(book, this.#book)) {
      this.#book = book;
      this.#revision += 1;
      this.#sayBook();
    }
    this.#connect();
  }

  ask(ask: RemoteAsk): void {
    if (ask.kind === "look") {
      this.#isLooking = ask.isLooking;
      this.#connect();
      if (ask.isLooking) this.#tellPage({ kind: "line", isThere: this.#isOpen, sentence: this.#trouble });
    } else this.#say(ask);
  }

  /** Somebody at the bench moved a source. */
  movedHere(sourceId: string): void {
    this.#hands.movedHere(sourceId);
  }

  /** Lets time pass, before the bench does: whoever is not heard of any more moves nothing in this tick. */
  tick(nowMs: number): void {
    if (!this.#isOpen) return;
    this.#hands.tick(performance.timeOrigin + nowMs);
    if (nowMs - this.#saidHereMs >= hereEveryMs) {
      this.#saidHereMs = nowMs;
      this.#say({ kind: "here", atMs: performance.timeOrigin + nowMs });
    }
    this.#tellTouches();
  }

  /** After the bench's tick: what was moved is on its way. */
  afterTick(nowMs: number, hasSent: boolean): void {
    if (!this.#isOpen) {
      this.#moved.length = 0;
      return;
    }
    if (hasSent) {
      for (const { deviceId, atMs } of this.#moved) this.#lagOf(deviceId).add(performance.timeOrigin + nowMs - atMs);
      this.#moved.length = 0;
    }
    if (this.#here > 0 && nowMs - this.#stateMs >= stateEveryMs) {
      this.#stateMs = nowMs;
      this.#sayState();
    }
    if (this.#lags.size > 0 && nowMs - this.#lagsMs >= lagsEveryMs) {
      this.#lagsMs = nowMs;
      this.#tellLags();
    }
  }

  get #isOpen(): boolean {
    return this.#socket?.readyState === WebSocket.OPEN;
  }

  get #isWanted(): boolean {
    const { pads, sources } = this.#project ?? { pads: [], sources: [] };
    return this.#isLooking || pads.length > 0 || sources.some(({ origin }) => afarKeyOf(origin) !== null);
  }

  #connect(): void {
    if (this.#socket || !this.#isWanted) return;
    clearTimeout(this.#again);
    const socket = new WebSocket(`${self.location.origin.replace(/^http/, "ws")}/api/remote`);
    this.#socket = socket;
    socket.onopen = () => {
      this.#trouble = "";
      this.#clock = new ClockSync();
      this.#saidHereMs = Number.NEGATIVE_INFINITY;
      this.#sayBook();
      this.#tellPage({ kind: "line", isThere: true, sentence: "" });
    };
    socket.onmessage = ({ data }: MessageEvent<string>) => this.#hear(data);
    socket.onclose = () => this.#lose();
  }

  /** The server is gone, and with it everybody from afar. */
  #lose(): void {
    this.#socket = null;
    this.#setDevices([]);
    this.#here = 0;
    this.#tellTouches();
    this.#trouble ||= noServer;
    this.#tellPage({ kind: "line", isThere: false, sentence: this.#trouble });
    this.#again = setTimeout(() => this.#connect(), againAfterMs);
  }

  #hear(text: string): void {
    const read = benchToldSchema.safeParse(JSON.parse(text));
    if (!read.success) return;
    const told: BenchTold = read.data;
    const nowMs = performance.timeOrigin + performance.now();
    switch (told.kind) {
      case "time":
        this.#clock.add(told.askedMs, told.atMs, nowMs);
        return;
      case "standing":
        this.#setDevices(told.standing.devices.map(({ device }) => device));
        this.#here = told.standing.devices.filter(({ isHere }) => isHere).length;
        this.#tellPage(told);
        return;
      case "log":
        this.#tellPage(told);
        return;
      case "hands": {
        const downsMs = told.hands.map(({ downAtMs }) => this.#clock.toOurs(downAtMs));
        this.#hands.hear(told.deviceId, told, this.#clock.toOurs(told.sentMs), downsMs, nowMs);
        return;
      }
      case "release":
        this.#bench.command({ kind: "releaseAll" }, performance.now());
        this.#say({ kind: "released", deviceId: told.deviceId, times: told.times });
        this.#bench.onNews(`${this.#nameOf(told.deviceId)} released everything.`, false);
        return;
      case "lost":
        this.#hands.lost(told.deviceId);
        return;
      case "refused":
        this.#trouble = told.sentence;
        return;
      default:
        told satisfies never;
    }
  }

  #setDevices(devices: readonly Device[]): void {
    if (dequal(devices, this.#devices)) return;
    this.#devices = devices;
    this.#hands.setDevices(devices);
    for (const id of this.#lags.keys()) if (!devices.some((one) => one.id === id)) this.#lags.delete(id);
  }

  #sayBook(): void {
    if (this.#book) this.#say({ kind: "book", revision: this.#revision, book: this.#book });
  }

  #sayState(): void {
    const [project, book] = [this.#project, this.#book];
    if (!project || !book) return;
    this.#bench.write(this.#snapshot);
    const snapshot = this.#snapshot;
    const joints = book.joints.map(({ id }) => {
      const at = project.joints.findIndex((one) => one.id === id);
      const isHeld = jointOf(snapshot, at, "isHeld") === 1;
      const target = isHeld ? shown(jointOf(snapshot, at, "target")) : null;
      return { target, actual: shown(jointOf(snapshot, at, "actual")), isHeld };
    });
    const sources = book.sources.map(({ id }) => {
      const at = project.sources.findIndex((one) => one.id === id);
      const { low, high } = project.sources[at]?.range ?? { low: 0, high: 1 };
      return shown((sourceOf(snapshot, project.joints.length, at) - low) / (high - low), 4);
    });
    const playing = project.routines[snapshot[head.routineIndex] ?? -1]?.id ?? null;
    this.#say({
      kind: "state",
      state: { revision: this.#revision, joints, sources, touches: [...this.#touches], playing },
    });
  }

  #tellTouches(): void {
    const { touches } = this.#hands;
    if (dequal(touches, this.#touches)) return;
    this.#touches = touches;
    this.#tellPage({ kind: "touches", touches });
  }

  #tellLags(): void {
    const lags = Object.fromEntries([...this.#lags].map(([id, lateness]) => [id, lateness.medianMs]));
    for (const [deviceId, ms] of Object.entries(lags))
      if (Number.isFinite(ms)) this.#say({ kind: "lag", deviceId, ms: Math.max(0, ms) });
    this.#tellPage({ kind: "lags", lags });
  }

  #lagOf(deviceId: string): Lateness {
    const known = this.#lags.get(deviceId);
    if (known) return known;
    const fresh = new Lateness();
    this.#lags.set(deviceId, fresh);
    return fresh;
  }

  #nameOf(deviceId: string): string {
    return this.#devices.find(({ id }) => id === deviceId)?.name ?? "A pad";
  }

  #say(ask: BenchAsk): void {
    if (this.#socket?.readyState === WebSocket.OPEN) this.#socket.send(JSON.stringify(ask));
  }
}

/** A number as pads show it; null for what is none. */
const shown = (value: number, decimals = 2): number | null =>
  Number.isFinite(value) ? Math.round(value * 10 ** decimals) / 10 ** decimals : null;
