import { head, jointOf, shapeOf, snapshotLength, sourceOf } from "@core/engine";
import { afarKeyOf } from "@core/origins";
import { type PadBook, padBookOf } from "@core/pads";
import type { Project } from "@core/project";
import {
  type Act,
  type BenchAsk,
  type BenchTold,
  benchToldSchema,
  ClockSync,
  type Device,
  type DoorSettings,
  PadHands,
  type Said,
  shutDoors,
  statesOf,
  type Wants,
  wantsOf,
} from "@core/remote";
import { noRoutine, phase, poseMove } from "@core/routine";
import { dequal } from "dequal";
import type { Bench } from "../bench";
import { Lateness } from "../lateness";
import type { RemoteAsk, RemoteTold, Touch } from "./remoteMessages";

/** The server takes a bench that says nothing for 2 s for gone. */
const hereEveryMs = 500;
const againAfterMs = 2000;
const stateEveryMs = 66;
const lagsEveryMs = 1000;
/** How often others are told how the bench stands, at most. */
const statesEveryMs = 200;
/** Under which the lag of what other machines say is kept. */
const afar = "afar";
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
  #wants: Wants | null = null;
  #doors: DoorSettings | null = null;
  /** Somebody may listen to how the bench stands. */
  #hasListeners = false;
  #statesMs = 0;
  readonly #saidStates = new Map<string, Said["values"]>();

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
      // How the bench stood was of the book before: without its numbers anew a pad would be blank for a moment.
      if (this.#here > 0) this.#sayState();
    }
    const wants = wantsOf(project);
    if (!dequal(wants, this.#wants)) {
      this.#wants = wants;
      this.#say({ kind: "wants", wants });
    }
    this.#saidStates.clear();
    this.#connect();
  }

  /** A routine or a lead says a cue. With nobody to carry it, this bench hears it all the same. */
  sayCue(name: string): void {
    if (this.#isOpen) this.#say({ kind: "cue", name });
    else this.#hearAfar(`cue:${name}`, 1, Number.NaN);
  }

  ask(ask: RemoteAsk): void {
    if (ask.kind === "look") {
      this.#isLooking = ask.isLooking;
      this.#connect();
      if (ask.isLooking) this.#tellPage({ kind: "line", isThere: this.#isOpen, sentence: this.#trouble });
    } else {
      // The server knows nothing of it once it was started anew.
      if (ask.kind === "doors") this.#doors = ask.settings;
      this.#connect();
      this.#say(ask);
    }
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
    if (this.#hasListeners && this.#project?.outside.saysStates && nowMs - this.#statesMs >= statesEveryMs) {
      this.#statesMs = nowMs;
      this.#sayStates(this.#project);
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
    // Who only wants to be told how the bench stands, or to let others act, has a door open and no source.
    const hasDoor = this.#doors !== null && !dequal(this.#doors, shutDoors);
    return this.#isLooking || hasDoor || pads.length > 0 || sources.some(({ origin }) => afarKeyOf(origin) !== null);
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
      if (this.#wants) this.#say({ kind: "wants", wants: this.#wants });
      if (this.#doors) this.#say({ kind: "doors", settings: this.#doors });
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
    this.#hasListeners = false;
    this.#vanish(this.#wants?.keys ?? [], "The server");
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
      case "afar":
        this.#hearAfar(told.key, told.value, told.atMs);
        return;
      case "vanished":
        this.#vanish(told.keys, told.who);
        return;
      case "act":
        this.#act(told.act, told.who);
        return;
      case "doors":
        this.#hasListeners = told.doors.mqtt.state === "open" || told.doors.osc.state === "open";
        this.#tellPage(told);
        return;
      case "refused":
        this.#trouble = told.sentence;
        return;
      default:
        told satisfies never;
    }
  }

  /** Another machine said a number: the sources that wait for it have it. A cue is on for one tick. */
  #hearAfar(key: string, value: number, atMs: number): void {
    this.#bench.hearFrom(key, value);
    if (key.startsWith("cue:")) this.#bench.hearFrom(key, 0);
    this.#moved.push({ deviceId: afar, atMs: this.#clock.toOurs(atMs) });
  }

  #vanish(keys: readonly string[], who: string): void {
    const lost = (this.#project?.sources ?? []).filter(({ origin }) => keys.includes(afarKeyOf(origin) ?? ""));
    for (const { id } of lost) this.#bench.command({ kind: "lost", sourceId: id, isLost: true }, performance.now());
    if (lost.length > 0)
      this.#bench.onNews(`${who} is gone: ${lost.map(({ label }) => label).join(", ")} do as was set.`, true);
  }

  /** What others ask for is looked at here once more: whatever the door thought, they may only what this project lets them. */
  #act(act: Act, who: string): void {
    const { outside } = this.#project ?? {};
    if (!outside) return;
    const nowMs = performance.now();
    const done = (() => {
      switch (act.kind) {
        case "release":
          this.#bench.onNews(`${who} released everything.`, false);
          return this.#bench.command({ kind: "releaseAll" }, nowMs);
        case "stop":
          return outside.mayStop ? this.#bench.command({ kind: "stop" }, nowMs) : null;
        case "pose":
          return outside.poseIds.includes(act.poseId)
            ? this.#bench.command({ kind: "goToPose", poseId: act.poseId, moveMs: act.moveMs }, nowMs)
            : null;
        case "play":
          return outside.routineIds.includes(act.routineId)
            ? this.#bench.command({ kind: "play", routineId: act.routineId }, nowMs)
            : null;
        default:
          return act satisfies never;
      }
    })();
    if (done && !done.ok) this.#bench.onNews(`${who}: ${done.problem}`, true);
  }

  #setDevices(devices: readonly Device[]): void {
    if (dequal(devices, this.#devices)) return;
    this.#devices = devices;
    this.#hands.setDevices(devices);
    for (const id of this.#lags.keys()) if (id !== afar && !devices.some((one) => one.id === id)) this.#lags.delete(id);
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

  /** Says what has changed of how the bench stands. */
  #sayStates(project: Project): void {
    this.#bench.write(this.#snapshot);
    const snapshot = this.#snapshot;
    const index = snapshot[head.routineIndex] ?? noRoutine;
    const name = index === poseMove ? "" : project.routines[index]?.name;
    const state = Object.entries(phase).find(([, at]) => at === snapshot[head.phase])?.[0] ?? "none";
    const said = statesOf(
      project,
      (at) => {
        const isHeld = jointOf(snapshot, at, "isHeld") === 1;
        const target = isHeld ? shown(jointOf(snapshot, at, "target")) : null;
        return { target, actual: shown(jointOf(snapshot, at, "actual"), 1), isHeld };
      },
      name === undefined ? null : { name, state },
    ).filter(({ path, values }) => !dequal(values, this.#saidStates.get(path)));
    for (const { path, values } of said) this.#saidStates.set(path, values);
    if (said.length > 0) this.#say({ kind: "says", said: [...said] });
  }

  #tellTouches(): void {
    const { touches } = this.#hands;
    if (dequal(touches, this.#touches)) return;
    this.#touches = touches;
    this.#tellPage({ kind: "touches", touches });
  }

  #tellLags(): void {
    const lags = Object.fromEntries(
      // Before enough was measured there is no middle.
      [...this.#lags].flatMap(([id, { medianMs }]) => (medianMs > 0 ? [[id, medianMs] as const] : [])),
    );
    for (const [deviceId, ms] of Object.entries(lags))
      if (Number.isFinite(ms) && deviceId !== afar) this.#say({ kind: "lag", deviceId, ms: Math.max(0, ms) });
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
