/** What was on its way for so much longer than the quickest from there is late. */
const lateAfterMs = 500;
/** After such a silence a sender may count from the beginning again. */
const forgottenAfterMs = 2000;
/** Clocks drift: the quickest way that was seen is believed a little less every second. */
const driftMsPerS = 0.2;
const sendersAtMost = 500;
/** Who is late for so long without a break is not late: its clock was set back. */
const clockSetAfterMs = 5000;

interface Sender {
  seq: number;
  heardMs: number;
  /** By how much its clock is behind ours at most, the quickest way included. */
  leastMs: number;
  /** Since when all that it says has come late; NaN while it does not. */
  lateSinceMs: number;
}

/** Where a message stands among those of its sender. */
export interface Stamp {
  /** Counts its messages; null where it does not say. */
  readonly seq: number | null;
  /** When it was sent, in ms of the sender's own clock; null where it does not say. */
  readonly atMs: number | null;
}

export type Freshness = "fresh" | "old" | "late";

/**
 * Tells fresh messages from those that are old, doubled, overtaken or late, sender by sender. Nobody knows a stranger's clock: the message that came quickest
 * shows how far it is behind, and what was much longer on its way than that one is late.
 */
export class Newest {
  #senders = new Map<string, Sender>();

  judge(sender: string, { seq, atMs }: Stamp, nowMs: number): Freshness {
    const known = this.#senders.get(sender);
    const behindMs = atMs === null ? Number.NaN : nowMs - atMs;
    if (!known) {
      // Whoever makes up names pushes out the oldest, and takes no room.
      if (this.#senders.size >= sendersAtMost) this.#senders.delete(this.#senders.keys().next().value as string);
      this.#senders.set(sender, { seq: seq ?? -1, heardMs: nowMs, leastMs: behindMs, lateSinceMs: Number.NaN });
      return "fresh";
    }
    const isRemembered = nowMs - known.heardMs < forgottenAfterMs;
    if (seq !== null && isRemembered && seq <= known.seq) return "old";
    if (atMs !== null) {
      const leastMs = known.leastMs + ((nowMs - known.heardMs) / 1000) * driftMsPerS;
      // Not “is less”: before the first time that it told there is none.
      if (!(behindMs >= leastMs)) known.leastMs = behindMs;
      else if (behindMs - leastMs > lateAfterMs) {
        if (Number.isNaN(known.lateSinceMs)) known.lateSinceMs = nowMs;
        // What was held up comes in a burst; a clock that was set back goes on being late.
        if (nowMs - known.lateSinceMs < clockSetAfterMs) return "late";
        known.leastMs = behindMs;
      } else known.leastMs = leastMs;
      known.lateSinceMs = Number.NaN;
    }
    if (seq !== null) known.seq = seq;
    known.heardMs = nowMs;
    return "fresh";
  }
}
