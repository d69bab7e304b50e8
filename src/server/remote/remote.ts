import { randomInt } from "node:crypto";
import type { IncomingMessage, RequestListener, ServerResponse } from "node:http";
import type { Duplex } from "node:stream";
import type { BookedControl, PadBook } from "@core/pads";
import {
  type BenchAsk,
  type BenchState,
  type BenchTold,
  benchAskSchema,
  DoorLog,
  type Hand,
  type LogEntry,
  Pairing,
  type Standing,
  shutDoors,
} from "@core/remote";
import { type WebSocket, WebSocketServer } from "ws";
import type { Door } from "../doorman";
import { addressOf, agentOf, guessWords, pairingIn } from "./callers";
import { MessageDoors } from "./doors";
import { LanDoors } from "./lan";
import { PadSocket } from "./padSocket";
import { cookieName, devicesAtMost, type Session, Sessions } from "./sessions";

const benchMessageBytesAtMost = 2_000_000;
const padMessageBytesAtMost = 8192;
const benchSilentForMs = 2000;
/** A door that nobody sees open any more is closed. */
const openWithoutBenchMs = 60_000;
const lookEveryMs = 250;
const tellEveryMs = 200;
/** A bench that does not keep up is told no more thumbs until it does. */
const benchWaitingBytesAtMost = 1_000_000;

interface Pad {
  readonly socket: PadSocket;
  readonly run: number;
}

/** So the clock of this server reads, in ms; it never runs backwards, and stands still while the computer sleeps: no page can hold it against its own. */
const nowMs = () => performance.timeOrigin + performance.now();

/**
 * Everything from another room: who is let in, what they say, and the bench that it is said to. The bench is one page of this computer; pads are pages of
 * whoever was let in. The doors to the local network are open only while somebody at the bench wants it.
 */
export class Remote {
  readonly #lan: LanDoors;
  readonly #sockets = new WebSocketServer({
    noServer: true,
    maxPayload: padMessageBytesAtMost,
    perMessageDeflate: false,
  });
  readonly #benches = new WebSocketServer({
    noServer: true,
    maxPayload: benchMessageBytesAtMost,
    perMessageDeflate: false,
  });
  readonly #sessions = new Sessions();
  readonly #pairing = new Pairing(() => String(randomInt(1_000_000)).padStart(6, "0"));
  readonly #log = new DoorLog();
  readonly #messages: MessageDoors;
  #doorSettings = shutDoors;
  readonly #pads = new Map<string, Pad>();
  #bench: WebSocket | null = null;
  #benchHeardMs = nowMs();
  #bookText = "";
  #controls = new Map<string, BookedControl & { readonly padId: string }>();
  #stays = false;
  #runs = 0;
  #toldStanding = "";
  #toldDoors = "";
  #toldLog = -1;
  readonly #looking: NodeJS.Timeout;
  #toldMs = 0;

  /** @param serve what answers at a door to the local network */
  constructor(port: number, serve: (door: Door) => RequestListener) {
    this.#lan = new LanDoors(port, serve);
    this.#messages = new MessageDoors({
      nowMs,
      tell: (told) => this.#tellBench(told),
      note: (who, what, sentence) => this.#note(who, what, sentence),
    });
    this.#looking = setInterval(() => this.#look(), lookEveryMs);
    this.#looking.unref();
  }

  /** What is done with a socket that somebody opens at a door to the local network. */
  set onUpgrade(take: LanDoors["onUpgrade"]) {
    this.#lan.onUpgrade = take;
  }

  /** Lets others in for as long as the server runs, whether a bench is there or not. */
  async stayOpen(isTls: boolean): Promise<readonly string[]> {
    this.#stays = true;
    await this.#letIn(true, isTls);
    return this.#lan.addresses;
  }

  /** Takes the socket of the bench; it has come through the door to this computer's own pages. */
  takeBench(request: IncomingMessage, socket: Duplex, head: Buffer): void {
    this.#benches.handleUpgrade(request, socket, head, (bench) => {
      if (this.#bench && this.#bench.readyState === this.#bench.OPEN) {
        tellBench(bench, { kind: "refused", sentence: "Another window has the pads and messages of this computer." });
        bench.close();
        return;
      }
      this.#bench = bench;
      this.#benchHeardMs = nowMs();
      this.#toldStanding = "";
      this.#toldDoors = "";
      this.#toldLog = -1;
      bench.on("message", (data: Buffer, isBinary) => {
        if (!isBinary && this.#bench === bench) this.#hearBench(data.toString());
      });
      bench.on("error", () => {});
      bench.on("close", () => this.#benchGone(bench));
      this.#tellPads({ kind: "bench", isThere: true });
      this.#tellNews();
    });
  }

  /** Takes the socket of a pad, if its device was let in. */
  takePad(request: IncomingMessage, socket: Duplex, head: Buffer, refuse: (sentence: string) => void): void {
    const address = addressOf(request);
    const session = this.#sessions.find(request.headers.cookie, address, agentOf(request));
    if (!session) {
      this.#note(address, "refused", "It was not let in.");
      refuse("This device was not let in. Ask for a code at the bench.");
      return;
    }
    if (nowMs() < session.barredUntilMs) {
      refuse("This device said more than any thumb does. It may come again in a few seconds.");
      return;
    }
    this.#sockets.handleUpgrade(request, socket, head, (pad) => this.#beginPad(pad, session));
  }

  /** A device asks to be let in, with a code. */
  async pair(request: IncomingMessage, response: ServerResponse, door: Door): Promise<void> {
    const answer = (status: number, sentence: string, headers: Record<string, string> = {}) => {
      response.writeHead(status, { "Content-Type": "application/json", "Cache-Control": "no-store", ...headers });
      response.end(JSON.stringify({ sentence }));
    };
    const address = addressOf(request);
    const asked = await pairingIn(request);
    if (!asked) return answer(400, "That is no code.");
    const guess = this.#pairing.guess(asked.code, address, nowMs());
    if (guess !== "in") {
      this.#note(address, "refused", `A code was ${guess}.`);
      this.#tellNews();
      return answer(guess === "too many" ? 429 : 403, guessWords[guess]);
    }
    const isFromHere = address === "127.0.0.1" || address === "::1";
    const cookie = this.#sessions.begin(asked.name, address, agentOf(request), isFromHere, nowMs());
    if (cookie === null) return answer(403, `This bench has ${devicesAtMost} devices already: throw one out first.`);
    this.#note(asked.name, "came", `It was let in from ${address}.`);
    this.#tellNews();
    const secure = door.scheme === "https" ? "; Secure" : "";
    answer(200, "", {
      "Set-Cookie": `${cookieName}=${cookie}; Path=/; Max-Age=43200; HttpOnly; SameSite=Strict${secure}`,
    });
  }

  /** Whether a device has been let in already. */
  knows(request: IncomingMessage): boolean {
    return this.#sessions.find(request.headers.cookie, addressOf(request), agentOf(request)) !== null;
  }

  async end(): Promise<void> {
    clearInterval(this.#looking);
    for (const { socket } of this.#pads.values()) socket.end("The server of this bench was ended.");
    await this.#messages.shut();
    await this.#lan.set(false);
  }

  /** The message doors, as they are set, and as far out as others are let in. */
  #setDoors(): void {
    this.#messages.set(this.#doorSettings, this.#lan.names);
  }

  #beginPad(pad: WebSocket, session: Session): void {
    const { id } = session.device;
    this.#pads.get(id)?.socket.end("It was opened in another window of this device.");
    this.#runs += 1;
    const run = this.#runs;
    const isLatest = () => this.#pads.get(id)?.run === run;
    const socket = new PadSocket(pad, session, {
      nowMs,
      controlOf: (controlId) => this.#controls.get(controlId),
      onHands: ({ seq, hands }, sentMs, toOurs) => {
        if (!isLatest() || (this.#bench?.bufferedAmount ?? 0) > benchWaitingBytesAtMost) return;
        const ours = hands.map((hand): Hand => ({ ...hand, downAtMs: toOurs(hand.downAtMs) }));
        this.#tellBench({ kind: "hands", deviceId: id, run, seq, sentMs, hands: ours });
      },
      onRelease: (times) => {
        this.#note(session.device.name, "did", "Released everything.");
        this.#tellBench({ kind: "release", deviceId: id, times });
      },
      onPressed: ({ label }) => this.#note(session.device.name, "did", label),
      onRefused: (sentence) => this.#note(session.device.name, "refused", sentence),
      onClosed: () => {
        if (!isLatest()) return;
        this.#pads.delete(id);
        this.#note(session.device.name, "left", "Its connection is closed.");
        this.#tellBench({ kind: "lost", deviceId: id });
      },
    });
    this.#pads.set(id, { socket, run });
    session.seenMs = nowMs();
    this.#note(session.device.name, "came", "It is connected.");
    socket.tell({ kind: "welcome", deviceId: id, name: session.device.name });
    socket.tell({ kind: "rights", rights: session.device.rights });
    socket.tell({ kind: "bench", isThere: this.#bench !== null });
    if (this.#bookText) socket.tellText(this.#bookText);
    this.#tellNews();
  }

  #hearBench(text: string): void {
    const ask = benchAskIn(text);
    if (!ask) return;
    this.#benchHeardMs = nowMs();
    switch (ask.kind) {
      case "here":
        this.#tellBench({ kind: "time", askedMs: ask.atMs, atMs: nowMs() });
        return;
      case "book":
        this.#takeBook(ask.revision, ask.book);
        return;
      case "state":
        this.#showState(ask.state);
        return;
      case "released":
        this.#pads.get(ask.deviceId)?.socket.tell({ kind: "released", times: ask.times });
        return;
      case "told":
        this.#note(this.#nameOf(ask.deviceId), "refused", ask.sentence);
        this.#pads.get(ask.deviceId)?.socket.tell({ kind: "told", sentence: ask.sentence });
        return;
      case "lag":
        this.#pads.get(ask.deviceId)?.socket.tell({ kind: "lag", ms: ask.ms });
        return;
      case "letIn":
        this.#stays = false;
        void this.#letIn(ask.isOpen, ask.isTls);
        return;
      case "code":
        this.#pairing.begin(nowMs());
        break;
      case "device":
        this.#sessions.change(ask.device.id, ask.device.name, ask.device.rights);
        this.#pads.get(ask.device.id)?.socket.tell({ kind: "rights", rights: ask.device.rights });
        break;
      case "doors":
        this.#doorSettings = ask.settings;
        this.#setDoors();
        break;
      case "wants":
        this.#messages.setWants(ask.wants);
        return;
      case "says":
        this.#messages.say(ask.said);
        return;
      case "cue":
        this.#messages.cue(ask.name);
        return;
      case "handset":
        this.#messages.hold(ask.handset);
        return;
      case "throwOut":
        this.#throwOut(ask.deviceId, "You were thrown out at the bench.");
        break;
      default:
        ask satisfies never;
    }
    this.#tellNews();
  }

  #takeBook(revision: number, book: PadBook): void {
    this.#bookText = JSON.stringify({ kind: "book", revision, book });
    this.#controls = new Map(
      book.pads.flatMap(({ id: padId, controls }) =>
        controls.map((booked) => [booked.control.id, { ...booked, padId }] as const),
      ),
    );
    for (const { socket } of this.#pads.values()) socket.tellText(this.#bookText);
  }

  /** A state is old a moment later: a pad that does not keep up is told the next. */
  #showState(state: BenchState): void {
    if (this.#pads.size === 0) return;
    const text = JSON.stringify({ kind: "state", state });
    for (const { socket } of this.#pads.values()) socket.tellText(text, true);
  }

  #throwOut(deviceId: string, sentence: string): void {
    this.#note(this.#nameOf(deviceId), "left", "It was thrown out.");
    this.#sessions.end(deviceId);
    this.#pads.get(deviceId)?.socket.end(sentence);
  }

  async #letIn(isOpen: boolean, isTls: boolean): Promise<void> {
    const wasOpen = this.#lan.isOpen;
    if (!isOpen) {
      for (const { device, isFromHere } of this.#sessions.all)
        if (!isFromHere) this.#throwOut(device.id, "Nobody is let in any more.");
      this.#pairing.end();
    }
    await this.#lan.set(isOpen, isTls);
    if (this.#lan.isOpen) this.#note("bench", "did", `Others are let in at ${this.#lan.addresses.join(" and ")}.`);
    else if (wasOpen) this.#note("bench", "did", "Nobody else is let in any more.");
    this.#setDoors();
    this.#tellNews();
  }

  #benchGone(bench: WebSocket): void {
    if (this.#bench !== bench) return;
    this.#bench = null;
    this.#benchHeardMs = nowMs();
    this.#doorSettings = shutDoors;
    void this.#messages.shut();
    this.#tellPads({ kind: "bench", isThere: false });
  }

  #look(): void {
    const silentMs = nowMs() - this.#benchHeardMs;
    if (this.#bench && silentMs > benchSilentForMs) {
      this.#bench.terminate();
      this.#benchGone(this.#bench);
    }
    if (!this.#bench && !this.#stays && this.#lan.isOpen && silentMs > openWithoutBenchMs)
      void this.#letIn(false, false);
    this.#tellNews();
  }

  #tellPads(told: Parameters<PadSocket["tell"]>[0]): void {
    for (const { socket } of this.#pads.values()) socket.tell(told);
  }

  #tellBench(told: BenchTold): void {
    if (this.#bench) tellBench(this.#bench, told);
  }

  /** Tells the bench how its doors stand and what happened there, where that has changed; however much happens, a few times a second. */
  #tellNews(): void {
    if (!this.#bench || nowMs() - this.#toldMs < tellEveryMs) return;
    const standing = this.#standing();
    const text = JSON.stringify(standing);
    if (text !== this.#toldStanding) {
      this.#toldStanding = text;
      this.#toldMs = nowMs();
      this.#tellBench({ kind: "standing", standing });
    }
    const doors = this.#messages.standing;
    const doorsText = JSON.stringify(doors);
    if (doorsText !== this.#toldDoors) {
      this.#toldDoors = doorsText;
      this.#toldMs = nowMs();
      this.#tellBench({ kind: "doors", doors });
    }
    if (this.#log.changes !== this.#toldLog) {
      this.#toldLog = this.#log.changes;
      this.#toldMs = nowMs();
      this.#tellBench({ kind: "log", entries: [...this.#log.entries] });
    }
  }

  #standing(): Standing {
    const code = this.#pairing.codeAt(nowMs());
    return {
      isOpen: this.#lan.isOpen,
      isTls: this.#lan.isTls,
      addresses: this.#lan.addresses,
      trouble: this.#lan.trouble,
      code: code && { digits: code.digits, leftMs: code.untilMs - nowMs() },
      devices: this.#sessions.standing((id) => this.#pads.has(id)),
    };
  }

  #nameOf(deviceId: string): string {
    return this.#sessions.byId(deviceId)?.device.name ?? "a device";
  }

  #note(who: string, what: LogEntry["what"], sentence: string): void {
    this.#log.add(nowMs(), who, what, sentence, Date.now());
  }
}

function tellBench(bench: WebSocket, told: BenchTold): void {
  if (bench.readyState === bench.OPEN) bench.send(JSON.stringify(told));
}

function benchAskIn(text: string): BenchAsk | null {
  try {
    const read = benchAskSchema.safeParse(JSON.parse(text));
    return read.success ? read.data : null;
  } catch {
    return null;
  }
}
