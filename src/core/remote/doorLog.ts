import { atLeastZero, type DeepReadonly, finite, textUpTo, wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import { Bucket } from "./bucket";

/** Who came to a door, what they did there, and what was refused. */
export const logEntrySchema = z.strictObject({
  id: atLeastZero,
  /** In ms since 1970: when it happened last. */
  atMs: finite,
  who: textUpTo(80),
  what: z.enum(["came", "left", "did", "refused"]),
  sentence: textUpTo(200),
  /** How often it happened in a row. */
  times: wholeBetween(1, 2 ** 31),
});
export type LogEntry = DeepReadonly<z.infer<typeof logEntrySchema>>;

const entriesAtMost = 300;
/** What somebody goes on doing is one entry. */
const sameWithinMs = 30_000;
const lookedThrough = 8;
/** Whoever makes up a new name for each word fills no log either. */
const refusalsPerS = 1;
const refusalsAtOnce = 50;
const others = "others";

/** The last that happened at the doors, in order. What happens again and again is one entry that counts: a flood fills no log. */
export class DoorLog {
  #entries: LogEntry[] = [];
  #lastId = 0;
  readonly #refusals = new Bucket(refusalsPerS, refusalsAtOnce);
  /** Counts every change. */
  changes = 0;

  /** @param nowMs by a clock that never runs backwards; `atMs`, what is written down, by the one on the wall */
  add(nowMs: number, who: string, what: LogEntry["what"], sentence: string, atMs = nowMs): void {
    this.changes += 1;
    const from = Math.max(0, this.#entries.length - lookedThrough);
    for (let at = this.#entries.length - 1; at >= from; at -= 1) {
      const entry = this.#entries[at] as LogEntry;
      if (entry.who !== who || entry.what !== what || entry.sentence !== sentence) continue;
      if (atMs - entry.atMs > sameWithinMs) break;
      this.#entries[at] = { ...entry, atMs, times: entry.times + 1 };
      return;
    }
    if (what === "refused" && who !== others && !this.#refusals.take(nowMs)) {
      this.add(nowMs, others, "refused", "More was refused than is written down.", atMs);
      return;
    }
    this.#lastId += 1;
    this.#entries.push({
      id: this.#lastId,
      atMs,
      who: who.slice(0, 80),
      what,
      sentence: sentence.slice(0, 200),
      times: 1,
    });
    if (this.#entries.length > entriesAtMost) this.#entries.shift();
  }

  get entries(): readonly LogEntry[] {
    return this.#entries;
  }
}
