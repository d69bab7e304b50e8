import type { LinkState } from "@core/link";
import type { Layout } from "@core/project";
import type { Procedure } from "../procedures/procedure";
import { ProcedureRunner } from "../procedures/procedureRunner";
import { goalPackets } from "../registers/goalPackets";
import { registerFor } from "../registers/registers";
import { readRequest, writeRequest } from "../registers/requests";
import { sensedStretch, type Telemetry } from "../registers/telemetry";
import { BusWire, rank, type WireAnswer } from "../wire/wire";
import { DeviceTalk } from "./deviceTalk";
import { type BusDevice, type DeviceNews, type LiveDevice, leadGoal, type Phase, unknownDevice } from "./liveDevice";
import { Switching } from "./switching";

/** So many reads in a row without an answer, and a device counts as silent. */
const missesUntilSilent = 4;
/** A silent device is called this seldom, so that it does not take the wire from the others. */
const callSilentEveryUs = 300_000;
/** Every so many times a device that holds is asked whether it still does: a short dip of the supply may have restarted it unseen. */
const lookEvery = 8;

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
  readonly wire: BusWire;
  onNews: (news: DeviceNews) => void = () => {};
  readonly #devices: readonly LiveDevice[];
  /** All families that may be on the wire, whether a joint is of them or not. */
  readonly #layouts: readonly Layout[];
  readonly #boardBitsPerS: number;
  readonly #runner: ProcedureRunner;
  readonly #talk: DeviceTalk;
  readonly #switching: Switching;
  #nextSensed = 0;
  /** How many were asked how they are since the last frame: each once is enough. */
  #sensedInFrame = 0;

  constructor(
    bitsPerS: number,
    channels: number,
    devices: readonly BusDevice[],
    layouts: readonly Layout[],
    send: (bytes: Uint8Array, bitsPerS: number, atUs: number) => void,
    isThroughAdapter = false,
  ) {
    this.#boardBitsPerS = bitsPerS;
    this.#layouts = layouts;
    this.wire = new BusWire(bitsPerS, send, isThroughAdapter);
    this.#runner = new ProcedureRunner(this.wire);
    this.#talk = new DeviceTalk(this.wire, channels, (device, answer) => this.#countAnswer(device, answer));
    this.#switching = new Switching(
      this.#talk,
      () => this.isBusy,
      (news) => this.onNews(news),
    );
    this.#devices = devices.map(unknownDevice);
    // With no joint on it there is nobody to wait for.
    if (devices.length === 0) this.state = { kind: "live" };
  }

  /** What each device was last read to stand at, by its id; NaN for one that does not say. */
  get positions(): Float64Array {
    return this.#talk.positions;
  }

  get currentsMa(): Float64Array {
    return this.#talk.currentsMa;
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
    this.#talk.nowUs = Math.max(this.#talk.nowUs, atUs);
    this.wire.receive(bytes, atUs);
    this.#sense();
  }

  wake(nowUs: number): void {
    this.#talk.nowUs = Math.max(this.#talk.nowUs, nowUs);
    this.#runner.wake(nowUs);
    this.wire.wake(nowUs);
    this.#sense();
  }

  /**
   * One frame: for each joint the tick that it is to go to; NaN lets it go. At another speed than the bus's own no device would hear it, so that
   * nothing is sent while a scan is at it.
   */
  sendFrame(channels: ArrayLike<number>, registers: ArrayLike<number>, nowMs: number): void {
    this.#talk.nowUs = Math.max(this.#talk.nowUs, nowMs * 1000);
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

  /** What lets everything on the bus go. */
  get releasePackets(): readonly { readonly layout: Layout; readonly bytes: Uint8Array }[] {
    return this.#layouts.flatMap((layout) => {
      const torque = registerFor(layout, "torque");
      const mine = this.#devices.filter((device) => device.layout === layout);
      // All at once where the family can; a servo that is no joint and turns on and on lets go as well.
      const ids = layout.broadcastId === null ? mine.map(({ id }) => id) : [layout.broadcastId];
      return (torque ? ids : []).flatMap((id) => {
        const request = torque && writeRequest(layout, id, torque, 0, true);
        return request ? [{ layout, bytes: request.bytes }] : [];
      });
    });
  }

  /** Lets everything go at once, whatever is on the wire. Nobody answers to it: the next frames make sure of each joint. */
  releaseAll(nowMs: number): void {
    this.#talk.nowUs = Math.max(this.#talk.nowUs, nowMs * 1000);
    this.wire.withdraw((exchange) => exchange.rank <= rank.goals);
    this.endProcedure();
    for (const { layout, bytes } of this.releasePackets) this.wire.interrupt(layout, bytes, this.#talk.nowUs);
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
    this.#runner.run(procedure, this.#talk.nowUs, onProgress, onEnd, onBroken);
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
    if (device.phase === "held" && isWanted) leadGoal(device);
    else if (!isWanted && (device.phase === "held" || device.phase === "unknown")) this.#switching.off(device);
    else if (isWanted && (device.phase === "limp" || device.phase === "unknown")) this.#switching.on(device);
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
      this.wire.ask({ ...packet, ...once }, this.#talk.nowUs);
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
      if (device.isAsked || (isSilent && this.#talk.nowUs - device.calledUs < callSilentEveryUs)) continue;
      device.calledUs = this.#talk.nowUs;
      device.timesSensed += 1;
      if (device.phase === "held" && device.timesSensed % lookEvery === 0) {
        this.#switching.look(device, "held");
        return;
      }
      const stretch = sensedStretch(device.layout);
      const bytes = stretch && readRequest(device.layout, device.id, stretch.address, stretch.count);
      if (!stretch || !bytes) continue;
      device.isAsked = true;
      this.#talk.ask(device, bytes, stretch.count, rank.senses, 1, (answer) => {
        device.isAsked = false;
        this.#talk.hear(device, stretch.address, answer);
      });
      return;
    }
  }

  /** Keeps count of who answers. One that is back is asked whether it still holds, before anything is sent to it. */
  #countAnswer(device: LiveDevice, answer: WireAnswer): void {
    const reply = answer.replies[0];
    if (!reply) {
      device.misses += 1;
      if (device.misses >= missesUntilSilent && device.phase !== "silent") {
        device.phase = "silent";
        this.#talk.forget(device);
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
      this.#switching.look(device, "back");
    } else if (error !== before && device.phase === "held") this.#switching.look(device, "held");
  }
}
