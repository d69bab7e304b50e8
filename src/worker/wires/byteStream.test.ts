import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { type AttemptEars, LastingStream } from "./byteStream";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** A stream on attempts that a test ends and opens by hand. */
function stream() {
  const attempts: {
    ears: AttemptEars;
    bitsPerS: number | null;
    sent: number[];
    lastWords: number[];
    isClosed: boolean;
  }[] = [];
  const lasting = new LastingStream((ears, bitsPerS) => {
    const attempt = { ears, bitsPerS, sent: [] as number[], lastWords: [] as number[], isClosed: false };
    attempts.push(attempt);
    return {
      write: (bytes) => void attempt.sent.push(...bytes),
      setLastWords: (bytes) => void attempt.lastWords.push(...bytes),
      setSpeed: () => {},
      close: () => {
        attempt.isClosed = true;
      },
    };
  });
  return { lasting, attempts };
}

test("what is sent before it opens or after it was lost is lost; the last words go with every attempt", () => {
  const { lasting, attempts } = stream();
  lasting.setLastWords(Uint8Array.of(9));
  lasting.write(Uint8Array.of(1));
  attempts[0]?.ears.onOpen();
  lasting.write(Uint8Array.of(2));
  attempts[0]?.ears.onLost("Its cable was pulled.");
  expect(lasting.life).toEqual({ kind: "lost", sentence: "Its cable was pulled." });
  lasting.write(Uint8Array.of(3));
  vi.advanceTimersByTime(1000);
  attempts[1]?.ears.onOpen();
  expect(attempts.map(({ sent }) => sent)).toEqual([[2], []]);
  expect(attempts.map(({ lastWords }) => lastWords)).toEqual([[9], [9]]);
});

test("it is opened again by itself, at the speed it had, until somebody closes it", () => {
  const { lasting, attempts } = stream();
  attempts[0]?.ears.onOpen();
  lasting.setSpeed(1_000_000);
  for (let times = 0; times < 3; times += 1) {
    attempts.at(-1)?.ears.onLost("gone");
    vi.advanceTimersByTime(1000);
  }
  expect(attempts.map(({ bitsPerS }) => bitsPerS)).toEqual([null, 1_000_000, 1_000_000, 1_000_000]);
  attempts.at(-1)?.ears.onLost("gone");
  lasting.close();
  vi.advanceTimersByTime(60_000);
  expect(attempts).toHaveLength(4);
  expect(lasting.life).toEqual({ kind: "closed" });
});

test("an attempt that is over says nothing more, whatever comes from it later", () => {
  const { lasting, attempts } = stream();
  const heard: number[] = [];
  lasting.onBytes = (bytes) => void heard.push(...bytes);
  attempts[0]?.ears.onLost("gone");
  vi.advanceTimersByTime(1000);
  attempts[0]?.ears.onOpen();
  attempts[0]?.ears.onBytes(Uint8Array.of(1));
  attempts[0]?.ears.onLost("gone again");
  expect(lasting.life).toEqual({ kind: "lost", sentence: "gone" });
  attempts[1]?.ears.onOpen();
  attempts[1]?.ears.onBytes(Uint8Array.of(2));
  expect([heard, attempts.length, attempts[0]?.isClosed]).toEqual([[2], 2, true]);
});
