import type { RegisterRole } from "@core/project";
import { rawIn, registerFor, stretchOf } from "../registers/registers";
import { readRequest, writeRequest } from "../registers/requests";
import { takeSensed } from "../registers/telemetry";
import { type BusWire, rank, type WireAnswer } from "../wire/wire";
import type { LiveDevice } from "./liveDevice";

/** Questions and orders to single devices, and what they say of themselves. */
export class DeviceTalk {
  nowUs = 0;
  readonly positions: Float64Array;
  readonly currentsMa: Float64Array;
  readonly #wire: BusWire;
  readonly #onAnswer: (device: LiveDevice, answer: WireAnswer) => void;

  constructor(wire: BusWire, channels: number, onAnswer: (device: LiveDevice, answer: WireAnswer) => void) {
    this.#wire = wire;
    this.#onAnswer = onAnswer;
    this.positions = new Float64Array(channels).fill(Number.NaN);
    this.currentsMa = new Float64Array(channels).fill(Number.NaN);
  }

  /** Nothing is known any more of how it is. */
  forget({ id, telemetry }: LiveDevice): void {
    this.positions[id] = Number.NaN;
    this.currentsMa[id] = Number.NaN;
    telemetry.atUs = Number.NaN;
  }

  /** Reads one register of a device; null where its family has none of that role. */
  readRole(device: LiveDevice, role: RegisterRole, onSilent: () => void, onRead: (raw: number | null) => void): void {
    const register = registerFor(device.layout, role);
    const { address, count } = register ? stretchOf([register]) : { address: 0, count: 0 };
    const bytes = register && readRequest(device.layout, device.id, address, count);
    if (!register || !bytes) {
      onRead(null);
      return;
    }
    this.ask(device, bytes, count, rank.torque, 3, (answer) => {
      const reply = answer.replies[0];
      if (!reply || reply.packet.parameters.length < count || Number.isNaN(device.wanted)) onSilent();
      else onRead(rawIn(device.layout, register, reply.packet.parameters, register.address - address));
    });
  }

  write(device: LiveDevice, role: "torque" | "goalPosition", raw: number, onDone: (answer: WireAnswer) => void): void {
    const register = registerFor(device.layout, role);
    const request = register && writeRequest(device.layout, device.id, register, raw);
    if (request) this.ask(device, request.bytes, 0, rank.torque, 3, onDone);
  }

  ask(
    device: LiveDevice,
    bytes: Uint8Array,
    replyBytes: number | null,
    exchangeRank: number,
    tries: number,
    onDone: (answer: WireAnswer) => void,
  ): void {
    this.#wire.ask(
      {
        layout: device.layout,
        bytes,
        from: [device.id],
        replyBytes,
        listensOut: false,
        tries,
        rank: exchangeRank,
        onDone: (answer) => {
          this.#onAnswer(device, answer);
          onDone(answer);
        },
      },
      this.nowUs,
    );
  }

  /** Takes what a device says of itself. */
  hear(device: LiveDevice, address: number, answer: WireAnswer): boolean {
    const reply = answer.replies[0];
    if (!reply || reply.packet.parameters.length === 0) return false;
    takeSensed(device.layout, address, reply.packet.parameters, device.telemetry);
    device.telemetry.atUs = reply.atUs;
    this.positions[device.id] = device.telemetry.position;
    this.currentsMa[device.id] = device.telemetry.currentMa;
    return true;
  }
}
