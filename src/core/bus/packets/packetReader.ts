import type { Layout } from "@core/project";
import { dissect } from "./dissect";
import { type Direction, headerOf, type Packet } from "./packet";

/** What was found in a stream of bytes. */
export type Heard =
  | { readonly kind: "packet"; readonly packet: Packet; readonly bytes: Uint8Array }
  /** Bytes that are no packet; `hadBadCheck` when they looked like one but for their check. */
  | { readonly kind: "noise"; readonly bytes: Uint8Array; readonly hadBadCheck: boolean };

const largestBuffer = 8192;

/**
 * Finds the packets of one family and direction in a stream of bytes that comes in pieces of any size. Whatever is in between is told as noise;
 * a false beginning costs no packet that follows it: the search goes on one byte further.
 */
export class PacketReader {
  readonly #layout: Layout;
  readonly #direction: Direction;
  readonly #header: readonly number[];
  #bytes = new Uint8Array(512);
  /** What is not yet told begins at `#told`; what is not yet known begins at `#at`. */
  #told = 0;
  #at = 0;
  #end = 0;
  #hadBadCheck = false;

  constructor(layout: Layout, direction: Direction) {
    this.#layout = layout;
    this.#direction = direction;
    this.#header = headerOf(layout, direction);
  }

  /** Takes in bytes, and tells what is known by now. */
  read(bytes: ArrayLike<number>, onHeard: (heard: Heard) => void): void {
    this.#take(bytes);
    this.#search(onHeard, false);
  }

  /** The line has fallen silent: what waits for more bytes will not get them. */
  flush(onHeard: (heard: Heard) => void): void {
    this.#search(onHeard, true);
    this.#tellNoise(this.#end, onHeard);
    this.#told = 0;
    this.#at = 0;
    this.#end = 0;
  }

  /** Bytes wait for more. */
  get isWaiting(): boolean {
    return this.#told < this.#end;
  }

  #search(onHeard: (heard: Heard) => void, isOver: boolean): void {
    const first = this.#header[0] as number;
    while (this.#at < this.#end) {
      if (this.#bytes[this.#at] !== first) {
        this.#at += 1;
        continue;
      }
      const found = dissect(this.#layout, this.#direction, this.#bytes, this.#at, this.#end);
      if (found.status === "short" && !isOver) return;
      if (!found.packet) {
        this.#hadBadCheck ||= found.fault === "check";
        this.#at += 1;
        continue;
      }
      const begin = this.#at;
      this.#tellNoise(begin, onHeard);
      this.#at = found.wireAt.at(-1) as number;
      this.#told = this.#at;
      onHeard({ kind: "packet", packet: found.packet, bytes: this.#bytes.slice(begin, this.#at) });
    }
  }

  #tellNoise(end: number, onHeard: (heard: Heard) => void): void {
    if (end <= this.#told) return;
    onHeard({ kind: "noise", bytes: this.#bytes.slice(this.#told, end), hadBadCheck: this.#hadBadCheck });
    this.#told = end;
    this.#hadBadCheck = false;
  }

  #take(bytes: ArrayLike<number>): void {
    if (this.#end + bytes.length > this.#bytes.length) {
      // What is told is dropped; noise without an end is not kept for ever.
      this.#at = Math.max(this.#at, this.#end - largestBuffer);
      const from = Math.max(this.#told, this.#end - largestBuffer);
      const kept = this.#bytes.subarray(from, this.#end);
      const larger = new Uint8Array(Math.max(512, (kept.length + bytes.length) * 2));
      larger.set(kept);
      this.#bytes = larger;
      this.#at -= from;
      this.#end -= from;
      this.#told = 0;
    }
    this.#bytes.set(bytes, this.#end);
    this.#end += bytes.length;
  }
}
