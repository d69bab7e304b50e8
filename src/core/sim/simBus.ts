import { wireUs } from "@core/bus";
import { seededRandom } from "./random";
import type { SimDevice } from "./simDevice";
import { wakesAtShare } from "./simServo";

/** What goes wrong on the wire, because a person wants to see what happens then. */
export interface BusFaults {
  /** The share of all bytes that are flipped on their way. */
  readonly noise: number;
  /** The share of replies that get lost. */
  readonly lost: number;
  /** The share of replies that come far too late, and how late. */
  readonly late: number;
  readonly lateUs: number;
  /** How long after its last bit the adapter still drives the wire: what begins earlier loses its first bytes. */
  readonly driverOffUs: number;
}

export const noFaults: BusFaults = { noise: 0, lost: 0, late: 0, lateUs: 8000, driverOffUs: 20 };

interface Sounding {
  readonly bytes: Uint8Array;
  readonly fromUs: number;
  readonly toUs: number;
}

/** The full supply, and what a servo at full load takes off it. */
const supplyVolts = 12;
const dropVolts = 0.5;

/**
 * A simulated half-duplex wire with devices on it. What two of them say at once lies over each other and is garbled; what a device hears at
 * another speed than its own it does not hear at all. Time is handed in, in µs.
 */
export class SimBus {
  faults: BusFaults = noFaults;
  /** What reaches a device, in V, where the wiring says so; NaN leaves it to the bus. */
  feed: (device: SimDevice) => number = () => Number.NaN;
  /** Devices whose supply has broken down. */
  readonly #down = new Set<SimDevice>();
  readonly #deliver: (bytes: Uint8Array, atUs: number) => void;
  readonly #random = seededRandom(20_260);
  #devices: readonly SimDevice[] = [];
  #sounding: Sounding[] = [];
  /** The supply is pulled down until then, and so low. */
  #sagUntilMs = Number.NEGATIVE_INFINITY;
  #sagVolts = supplyVolts;
  #volts = supplyVolts;

  constructor(deliver: (bytes: Uint8Array, atUs: number) => void) {
    this.#deliver = deliver;
  }

  /** Those that are plugged in. */
  set devices(devices: readonly SimDevice[]) {
    this.#devices = devices;
  }

  get devices(): readonly SimDevice[] {
    return this.#devices;
  }

  /** When something reaches the host next; Infinity for never. */
  get nextEventUs(): number {
    let next = Number.POSITIVE_INFINITY;
    for (const { toUs } of this.#sounding) next = Math.min(next, toUs);
    return next;
  }

  /** Bytes of the host begin at a moment, at its speed. */
  receive(bytes: Uint8Array, bitsPerS: number, fromUs: number): void {
    const heard = this.#noisy(bytes);
    for (const device of this.#devices) {
      if (device.bitsPerS !== bitsPerS || this.#down.has(device)) continue;
      const endUs = fromUs + wireUs(bytes.length, device.layout.bitsPerByte, bitsPerS);
      const reply = device.receive(heard);
      if (!reply || this.#random() < this.faults.lost) continue;
      const lateUs = this.#random() < this.faults.late ? this.faults.lateUs : 0;
      this.#sound(reply.bytes, device, reply.bitsPerS, endUs, endUs + reply.afterUs + lateUs);
    }
  }

  /** Lets time pass up to a moment: what is said by then reaches the host. */
  advance(nowUs: number): void {
    while (this.nextEventUs <= nowUs) {
      const first = this.#sounding.reduce((one, other) => (other.toUs < one.toUs ? other : one));
      this.#sounding.splice(this.#sounding.indexOf(first), 1);
      this.#deliver(this.#noisy(first.bytes), first.toUs);
    }
  }

  /** Lets the devices live on. */
  step(nowMs: number, dtMs: number): void {
    const isSagging = nowMs < this.#sagUntilMs;
    let loads = 0;
    for (const device of this.#devices) loads += device.loadPercent / 100;
    this.#volts = isSagging ? this.#sagVolts : supplyVolts - dropVolts * loads;
    for (const device of this.#devices) {
      const fed = this.feed(device);
      const volts = isSagging || Number.isNaN(fed) ? this.#volts : fed;
      const isDown = device.servo.supplyShare < wakesAtShare;
      if (isDown && !this.#down.has(device)) device.restart();
      if (isDown) this.#down.add(device);
      else this.#down.delete(device);
      device.advance(dtMs, volts);
    }
  }

  /** The supply breaks down for a moment: all devices start anew. */
  brownOut(nowMs: number): void {
    this.#sagUntilMs = nowMs + 400;
    this.#sagVolts = 5.2;
    for (const device of this.#devices) device.restart();
  }

  /** The wire goes dead: nothing that is on it arrives. */
  silence(): void {
    this.#sounding = [];
  }

  #sound(bytes: Uint8Array, device: SimDevice, bitsPerS: number, requestEndUs: number, fromUs: number): void {
    const byteUs = wireUs(1, device.layout.bitsPerByte, bitsPerS);
    // What begins while the adapter still drives the wire is not heard.
    const deaf = Math.max(0, Math.ceil((requestEndUs + this.faults.driverOffUs - fromUs) / byteUs));
    const said = bytes.subarray(Math.min(deaf, bytes.length));
    const toUs = fromUs + bytes.length * byteUs;
    const other = this.#sounding.find((one) => one.fromUs < toUs && fromUs < one.toUs);
    if (!other) {
      this.#sounding.push({ bytes: said, fromUs, toUs });
      return;
    }
    this.#sounding.splice(this.#sounding.indexOf(other), 1);
    this.#sounding.push(this.#overlaid(other, { bytes: said, fromUs, toUs }, byteUs));
  }

  /** Two voices at once: a low bit of either wins, and bits that do not meet make something else of both. */
  #overlaid(one: Sounding, other: Sounding, byteUs: number): Sounding {
    const [first, second] = one.fromUs <= other.fromUs ? [one, other] : [other, one];
    const behindBytes = (second.fromUs - first.fromUs) / byteUs;
    const [whole, part] = [Math.floor(behindBytes), behindBytes % 1];
    const isAligned = part < 0.08;
    const length = Math.max(first.bytes.length, whole + second.bytes.length);
    const mixed = Uint8Array.from({ length }, (_, at) => {
      const a = first.bytes[at] ?? 0xff;
      const b = second.bytes[at - whole] ?? 0xff;
      if (at < whole || at >= whole + second.bytes.length || isAligned) return a & b;
      return a & b & Math.floor(this.#random() * 256);
    });
    return { bytes: mixed, fromUs: first.fromUs, toUs: Math.max(first.toUs, second.toUs) };
  }

  #noisy(bytes: Uint8Array): Uint8Array {
    const { noise } = this.faults;
    if (noise <= 0) return bytes;
    return bytes.map((byte) => (this.#random() < noise ? byte ^ (1 << Math.floor(this.#random() * 8)) : byte));
  }
}
