import type { StreamLife } from "@core/wire";
import type { ByteStream } from "../wires";
import type { PacketWire } from "./link";

const nothing = new Uint8Array(0);
/** What was not echoed by the time that so much more was sent never will be. */
const awaitedAtMost = 4096;

/**
 * The wire to a real bus, through an adapter that passes bytes on as they are. Many adapters hear what they send themselves: that is found out with the
 * first packets, and such an echo is swallowed.
 */
export class RealPackets implements PacketWire {
  readonly isOwnTime = false;
  readonly nextEventUs = Number.POSITIVE_INFINITY;
  onBytes: PacketWire["onBytes"] = () => {};
  /** Whether the adapter echoes; null until a packet has told. */
  echoes: boolean | null = null;
  readonly #stream: ByteStream;
  readonly #nowMs: () => number;
  readonly #onSent: (bytes: Uint8Array) => void;
  #bitsPerS: number;
  /** What was sent and may still come back. */
  #awaited: Uint8Array = nothing;
  /** What came that may be an echo, while nobody knows yet whether there is one. */
  #held: number[] = [];

  constructor(stream: ByteStream, bitsPerS: number, nowMs: () => number, onSent: (bytes: Uint8Array) => void) {
    this.#stream = stream;
    this.#bitsPerS = bitsPerS;
    this.#nowMs = nowMs;
    this.#onSent = onSent;
    stream.onBytes = (bytes) => this.#hear(bytes);
    stream.onLife = () => {
      this.echoes = null;
      this.#awaited = nothing;
      this.#held = [];
    };
  }

  get life(): StreamLife {
    return this.#stream.life;
  }

  set lastWords(bytes: Uint8Array) {
    this.#stream.setLastWords(bytes);
  }

  send(bytes: Uint8Array, bitsPerS: number): void {
    if (this.life.kind !== "open") return;
    if (bitsPerS !== this.#bitsPerS) this.#stream.setSpeed(bitsPerS);
    this.#bitsPerS = bitsPerS;
    // Where it echoes, packets that follow at once are echoed one behind the other.
    if ((!this.echoes && this.#held.length > 0) || this.#awaited.length > awaitedAtMost) this.#handOn();
    this.#onSent(bytes);
    this.#stream.write(bytes.slice());
    if (this.echoes !== false) this.#awaited = joined(this.#awaited, bytes);
  }

  arriveUntil(): void {}

  close(): void {
    this.#stream.close();
  }

  #hear(bytes: Uint8Array): void {
    if (this.echoes === false || this.#awaited.length === 0) {
      this.onBytes(bytes, this.#nowMs() * 1000);
      return;
    }
    let at = 0;
    while (
      at < bytes.length &&
      this.#held.length < this.#awaited.length &&
      bytes[at] === this.#awaited[this.#held.length]
    )
      this.#held.push(bytes[at++] as number);
    if (this.#held.length === this.#awaited.length) {
      this.echoes = true;
      this.#awaited = nothing;
      this.#held = [];
    } else if (at < bytes.length) {
      // It is something else: an answer, or an echo that was spoilt on the way.
      this.echoes ??= false;
      this.#handOn();
    }
    if (at < bytes.length) this.onBytes(bytes.subarray(at), this.#nowMs() * 1000);
  }

  /** What looked like an echo and was none is an answer after all. */
  #handOn(): void {
    const held = Uint8Array.from(this.#held);
    this.#held = [];
    this.#awaited = nothing;
    if (held.length > 0 && !this.echoes) this.onBytes(held, this.#nowMs() * 1000);
  }
}

function joined(one: Uint8Array, other: Uint8Array): Uint8Array {
  const both = new Uint8Array(one.length + other.length);
  both.set(one);
  both.set(other, one.length);
  return both;
}
