import type { LinkState } from "@core/link";
import type { Layout, RegisterRole } from "@core/project";
import { goalPackets } from "./goalPackets";
import type { Procedure } from "./procedure";
import { ProcedureRunner } from "./procedureRunner";
import { rawIn, registerFor, stretchOf, turnOf } from "./registers";
import { readRequest, writeRequest } from "./requests";
import { noTelemetry, sensedStretch, type Telemetry, takeSensed } from "./telemetry";
import { troublesIn } from "./troubles";
import { BusWire, rank, type WireAnswer } from "./wire";

/** A device on the bus that is a joint. */
export interface BusDevice {
  readonly id: number;
  readonly layout: Layout;
  /** How far its goal may step in one frame while it catches up, in ticks. */
  readonly calmTicksPerFrame: number;
  /** How far it may step in one frame at any time: the joint's speed limit; infinite without one. */
  readonly fastestTicksPerFrame: number;
  /** The hard window of its card, in ticks: no goal outside it leaves, and a servo that stands outside it is not switched on. */
  readonly window: { readonly low: number; readonly high: number };
}

/** What the bench should know of: a device fell silent, is back, was restarted or has let go and is limp; or stays limp, since it stands outside its
 * window, is set to turn on and on, or has position limits of its own that do not hold the place where it stands. */
export interface DeviceNews {
  readonly id: number;
  readonly kind: "silent" | "back" | "restarted" | "letGo" | "outside" | "turning" | "ends";
  readonly error: number;
}

/** So many reads in a row without an answer, and a device counts as silent. */
const missesUntilSilent = 4;
/** A silent device is called this seldom, so that it does not take the wire from the others. */
const callSilentEveryUs = 300_000;
/** Every so many times a device that holds is asked whether it still does: a short dip of the supply may have restarted it unseen. */
const lookEvery = 8;

/** A reading trembles a little: so far outside its window a servo may seem to stand. Half a degree, or two ticks. */
const ticksOfPlay = ({ layout }: BusDevice): number => Math.max(2, 0.5 / (turnOf(layout)?.degPerTick ?? 0.25));

/** Nobody knows / limp / finding out where it stands / its goal follows what is wanted / does not answer. */
type Phase = "unknown" | "limp" | "waking" | "held" | "silent";

interface LiveDevice extends BusDevice {
  calmTicksPerFrame: number;
  fastestTicksPerFrame: number;
  window: BusDevice["window"];
  /** What the engine wants of it; NaN for limp. */
  wanted: number;
  phase: Phase;
  /** The goal of this frame. */
  goal: number;
  /** The goal that last got onto the wire, or where it stood when it was switched on: no step is larger than may be from there. */
  left: number;
  /** Its goal is led to what is wanted in calm steps, because it was away or has just been switched on. */
  isCatchingUp: boolean;
  misses: number;
  calledUs: number;
  /** A question how it is waits or is on the wire; another one would not tell more. */
  isAsked: boolean;
  /** It is being switched on or off. */
  isSwitching: boolean;
  timesSensed: number;
  readonly telemetry: Telemetry;
}

/**
 * The host's end of a bus: sends the goals of all its joints in every frame, as one packet for each family that can, reads in what time is left how each
 * device is, and runs what a person asks for in between. A device that was away comes back in calm steps: nothing jumps. It has no clock:
 * times are handed in.
 */
export class BusSession {
  state: LinkState = { kind: "greeting" };
  framesSent = 0;
  /** Frames whose goals were replaced by newer ones before they got onto the wire. */
  framesDropped = 0;
  wasLimp = true;
  readonly positions: Float64Array;
  readonly currentsMa: Float64Array;
  readonly wire: BusWire;
  onNews: (news: DeviceNews) => void = () => {};
  readonly #devices: readonly LiveDevice[];
  /** All families that may be on the wire, whether a joint is of them or not. */
  readonly #layouts: readonly Layout[];
  readonly #boardBitsPerS: number;
  readonly #runner: ProcedureRunner;
  #nextSensed = 0;
  /** How many were asked how they are since the last frame: each once is enough. */
  #sensedInFrame = 0;
  #nowUs = 0;

  constructor(
    bitsPerS: number,
    channels: number,
    devices: readonly BusDevice[],
    layouts: readonly Layout[],
    send: (bytes: Uint8Array, bitsPerS: number, atUs: number) => void,
  ) {
    this.#boardBitsPerS = bitsPerS;
    this.#layouts = layouts;
    this.wire = new BusWire(bitsPerS, send);
    this.#runner = new ProcedureRunner(this.wire);
    this.positions = new Float64Array(channels).fill(Number.NaN);
    this.currentsMa = new Float64Array(channels).fill(Number.NaN);
    this.#devices = devices.map((device) => ({
      ...device,
      wanted: Number.NaN,
      phase: "unknown",
      goal: Number.NaN,
      left: Number.NaN,
      isCatchingUp: false,
      misses: 0,
      calledUs: Number.NEGATIVE_INFINITY,
      isAsked: false,
      isSwitching: false,
      timesSensed: 0,
      telemetry: noTelemetry(),
    }));
    // With no joint on it there is nobody to wait for.
    if (devices.length === 0) this.state = { kind: "live" };
  }

  telemetryOf(id: number): Telemetry | null {
    return this.#devices.find((device) => device.id === id)?.telemetry ?? null;
  }

  phaseOf(id: number): Phase | null {
    return this.#devices.find((device) => device.id === id)?.phase ?? null;
  }

  /** What a changed card or joint says of a device's bounds; it holds from the next goal on. */
  bound(id: number, bounds: Pick<BusDevice, "calmTicksPerFrame" | "fastestTicksPerFrame" | "window">): void {
    const device = this.#devices.find((one) => one.id === id);
    if (!device) return;
    Object.assign(device, bounds);
    // What was asked for before and has not left yet may lie outside: the next frame says where to go now.
    this.wire.withdraw((exchange) => exchange.rank === rank.goals);
  }

  /** How each joint's device is. */
  get states(): readonly {
    readonly id: number;
    readonly phase: Phase;
    readonly wanted: number;
    readonly goal: number;
    readonly telemetry: Telemetry;
  }[] {
    return this.#devices.map(({ id, phase, wanted, goal, telemetry }) => ({
      id,
      phase,
      wanted,
      goal,
      telemetry: { ...telemetry },
    }));
  }

  /** Whether a procedure runs that another one must wait for. */
  get isBusy(): boolean {
    return this.#runner.isBusy;
  }

  /** When something is to be done next without a byte coming in, in µs. */
  get nextWakeUs(): number {
    return Math.min(this.wire.nextWakeUs, this.#runner.nextWakeUs);
  }

  receive(bytes: Uint8Array, atUs: number): void {
    this.#nowUs = Math.max(this.#nowUs, atUs);
    this.wire.receive(bytes, atUs);
    this.#sense();
  }

  wake(nowUs: number): void {
    this.#nowUs = Math.max(this.#nowUs, nowUs);
    this.#runner.wake(nowUs);
    this.wire.wake(nowUs);
    this.#sense();
  }

  /**
   * One frame: for each joint the tick that it is to go to; NaN lets it go. At another speed than the bus's own no device would hear it, so that
   * nothing is sent while a scan is at it.
   */
  sendFrame(channels: ArrayLike<number>, registers: ArrayLike<number>, nowMs: number): void {
    this.#nowUs = Math.max(this.#nowUs, nowMs * 1000);
    for (let at = 0; at < channels.length; at += 1) {
      const device = this.#devices.find(({ id }) => id === channels[at]);
      if (device) device.wanted = registers[at] as number;
    }
    if (this.wire.bitsPerS !== this.#boardBitsPerS) {
      // Nobody hears a release now: whoever was released is switched off, or on from where it then stands, when the bus is itself again.
      for (const device of this.#devices)
        if (Number.isNaN(device.wanted) && (device.phase === "held" || device.phase === "waking"))
          device.phase = "unknown";
      return;
    }
    for (const device of this.#devices) this.#lead(device);
    if (this.wire.withdraw((exchange) => exchange.rank === rank.goals) > 0) this.framesDropped += 1;
    this.framesSent += 1;
    this.#sensedInFrame = 0;
    this.#sendGoals();
    this.#sense();
  }

  /** Lets everything go at once, whatever is on the wire. Nobody answers to it: the next frames make sure of each joint. */
  releaseAll(nowMs: number): void {
    this.#nowUs = Math.max(this.#nowUs, nowMs * 1000);
    this.wire.withdraw((exchange) => exchange.rank <= rank.goals);
    this.endProcedure();
    for (const layout of this.#layouts) {
      const torque = registerFor(layout, "torque");
      const mine = this.#devices.filter((device) => device.layout === layout);
      // All at once where the family can; a servo that is no joint and turns on and on lets go as well.
      const ids = layout.broadcastId === null ? mine.map(({ id }) => id) : [layout.broadcastId];
      for (const id of torque ? ids : []) {
        const request = torque && writeRequest(layout, id, torque, 0, true);
        if (request) this.wire.interrupt(layout, request.bytes, this.#nowUs);
      }
    }
    this.#forgetAsked();
    for (const device of this.#devices) {
      device.wanted = Number.NaN;
      // That each has heard it is made sure of by the next frames.
      if (device.phase === "held" || device.phase === "waking") device.phase = "unknown";
    }
  }

  /** Runs something that takes many exchanges, between the frames. One at a time. */
  run<Progress, Outcome>(
    procedure: Procedure<Progress, Outcome>,
    onProgress: (progress: Progress) => void,
    onEnd: (outcome: Outcome) => void,
    onBroken: () => void = () => {},
  ): void {
    this.#runner.run(procedure, this.#nowUs, onProgress, onEnd, onBroken);
  }

  /** Ends what runs, between two of its steps. */
  endProcedure(): void {
    this.#runner.end();
  }

  /** The plug was pulled: nobody answers any more. */
  unplugged(): void {
    this.wire.reset();
    this.endProcedure();
    this.#forgetAsked();
  }

  #forgetAsked(): void {
    for (const device of this.#devices) {
      device.isAsked = false;
      device.isSwitching = false;
      if (device.phase === "waking") device.phase = "unknown";
    }
  }

  /** Leads one device a step on: off, on, or nearer to what is wanted. */
  #lead(device: LiveDevice): void {
    const isWanted = !Number.isNaN(device.wanted);
    if (device.phase === "held" && isWanted) {
      const { left, window, calmTicksPerFrame, fastestTicksPerFrame } = device;
      const [low, high] = [Math.ceil(window.low), Math.floor(window.high)];
      // A window that was drawn in around it: it comes in as calmly as one that was away.
      const isAway = left < low || left > high;
      const most = device.isCatchingUp || isAway ? calmTicksPerFrame : fastestTicksPerFrame;
      const to = Math.max(low, Math.min(high, device.wanted));
      const gap = to - left;
      device.goal = Math.abs(gap) <= most ? to : left + Math.sign(gap) * most;
      if (device.goal === to) device.isCatchingUp = false;
    } else if (!isWanted && (device.phase === "held" || device.phase === "unknown")) this.#switchOff(device);
    else if (isWanted && (device.phase === "limp" || device.phase === "unknown")) this.#switchOn(device);
  }

  #switchOff(device: LiveDevice): void {
    if (device.isSwitching) return;
    device.isSwitching = true;
    this.#write(device, "torque", 0, (answer) => {
      device.isSwitching = false;
      if (answer.replies.length > 0 && Number.isNaN(device.wanted)) device.phase = "limp";
    });
  }

  /** Finds out where it stands, makes that its goal, and only then lets it push. */
  #switchOn(device: LiveDevice): void {
    const stretch = sensedStretch(device.layout);
    const bytes = stretch && readRequest(device.layout, device.id, stretch.address, stretch.count);
    // Not while something that a person asked for runs: it was let through because this servo was limp, and may change what is read here.
    if (!stretch || !bytes || device.isSwitching || this.isBusy) return;
    device.isSwitching = true;
    device.phase = "waking";
    const giveUp = () => {
      device.isSwitching = false;
      if (device.phase === "waking") device.phase = "unknown";
    };
    this.#ask(device, bytes, stretch.count, rank.torque, 3, (answer) => {
      if (!this.#hear(device, stretch.address, answer)) return giveUp();
      const { position } = device.telemetry;
      const { low, high } = device.window;
      const play = ticksOfPlay(device);
      if (position < low - play || position > high + play) return this.#leaveLimp(device, "outside");
      this.#readRole(device, "mode", giveUp, (modeRaw) => {
        const mode = device.layout.modes.find(({ value }) => value === modeRaw)?.kind ?? "position";
        if (mode === "velocity") return this.#leaveLimp(device, "turning");
        this.#readRole(device, "lowestPosition", giveUp, (lowest) =>
          this.#readRole(device, "highestPosition", giveUp, (highest) => {
            // Over many turns these limits do not hold; else it would leap to them as soon as it may push.
            const isFree = mode === "multiTurn" || lowest === null || highest === null;
            if (isFree || (position >= lowest - play && position <= highest + play)) this.#place(device, giveUp);
            else this.#leaveLimp(device, "ends");
          }),
        );
      });
    });
  }

  /** Makes where it stands its goal, and then lets it push. */
  #place(device: LiveDevice, giveUp: () => void): void {
    const { position } = device.telemetry;
    this.#write(device, "goalPosition", position, (placed) => {
      if (placed.replies.length === 0 || Number.isNaN(device.wanted)) return giveUp();
      this.#write(device, "torque", 1, (switched) => {
        if (switched.replies.length === 0 || Number.isNaN(device.wanted)) return giveUp();
        device.isSwitching = false;
        device.phase = "held";
        device.goal = position;
        device.left = position;
        device.isCatchingUp = true;
      });
    });
  }

  #leaveLimp(device: LiveDevice, kind: DeviceNews["kind"]): void {
    device.isSwitching = false;
    device.phase = "limp";
    device.wanted = Number.NaN;
    this.onNews({ id: device.id, kind, error: 0 });
  }

  /** Reads one register of a device; null where its family has none of that role. */
  #readRole(device: LiveDevice, role: RegisterRole, onSilent: () => void, onRead: (raw: number | null) => void): void {
    const register = registerFor(device.layout, role);
    const { address, count } = register ? stretchOf([register]) : { address: 0, count: 0 };
    const bytes = register && readRequest(device.layout, device.id, address, count);
    if (!register || !bytes) {
      onRead(null);
      return;
    }
    this.#ask(device, bytes, count, rank.torque, 3, (answer) => {
      const reply = answer.replies[0];
      if (!reply || reply.packet.parameters.length < count || Number.isNaN(device.wanted)) onSilent();
      else onRead(rawIn(device.layout, register, reply.packet.parameters, register.address - address));
    });
  }

  #write(device: LiveDevice, role: "torque" | "goalPosition", raw: number, onDone: (answer: WireAnswer) => void): void {
    const register = registerFor(device.layout, role);
    const request = register && writeRequest(device.layout, device.id, register, raw);
    if (request) this.#ask(device, request.bytes, 0, rank.torque, 3, onDone);
  }

  #ask(
    device: LiveDevice,
    bytes: Uint8Array,
    replyBytes: number | null,
    exchangeRank: number,
    tries: number,
    onDone: (answer: WireAnswer) => void,
  ): void {
    this.wire.ask(
      {
        layout: device.layout,
        bytes,
        from: [device.id],
        replyBytes,
        listensOut: false,
        tries,
        rank: exchangeRank,
        onDone: (answer) => {
          this.#countAnswer(device, answer);
          onDone(answer);
        },
      },
      this.#nowUs,
    );
  }

  #sendGoals(): void {
    // One that is being switched off is sent nothing more, though it has not said yet that it let go.
    const held = this.#devices.filter(({ phase, wanted }) => phase === "held" && !Number.isNaN(wanted));
    for (const packet of goalPackets(held)) {
      const mine = held.filter(({ id, layout }) =>
        packet.from.length > 0 ? packet.from.includes(id) : layout === packet.layout,
      );
      const goals = mine.map(({ goal }) => goal);
      // Only what has got onto the wire is where the next step begins: a frame may be replaced before.
      const onDone = () => {
        for (const [at, device] of mine.entries()) if (device.phase === "held") device.left = goals[at] as number;
      };
      const once = { replyBytes: null, listensOut: false, tries: 1, rank: rank.goals, onDone };
      this.wire.ask({ ...packet, ...once }, this.#nowUs);
    }
  }

  /** In what time is left, asks the next device how it is. */
  #sense(): void {
    if (!this.wire.isIdle || this.wire.bitsPerS !== this.#boardBitsPerS) return;
    while (this.#sensedInFrame < this.#devices.length) {
      this.#sensedInFrame += 1;
      const device = this.#devices[this.#nextSensed % this.#devices.length] as LiveDevice;
      this.#nextSensed += 1;
      const isSilent = device.phase === "silent";
      if (device.isAsked || (isSilent && this.#nowUs - device.calledUs < callSilentEveryUs)) continue;
      device.calledUs = this.#nowUs;
      device.timesSensed += 1;
      if (device.phase === "held" && device.timesSensed % lookEvery === 0) {
        this.#look(device, "held");
        return;
      }
      const stretch = sensedStretch(device.layout);
      const bytes = stretch && readRequest(device.layout, device.id, stretch.address, stretch.count);
      if (!stretch || !bytes) continue;
      device.isAsked = true;
      this.#ask(device, bytes, stretch.count, rank.senses, 1, (answer) => {
        device.isAsked = false;
        this.#hear(device, stretch.address, answer);
      });
      return;
    }
  }

  /** Takes what a device says of itself. */
  #hear(device: LiveDevice, address: number, answer: WireAnswer): boolean {
    const reply = answer.replies[0];
    if (!reply || reply.packet.parameters.length === 0) return false;
    takeSensed(device.layout, address, reply.packet.parameters, device.telemetry);
    device.telemetry.atUs = reply.atUs;
    this.positions[device.id] = device.telemetry.position;
    this.currentsMa[device.id] = device.telemetry.currentMa;
    return true;
  }

  /** Keeps count of who answers. One that is back is asked whether it still holds, before anything is sent to it. */
  #countAnswer(device: LiveDevice, answer: WireAnswer): void {
    const reply = answer.replies[0];
    if (!reply) {
      device.misses += 1;
      if (device.misses >= missesUntilSilent && device.phase !== "silent") {
        device.phase = "silent";
        this.positions[device.id] = Number.NaN;
        this.currentsMa[device.id] = Number.NaN;
        device.telemetry.atUs = Number.NaN;
        this.onNews({ id: device.id, kind: "silent", error: 0 });
        if (this.#devices.every(({ phase }) => phase === "silent")) this.state = { kind: "lost" };
      }
      return;
    }
    const { error } = reply.packet;
    device.misses = 0;
    const before = device.telemetry.error;
    device.telemetry.error = error;
    if (this.state.kind !== "live") {
      this.wasLimp = false;
      this.state = { kind: "live" };
    }
    if (device.phase === "silent") {
      device.phase = "waking";
      this.#look(device, "back");
    } else if (error !== before && device.phase === "held") this.#look(device, "held");
  }

  /** Reads whether it still holds: one that was restarted, or let go by itself, is limp, and stays so until a person holds it. */
  #look(device: LiveDevice, since: "back" | "held"): void {
    if (device.isSwitching) return;
    const torque = registerFor(device.layout, "torque");
    const bytes = torque && readRequest(device.layout, device.id, torque.address, torque.size);
    if (!torque || !bytes) return;
    device.isSwitching = true;
    this.#ask(device, bytes, torque.size, rank.torque, 3, (answer) => {
      device.isSwitching = false;
      const reply = answer.replies[0];
      if (!reply) {
        if (device.phase === "waking") device.phase = "unknown";
        return;
      }
      const isHeld = rawIn(device.layout, torque, reply.packet.parameters) !== 0;
      const { error } = device.telemetry;
      if (!isHeld) {
        if (device.phase === "limp") return;
        device.phase = "limp";
        device.wanted = Number.NaN;
        const didLetGo = troublesIn(device.layout, error).some(({ letsGo }) => letsGo);
        this.onNews({ id: device.id, kind: didLetGo ? "letGo" : "restarted", error });
        return;
      }
      if (device.phase === "held") return;
      // It kept its place meanwhile: from there it is led on.
      device.phase = "held";
      device.goal = device.telemetry.position;
      device.left = device.telemetry.position;
      device.isCatchingUp = true;
      if (since === "back") this.onNews({ id: device.id, kind: "back", error });
    });
  }
}
