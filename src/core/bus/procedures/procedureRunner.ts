import { type BusWire, rank, type WireAnswer } from "../wire/wire";
import { type Ask, type Procedure, silence } from "./procedure";

interface Running {
  readonly procedure: Procedure<unknown, unknown>;
  readonly onProgress: (progress: unknown) => void;
  readonly onEnd: (outcome: unknown) => void;
  readonly onBroken: () => void;
  /** It rests until then. */
  waitUntilUs: number;
}

/** Runs one procedure at a time over a wire, behind what is more urgent there. It has no clock: times are handed in, in µs. */
export class ProcedureRunner {
  readonly #wire: BusWire;
  /** The speed of the bus, to which it goes back after a procedure that tried others. */
  readonly #bitsPerS: number;
  #running: Running | null = null;
  #nowUs = 0;

  constructor(wire: BusWire) {
    this.#wire = wire;
    this.#bitsPerS = wire.bitsPerS;
  }

  get isBusy(): boolean {
    return this.#running !== null;
  }

  /** When it rests no longer; Infinity while it does not rest. */
  get nextWakeUs(): number {
    return this.#running?.waitUntilUs ?? Number.POSITIVE_INFINITY;
  }

  /** Begins a procedure; one that runs is broken off. `onEnd` is told what came of it, or else `onBroken` that it was ended before. */
  run<Progress, Outcome>(
    procedure: Procedure<Progress, Outcome>,
    nowUs: number,
    onProgress: (progress: Progress) => void,
    onEnd: (outcome: Outcome) => void,
    onBroken: () => void,
  ): void {
    this.end();
    this.#nowUs = nowUs;
    this.#running = {
      procedure: procedure as Procedure<unknown, unknown>,
      onProgress: onProgress as (progress: unknown) => void,
      onEnd: onEnd as (outcome: unknown) => void,
      onBroken,
      waitUntilUs: Number.POSITIVE_INFINITY,
    };
    this.#step(silence);
  }

  /** Ends what runs, between two of its steps. */
  end(): void {
    const broken = this.#running;
    this.#clear();
    broken?.onBroken();
  }

  #clear(): void {
    this.#running = null;
    this.#wire.withdraw((exchange) => exchange.rank === rank.person);
    this.#wire.bitsPerS = this.#bitsPerS;
  }

  wake(nowUs: number): void {
    this.#nowUs = Math.max(this.#nowUs, nowUs);
    if (!this.#running || this.#running.waitUntilUs > nowUs) return;
    this.#running.waitUntilUs = Number.POSITIVE_INFINITY;
    this.#step(silence);
  }

  #step(answer: WireAnswer): void {
    const running = this.#running;
    if (!running) return;
    for (let given = answer; ; given = silence) {
      const next = running.procedure.next(given);
      if (this.#running !== running) return;
      if (next.done) {
        this.#clear();
        running.onEnd(next.value);
        return;
      }
      if (next.value.kind === "progress") {
        running.onProgress(next.value.progress);
        continue;
      }
      this.#obey(running, next.value);
      return;
    }
  }

  #obey(running: Running, ask: Exclude<Ask<unknown>, { kind: "progress" }>): void {
    if (ask.kind === "wait") {
      running.waitUntilUs = this.#nowUs + ask.us;
      return;
    }
    this.#wire.bitsPerS = ask.bitsPerS ?? this.#bitsPerS;
    const { layout, bytes, from, replyBytes, listensOut, tries } = ask;
    const onDone = (answer: WireAnswer) => {
      if (this.#running === running) this.#step(answer);
    };
    this.#wire.ask({ layout, bytes, from, replyBytes, listensOut, tries, rank: rank.person, onDone }, this.#nowUs);
  }
}
