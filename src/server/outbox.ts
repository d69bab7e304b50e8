/** Hands bytes to a wire; `done` is called when they are on their way, or never will be. */
export type Write = (bytes: Buffer, done: () => void) => void;

/** Larger messages go out in pieces of so much at most, cut behind a line where there is one. */
const pieceBytes = 1024;

/**
 * What waits for a wire. It is kept here and not in the wire's own buffer, where it could not be taken back: the last words of a page that is gone must not wait
 * behind all that it said before. One piece is on its way at a time; none is ever torn.
 */
export class Outbox {
  readonly #write: Write;
  #waiting: { readonly bytes: Buffer; readonly done: () => void }[] = [];
  #waitingBytes = 0;
  #isWriting = false;
  #isOver = false;
  #whenEmpty: (() => void)[] = [];

  constructor(write: Write) {
    this.#write = write;
  }

  get waitingBytes(): number {
    return this.#waitingBytes;
  }

  send(bytes: Buffer): void {
    if (this.#isOver) return;
    for (const piece of piecesOf(bytes)) this.#line(piece, () => {});
  }

  /** Drops what waits and sends these: nothing comes behind them. Resolves when they are on their way. */
  sendLast(bytes: Buffer): Promise<void> {
    if (this.#isOver) return Promise.resolve();
    this.#isOver = true;
    this.#waiting = [];
    this.#waitingBytes = 0;
    return new Promise((done) => this.#line(bytes, done));
  }

  /** Resolves when all that was sent so far is on its way: what it is sent at must not change before. */
  emptied(): Promise<void> {
    return new Promise((done) => {
      this.#whenEmpty.push(done);
      this.#next();
    });
  }

  #line(bytes: Buffer, done: () => void): void {
    this.#waiting.push({ bytes, done });
    this.#waitingBytes += bytes.length;
    this.#next();
  }

  #next(): void {
    if (this.#isWriting) return;
    const next = this.#waiting.shift();
    if (!next) {
      for (const done of this.#whenEmpty.splice(0)) done();
      return;
    }
    this.#isWriting = true;
    this.#waitingBytes -= next.bytes.length;
    this.#write(next.bytes, () => {
      this.#isWriting = false;
      next.done();
      this.#next();
    });
  }
}

function piecesOf(bytes: Buffer): Buffer[] {
  const pieces: Buffer[] = [];
  for (let from = 0; from < bytes.length; ) {
    const most = Math.min(bytes.length, from + pieceBytes);
    const line = most < bytes.length ? bytes.lastIndexOf(10, most - 1) + 1 : most;
    const to = line > from ? line : most;
    pieces.push(bytes.subarray(from, to));
    from = to;
  }
  return pieces;
}
