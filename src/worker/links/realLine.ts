import { releaseLine } from "@core/link";
import type { StreamLife } from "@core/wire";
import type { ByteStream } from "../wires";
import type { LineWire } from "./link";

/** The line to a real board: its bytes are heard the moment they arrive, by the clock of the bench. */
export class RealLine implements LineWire {
  onBytes: LineWire["onBytes"] = () => {};
  readonly #stream: ByteStream;
  readonly #onSent: (bytes: Uint8Array) => void;

  constructor(stream: ByteStream, nowMs: () => number, onSent: (bytes: Uint8Array) => void) {
    this.#stream = stream;
    this.#onSent = onSent;
    stream.onBytes = (bytes) => this.onBytes(bytes, nowMs());
    stream.setLastWords(releaseLine);
  }

  get life(): StreamLife {
    return this.#stream.life;
  }

  send(bytes: Uint8Array): void {
    if (this.life.kind !== "open") return;
    this.#onSent(bytes);
    // The line is written over by the next one.
    this.#stream.write(bytes.slice());
  }

  close(): void {
    this.#stream.write(releaseLine);
    this.#stream.close();
  }
}
