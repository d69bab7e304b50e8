/** A source that sent nothing for so long is lost (ANSI E1.31, 6.7.1: network data loss). */
export const universeSilentMs = 2500;
/** An overtaken packet is one whose number is at most so far behind (6.7.2); a larger step back is a source that began anew. */
const overtakenBy = 20;
const sourcesAtMost = 16;

/** One packet of a universe, as it was read. */
export interface UniversePacket {
  /** The component that sent it, by its identifier. */
  readonly cid: string;
  readonly priority: number;
  readonly sequence: number;
  /** It says that it ends, in so many words. */
  readonly isTerminated: boolean;
  /** Slot 1 first. */
  readonly slots: Uint8Array;
}

interface Sender {
  priority: number;
  sequence: number;
  heardMs: number;
  slots: Uint8Array;
}

/**
 * One universe of a lighting desk, as several may send it: the highest priority has it; of equals the one that had it first keeps it, so that nothing
 * jumps to and fro between two desks (E1.31, 6.2.3 leaves that to the receiver). One that ends, or is not heard for 2.5 s, is out.
 */
export class Universe {
  readonly #senders = new Map<string, Sender>();
  #holder: string | null = null;

  /** Takes a packet. Says whether it was heard: an overtaken one is not. */
  hear({ cid, priority, sequence, isTerminated, slots }: UniversePacket, nowMs: number): boolean {
    const known = this.#senders.get(cid);
    if (known) {
      // The numbers go round at 256.
      const step = (((sequence - known.sequence) << 24) >> 24) as number;
      if (step <= 0 && step > -overtakenBy) return false;
    } else if (this.#senders.size >= sourcesAtMost || isTerminated) return false;
    if (isTerminated) this.#senders.delete(cid);
    else this.#senders.set(cid, { priority, sequence, heardMs: nowMs, slots });
    this.#choose();
    return true;
  }

  /** Lets time pass: whoever is silent is out. Says whether anybody still sends. */
  tick(nowMs: number): boolean {
    for (const [cid, { heardMs }] of this.#senders) if (nowMs - heardMs > universeSilentMs) this.#senders.delete(cid);
    this.#choose();
    return this.#holder !== null;
  }

  /** The value of a slot, 8 bits, or with the next one 16; NaN where nobody sends it. */
  valueOf(slot: number, isFine: boolean): number {
    const slots = this.#senders.get(this.#holder ?? "")?.slots;
    const [first, second] = [slots?.[slot - 1], slots?.[slot]];
    if (first === undefined) return Number.NaN;
    if (!isFine) return first;
    return second === undefined ? Number.NaN : first * 256 + second;
  }

  #choose(): void {
    const current = this.#senders.get(this.#holder ?? "");
    let best = current ? this.#holder : null;
    let highest = current?.priority ?? -1;
    for (const [cid, { priority }] of this.#senders)
      if (priority > highest) {
        best = cid;
        highest = priority;
      }
    this.#holder = best;
  }
}
