import type { PadBook } from "@core/pads";
import { beforeEach, expect, test, vi } from "vitest";
import { openPad, padState, padStore } from "./padLine";

/** The server's end of a pad's connection. */
let tell: (told: unknown) => void = () => {};

class Line {
  static readonly OPEN = 1;
  readonly readyState = 1;
  onopen: () => void = () => {};
  onmessage: (event: { data: string }) => void = () => {};
  onclose: () => void = () => {};
  constructor() {
    tell = (told) => this.onmessage({ data: JSON.stringify(told) });
    queueMicrotask(() => this.onopen());
  }
  send(): void {}
  close(): void {}
}

const book = (project: string): PadBook => ({ project, joints: [], sources: [], pads: [] });
const state = (revision: number) => ({
  kind: "state",
  state: { revision, joints: [], sources: [], touches: [], playing: null },
});
const shown = () => padStore.getState().book?.project;

beforeEach(async () => {
  vi.useFakeTimers();
  vi.stubGlobal("WebSocket", Line);
  vi.stubGlobal("location", { origin: "http://bench" });
  vi.stubGlobal("document", { addEventListener() {}, visibilityState: "visible" });
  vi.stubGlobal("addEventListener", () => {});
  vi.stubGlobal("requestAnimationFrame", (paint: () => void) => paint());
  vi.stubGlobal("fetch", async () => ({ ok: true, json: async () => ({ isLetIn: true }) }));
  openPad();
  await vi.advanceTimersByTimeAsync(1);
  tell({ kind: "bench", isThere: true });
  tell({ kind: "book", revision: 1, book: book("first") });
  tell(state(1));
});

test("a first book is shown at once; the next one when its numbers are there, and until then the old one with its own", () => {
  expect(shown()).toBe("first");
  tell({ kind: "book", revision: 2, book: book("second") });
  expect([shown(), padState()?.revision]).toEqual(["first", 1]);
  tell(state(1));
  expect(shown()).toBe("first");
  tell(state(2));
  expect([shown(), padState()?.revision]).toEqual(["second", 2]);
});

test("of two books that come one after the other only the last is turned to", () => {
  tell({ kind: "book", revision: 2, book: book("second") });
  tell({ kind: "book", revision: 3, book: book("third") });
  tell(state(2));
  expect(shown()).toBe("first");
  tell(state(3));
  expect(shown()).toBe("third");
});

test("a book whose numbers never come is shown all the same, without the numbers of another", async () => {
  tell({ kind: "book", revision: 2, book: book("second") });
  await vi.advanceTimersByTimeAsync(600);
  expect([shown(), padState()]).toEqual(["second", null]);
});

test("another bench that counts its books from one again is not read with the numbers of the one before", () => {
  tell({ kind: "bench", isThere: false });
  tell({ kind: "bench", isThere: true });
  tell({ kind: "book", revision: 1, book: book("another") });
  expect([shown(), padState()]).toEqual(["another", null]);
});
