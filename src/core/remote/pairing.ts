import { Bucket } from "./bucket";

/** So long a code is good. */
export const codeForMs = 180_000;
/** So many wrong guesses wear a code out, whoever made them: one in a hundred thousand would have hit. */
const guessesAtMost = 10;
/** From one address: a person who mistypes. */
const perAddressPerMin = 6;
/** From all addresses together. */
const perMin = 30;
/** More addresses than a workshop has are not told apart. */
const addressesAtMost = 1000;

/** A code that lets one device in. */
export interface Code {
  readonly digits: string;
  readonly untilMs: number;
}

export type Guess = "in" | "wrong" | "worn out" | "too many";

/** Lets devices in by a short code, once each. Codes are guessed at a bounded rate, and wear out with time and with wrong guesses. */
export class Pairing {
  readonly #newDigits: () => string;
  #code: Code | null = null;
  #wrong = 0;
  readonly #all = new Bucket(perMin / 60, perMin);
  #byAddress = new Map<string, Bucket>();

  /** @param newDigits six digits that nobody can foresee */
  constructor(newDigits: () => string) {
    this.#newDigits = newDigits;
  }

  /** A new code; the one before lets nobody in any more. */
  begin(nowMs: number): Code {
    this.#wrong = 0;
    this.#code = { digits: this.#newDigits(), untilMs: nowMs + codeForMs };
    return this.#code;
  }

  /** The code that is good now; null where there is none. */
  codeAt(nowMs: number): Code | null {
    if (this.#code && nowMs >= this.#code.untilMs) this.#code = null;
    return this.#code;
  }

  end(): void {
    this.#code = null;
  }

  /** Somebody at an address says a code. One that is right is worn out by it. */
  guess(digits: string, address: string, nowMs: number): Guess {
    const own = this.#bucketOf(address);
    if (!own.hasRoom(nowMs) || !this.#all.hasRoom(nowMs)) return "too many";
    const code = this.codeAt(nowMs);
    if (code && digits === code.digits) {
      this.#code = null;
      return "in";
    }
    // Only what was wrong counts: a workshop full of phones comes in at once.
    own.take(nowMs);
    this.#all.take(nowMs);
    if (!code) return "worn out";
    this.#wrong += 1;
    if (this.#wrong < guessesAtMost) return "wrong";
    this.#code = null;
    return "worn out";
  }

  #bucketOf(address: string): Bucket {
    const known = this.#byAddress.get(address);
    if (known) return known;
    if (this.#byAddress.size >= addressesAtMost) this.#byAddress = new Map();
    const fresh = new Bucket(perAddressPerMin / 60, perAddressPerMin);
    this.#byAddress.set(address, fresh);
    return fresh;
  }
}
