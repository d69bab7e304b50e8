import { createSocket, type Socket } from "node:dgram";
import { afarKeys } from "@core/origins";
import type { DoorSettings, DoorState } from "@core/remote";
import { Universe, type UniversePacket } from "@core/remote";
import { Packet } from "sacn";
import type { HeardValue, Messages } from "./messages";

/** The port of the standard (ANSI E1.31, 9.2). */
const sacnPort = Number(process.env.SACN_PORT ?? 5568);
const packetBytesAtMost = 638;
const headBytes = 126;
const tickEveryMs = 250;
const universesAtMost = 32;
const isPreview = 0x80;
const isTerminated = 0x40;

/** The group in which a universe is sent (E1.31, 9.3.1). */
const groupOf = (universe: number) => `239.255.${universe >> 8}.${universe & 0xff}`;

/** What a source of the bench waits for in a universe. */
interface Slot {
  readonly key: string;
  readonly universe: number;
  readonly slot: number;
  readonly isFine: boolean;
}

/** A lighting desk's universes (ANSI E1.31): priority, order and loss as the standard has them; the slots that sources wait for are handed on when they change. */
export class SacnDoor {
  readonly #messages: Messages;
  readonly #nowMs: () => number;
  #socket: Socket | null = null;
  #isOut = false;
  #ticking: NodeJS.Timeout | undefined;
  #universes = new Map<number, Universe>();
  #slots: readonly Slot[] = [];
  #learning = 1;
  readonly #last = new Map<string, number>();
  state: DoorState = { state: "off", sentence: "" };

  constructor(messages: Messages, nowMs: () => number) {
    this.#messages = messages;
    this.#nowMs = nowMs;
  }

  async open({ universe }: DoorSettings["sacn"], isOut: boolean): Promise<void> {
    this.close();
    this.#learning = universe;
    this.#isOut = isOut;
    const socket = createSocket({ type: "udp4", reuseAddr: true });
    try {
      await new Promise<void>((resolve, reject) => {
        socket.once("error", reject);
        socket.bind(sacnPort, isOut ? "0.0.0.0" : "127.0.0.1", resolve);
      });
    } catch (error) {
      this.state = {
        state: "lost",
        sentence: `UDP port ${sacnPort} could not be opened (${(error as NodeJS.ErrnoException).code}).`,
      };
      return;
    }
    socket.on("error", () => {});
    socket.on("message", (packet, { address }) => this.#hear(packet, `sACN ${address}`));
    this.#socket = socket;
    this.#ticking = setInterval(() => this.#tick(), tickEveryMs);
    this.#join();
    this.state = {
      state: "open",
      sentence: isOut ? `UDP port ${sacnPort}, with its groups` : `UDP port ${sacnPort} of this computer alone`,
    };
  }

  /** What sources wait for, by their keys. */
  setKeys(keys: readonly string[]): void {
    this.#slots = keys.flatMap((key) => {
      const [, universe, slot, bits] = /^sacn:(\d+)\/(\d+)(\/16)?$/.exec(key) ?? [];
      return universe && slot
        ? [{ key, universe: Number(universe), slot: Number(slot), isFine: bits !== undefined }]
        : [];
    });
    this.#join();
  }

  close(): void {
    clearInterval(this.#ticking);
    this.#socket?.close();
    if (this.#socket) this.#messages.lost("The lighting desk", (key) => key.startsWith("sacn:"));
    this.#socket = null;
    this.#universes = new Map();
    this.#last.clear();
    this.state = { state: "off", sentence: "" };
  }

  #join(): void {
    const wanted = [...new Set([this.#learning, ...this.#slots.map(({ universe }) => universe)])].slice(
      0,
      universesAtMost,
    );
    for (const universe of wanted) {
      if (this.#universes.has(universe)) continue;
      this.#universes.set(universe, new Universe());
      if (this.#socket && this.#isOut)
        try {
          this.#socket.addMembership(groupOf(universe));
        } catch {
          // No network with groups: packets that are sent straight here are heard all the same.
        }
    }
  }

  #hear(bytes: Buffer, who: string): void {
    if (!this.#messages.admits(who)) return;
    const read = packetIn(bytes);
    if (!read) {
      this.#messages.odd(who);
      return;
    }
    const universe = this.#universes.get(read.universe);
    if (universe?.hear(read.packet, this.#nowMs())) this.#pass(who, read.universe, universe, read.packet);
  }

  /** Hands on what changed: what sources wait for, and of the universe that is listened to whatever is moved. */
  #pass(who: string, number: number, universe: Universe, { slots }: UniversePacket): void {
    const values: HeardValue[] = [];
    const pass = (key: string, value: number) => {
      if (Number.isNaN(value) || this.#last.get(key) === value) return;
      const isNew = !this.#last.has(key);
      this.#last.set(key, value);
      // Where a slot stands when it is first seen is where it rests: nobody has moved it.
      if (!isNew || this.#slots.some((one) => one.key === key)) values.push({ key, value });
    };
    for (const { key, universe: of, slot, isFine } of this.#slots)
      if (of === number) pass(key, universe.valueOf(slot, isFine));
    if (number === this.#learning)
      for (let slot = 1; slot <= slots.length; slot += 1)
        pass(afarKeys.sacn(number, slot, false), universe.valueOf(slot, false));
    this.#messages.hearValues(who, values);
  }

  #tick(): void {
    for (const [number, universe] of this.#universes) {
      if (universe.tick(this.#nowMs())) continue;
      const isOf = (key: string) => key.startsWith(`sacn:${number}/`);
      for (const key of this.#last.keys()) if (isOf(key)) this.#last.delete(key);
      this.#messages.lost(`Universe ${number}`, isOf);
    }
  }
}

/** A data packet of the standard, read; null for any other, for a preview, and for one that lies about its length. */
export function packetIn(bytes: Buffer): { readonly universe: number; readonly packet: UniversePacket } | null {
  if (bytes.length < headBytes || bytes.length > packetBytesAtMost) return null;
  try {
    const read = new Packet(bytes);
    const slots = read.payloadAsBuffer;
    // The count holds the start code as well.
    if (!slots || read.propertyValueCount - 1 > slots.length || read.propertyValueCount > 513) return null;
    if (read.priority > 200 || (read.options & isPreview) !== 0) return null;
    return {
      universe: read.universe,
      packet: {
        cid: read.cid.toString("hex"),
        priority: read.priority,
        sequence: read.sequence,
        isTerminated: (read.options & isTerminated) !== 0,
        slots: new Uint8Array(slots.subarray(0, read.propertyValueCount - 1)),
      },
    };
  } catch {
    return null;
  }
}
