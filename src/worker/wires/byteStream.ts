import type { StreamLife } from "@core/wire";

/** A stream of bytes to whatever is at the other end of a wire. Bytes are handed on the moment they arrive. */
export interface ByteStream {
  readonly life: StreamLife;
  onBytes: (bytes: Uint8Array) => void;
  /** Hears that it opened or was lost. */
  onLife: () => void;
  /** Sends; what is sent while it is not open is lost. */
  write(bytes: Uint8Array): void;
  /** What the far end is to be told if this page dies, by whoever outlives it. */
  setLastWords(bytes: Uint8Array): void;
  /** Runs the wire at another speed. */
  setSpeed(bitsPerS: number): void;
  /** Closes it for good. */
  close(): void;
}

/** One attempt at opening a wire, and what came of it. */
export interface Attempt {
  write(bytes: Uint8Array): void;
  setLastWords(bytes: Uint8Array): void;
  setSpeed(bitsPerS: number): void;
  close(): void;
}

/** What an attempt tells: once that it is open, and once that it is over. */
export interface AttemptEars {
  readonly onOpen: () => void;
  readonly onBytes: (bytes: Uint8Array) => void;
  readonly onLost: (sentence: string) => void;
}

const openAgainMs = 1000;

/** A stream that is opened again by itself, for as long as nobody closes it: a cable that was pulled is put in again. */
export class LastingStream implements ByteStream {
  life: StreamLife = { kind: "opening" };
  onBytes: ByteStream["onBytes"] = () => {};
  onLife: ByteStream["onLife"] = () => {};
  readonly #begin: (ears: AttemptEars, bitsPerS: number | null) => Attempt;
  #attempt: Attempt | null = null;
  #lastWords: Uint8Array | null = null;
  /** A speed that was asked for after the wire had been chosen. */
  #bitsPerS: number | null = null;
  #timer: ReturnType<typeof setTimeout> | undefined;

  constructor(begin: (ears: AttemptEars, bitsPerS: number | null) => Attempt) {
    this.#begin = begin;
    this.#open();
  }

  write(bytes: Uint8Array): void {
    if (this.life.kind === "open") this.#attempt?.write(bytes);
  }

  setLastWords(bytes: Uint8Array): void {
    this.#lastWords = bytes;
    if (this.life.kind === "open") this.#attempt?.setLastWords(bytes);
  }

  setSpeed(bitsPerS: number): void {
    this.#bitsPerS = bitsPerS;
    if (this.life.kind === "open") this.#attempt?.setSpeed(bitsPerS);
  }

  close(): void {
    clearTimeout(this.#timer);
    this.life = { kind: "closed" };
    const attempt = this.#attempt;
    this.#attempt = null;
    attempt?.close();
  }

  #open(): void {
    let isOver = false;
    const isMine = () => !isOver && this.life.kind !== "closed";
    const attempt = this.#begin(
      {
        onOpen: () => {
          if (!isMine()) return;
          this.life = { kind: "open" };
          // Made by then: nothing opens before this function has returned.
          if (this.#lastWords) this.#attempt?.setLastWords(this.#lastWords);
          this.onLife();
        },
        onBytes: (bytes) => {
          if (isMine()) this.onBytes(bytes);
        },
        onLost: (sentence) => {
          if (!isMine()) return;
          isOver = true;
          this.life = { kind: "lost", sentence };
          this.#attempt?.close();
          this.#attempt = null;
          this.onLife();
          this.#timer = setTimeout(() => this.#open(), openAgainMs);
        },
      },
      this.#bitsPerS,
    );
    this.#attempt = attempt;
  }
}
