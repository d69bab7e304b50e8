import { afarKeys } from "@core/origins";
import type { Act, BenchTold, LogEntry, ReadMessage, Wants } from "@core/remote";
import { Bucket, Newest, payloadBytesAtMost, readMessage } from "@core/remote";

/** From one sender: a desk sends forty-four frames in a second, a stick no more often than a display shows. */
const perSenderPerS = 250;
const perSenderAtOnce = 150;
/** From all together; the frames of the bench do not notice so many. */
const perS = 2000;
const sendersAtMost = 200;
const heardAtMost = 24;
const usualMoveMs = 800;

export interface MessageEars {
  readonly nowMs: () => number;
  readonly tell: (told: BenchTold) => void;
  readonly note: (who: string, what: LogEntry["what"], sentence: string) => void;
}

/** A number as a door heard it, before anybody has looked whether it is wanted. */
export interface HeardValue {
  readonly key: string;
  readonly value: number;
}

/**
 * The one funnel through which messages of other machines come, whichever their door: rate, shape, age and rights are looked at here, and what is left are
 * numbers for the sources that wait for them, and acts that may be done.
 */
export class Messages {
  readonly #ears: MessageEars;
  readonly #all = new Bucket(perS, perS / 2);
  #senders = new Map<string, Bucket>();
  readonly #newest = new Newest();
  #wants: Wants = { root: "", keys: [], mayStop: false, poses: [], routines: [] };
  #wanted: ReadonlySet<string> = new Set();
  /** Who said it last, by key. */
  readonly #feeders = new Map<string, string>();
  readonly #heard = new Map<string, { value: number; who: string; atMs: number }>();
  taken = 0;
  refused = 0;

  constructor(ears: MessageEars) {
    this.#ears = ears;
  }

  setWants(wants: Wants): void {
    this.#wants = wants;
    this.#wanted = new Set(wants.keys);
    for (const key of this.#feeders.keys()) if (!this.#wanted.has(key)) this.#feeders.delete(key);
  }

  get wants(): Wants {
    return this.#wants;
  }

  /** What was heard last, the newest first. */
  get heard() {
    return [...this.#heard].map(([key, one]) => ({ key, ...one })).reverse();
  }

  /** Whether a sender may say one more thing now; what may not is counted, and nothing else is done with it. */
  admits(who: string): boolean {
    const nowMs = this.#ears.nowMs();
    if (this.#bucketOf(who).take(nowMs) && this.#all.take(nowMs)) return true;
    this.refused += 1;
    this.#ears.note(who.slice(0, 80), "refused", "It says more than is listened to.");
    return false;
  }

  /** Somebody said what no door of this bench understands. */
  odd(who: string): void {
    this.refused += 1;
    this.#ears.note(who, "refused", "It said what this bench does not understand.");
  }

  /** A message under a topic. `isRetained`: it was kept by a broker, and nobody says it now. */
  hearTopic(who: string, topic: string, payload: Buffer, isRetained: boolean): void {
    // Each topic that is listened to has room of its own; all that nobody asked for share one.
    const { root } = this.#wants;
    const isWanted = topic.startsWith(`${root}/do/`) || this.#wanted.has(afarKeys.mqtt(topic.slice(root.length + 4)));
    if (!this.admits(isWanted ? `${who} ${topic}` : who)) return;
    if (payload.length > payloadBytesAtMost || isRetained) {
      this.refused += 1;
      this.#ears.note(
        who,
        "refused",
        isRetained ? "What the broker had kept moves nothing." : "It said too much at once.",
      );
      return;
    }
    const message = readMessage(this.#wants.root, topic, payload.toString());
    if (!message) this.odd(who);
    else this.#take(message.from ?? who, message, topic);
  }

  /** This bench says a cue, and nobody else is there to hear it. */
  hearCue(name: string): void {
    this.#value("this bench", afarKeys.cue(name), 1, this.#ears.nowMs());
  }

  /** Numbers that are new by the very way in which they came, as a desk sends them. */
  hearValues(who: string, values: readonly HeardValue[]): void {
    const atMs = this.#ears.nowMs();
    for (const { key, value } of values) this.#value(who, key, value, atMs);
  }

  /** A door is shut or lost: whoever fed through it is gone. `isOf` says which keys are its own. */
  lost(who: string, isOf: (key: string) => boolean): void {
    const keys = [...this.#feeders.keys()].filter(isOf);
    for (const key of keys) this.#feeders.delete(key);
    if (keys.length > 0) this.#ears.tell({ kind: "vanished", keys, who });
  }

  #take(who: string, { heard, seq, atMs }: ReadMessage, topic: string): void {
    const nowMs = this.#ears.nowMs();
    const freshness = this.#newest.judge(`${who} ${topic}`, { seq, atMs }, nowMs);
    if (freshness !== "fresh") {
      this.refused += 1;
      this.#ears.note(who, "refused", freshness === "late" ? "It came late." : "It came twice, or was overtaken.");
      return;
    }
    switch (heard.kind) {
      case "value":
        this.#value(who, heard.key, heard.value, nowMs);
        return;
      case "cue":
        this.#value(who, afarKeys.cue(heard.name), 1, nowMs);
        return;
      case "here":
        if (!heard.isHere) this.#gone(heard.from);
        return;
      default:
        this.#act(who, heard);
    }
  }

  #value(who: string, key: string, value: number, atMs: number): void {
    // Kept in the order in which it was heard.
    this.#heard.delete(key);
    this.#heard.set(key, { value, who: who.slice(0, 80), atMs });
    if (this.#heard.size > heardAtMost) this.#heard.delete(this.#heard.keys().next().value as string);
    if (!this.#wanted.has(key)) return;
    this.taken += 1;
    this.#feeders.set(key, who);
    this.#ears.tell({ kind: "afar", key, value, atMs });
  }

  /** The last will of a sender, or its own word that it goes. */
  #gone(from: string): void {
    const keys = [...this.#feeders].filter(([, who]) => who === from).map(([key]) => key);
    for (const key of keys) this.#feeders.delete(key);
    if (keys.length === 0) return;
    this.#ears.note(from, "left", "It is gone, by its last will.");
    this.#ears.tell({ kind: "vanished", keys, who: from });
  }

  #act(who: string, heard: Exclude<ReadMessage["heard"], { kind: "value" | "cue" | "here" }>): void {
    const act = this.#allowed(heard);
    if (!act) {
      this.refused += 1;
      this.#ears.note(who, "refused", `It may not ask for “${heard.kind}${"name" in heard ? ` ${heard.name}` : ""}”.`);
      return;
    }
    this.taken += 1;
    this.#ears.note(who, "did", "name" in heard ? `${heard.kind} ${heard.name}` : heard.kind);
    this.#ears.tell({ kind: "act", who: who.slice(0, 80), act });
  }

  /** What it asks for, where others may; by name or by id. */
  #allowed(heard: Exclude<ReadMessage["heard"], { kind: "value" | "cue" | "here" }>): Act | null {
    const { mayStop, poses, routines } = this.#wants;
    const find = (items: Wants["poses"], name: string) => items.find((one) => one.id === name || one.name === name);
    switch (heard.kind) {
      case "release":
        return { kind: "release" };
      case "stop":
        return mayStop ? { kind: "stop" } : null;
      case "pose": {
        const pose = find(poses, heard.name);
        return pose ? { kind: "pose", poseId: pose.id, moveMs: heard.moveMs ?? usualMoveMs } : null;
      }
      case "play": {
        const routine = find(routines, heard.name);
        return routine ? { kind: "play", routineId: routine.id } : null;
      }
      default:
        return heard satisfies never;
    }
  }

  #bucketOf(who: string): Bucket {
    const known = this.#senders.get(who);
    if (known) return known;
    // Whoever makes up names shares the room of all who do.
    if (this.#senders.size >= sendersAtMost) this.#senders = new Map();
    const fresh = new Bucket(perSenderPerS, perSenderAtOnce);
    this.#senders.set(who, fresh);
    return fresh;
  }
}
