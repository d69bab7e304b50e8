import type { BusTold } from "@worker/links/busMessages";
import { beforeEach, expect, test, vi } from "vitest";

/** What the store told the worker, and the way for the worker to answer. */
const told: { boardId: string; kind: string; run?: { kind: string } }[] = [];
let answer: (told: BusTold) => void = () => {};
vi.mock("./bridge", () => ({
  hear: (kind: string, ear: (message: { told: BusTold }) => void) => {
    if (kind === "bus") answer = (one) => ear({ told: one });
  },
  tell: ({ boardId, ask }: { boardId: string; ask: { kind: string; run?: { kind: string } } }) =>
    told.push({ boardId, ...ask }),
}));
const { busStore, endRun, forgetFound, keepFound, runOnBus, watchBus } = await import("./bus");

beforeEach(() => {
  told.length = 0;
  watchBus("ivy");
});

const telemetry = {
  position: 512,
  loadPercent: 6,
  currentMa: Number.NaN,
  volts: 11.9,
  temperatureC: 24,
  error: 0,
  atUs: 1,
};
const report = (atUs: number, phase: "held" | "silent", events: number): BusTold => ({
  kind: "report",
  report: {
    boardId: "ivy",
    atUs,
    devices: [{ id: 3, phase, wanted: 600, goal: 600, telemetry }],
    events: Array.from({ length: events }, () => ({
      kind: "sent" as const,
      atUs,
      bytes: new Uint8Array(1),
      layoutId: "kestrel",
      isAsked: true,
    })),
    watched: null,
    framesSent: 0,
    framesDropped: 0,
  },
});
const found = (id: number, isClash = false) => ({
  layoutId: "kestrel",
  id,
  bitsPerS: 115_200,
  isClash,
  model: 310,
  firmware: 7,
});

test("who watches is told so, and who goes takes the watching and what runs with him", () => {
  const leave = watchBus("fern");
  expect(told.at(-1)).toMatchObject({ boardId: "fern", kind: "watch", isWatching: true });
  leave();
  expect(told.slice(-3).map(({ kind }) => kind)).toEqual(["endRun", "watchRegisters", "watch"]);
});

test("what a device says of itself is kept as a history; a silent one leaves a gap", () => {
  answer(report(5_000_000, "held", 0));
  answer(report(5_100_000, "held", 0));
  answer(report(5_600_000, "silent", 0));
  const history = busStore.getState().history.get(3) ?? [];
  expect(history.map(({ x, asked, actual, current }) => [x, asked, actual, current])).toEqual([
    [0, 600, 512, null],
    [0.6, 600, null, null],
  ]);
});

test("the log keeps the last two thousand lines, each with a number of its own", () => {
  for (let times = 0; times < 5; times += 1) answer(report(times, "held", 500));
  const { log } = busStore.getState();
  expect(log).toHaveLength(2000);
  expect(new Set(log.map(({ id }) => id)).size).toBe(2000);
});

test("a run is answered once, with its progress on the way; answers of an older run are not taken for it", async () => {
  const first = runOnBus("ivy", { kind: "meet", layoutId: "kestrel", id: 1 });
  const second = runOnBus("ivy", { kind: "meet", layoutId: "kestrel", id: 2 });
  await expect(first).resolves.toMatchObject({ kind: "refused" });
  const runId = busStore.getState().running?.runId ?? -1;
  answer({ kind: "progress", runId, progress: { done: 1, of: 2, at: "half-way" } });
  expect(busStore.getState().running?.progress?.at).toBe("half-way");
  answer({ kind: "outcome", runId: runId - 1, outcome: { kind: "found", found: [found(9)] } });
  answer({ kind: "outcome", runId, outcome: { kind: "found", found: [found(2)] } });
  await expect(second).resolves.toEqual({ kind: "found", found: [found(2)] });
  expect(busStore.getState().running).toBeNull();
});

test("a run that is ended says so to whoever waits for it", async () => {
  const run = runOnBus("ivy", { kind: "meet", layoutId: "kestrel", id: 1 });
  endRun("ivy");
  await expect(run).resolves.toMatchObject({ kind: "refused", sentence: "It was ended." });
});

test("who was found stays until looked for anew, in the order of their numbers", () => {
  keepFound("ivy", [found(5), found(3)], true);
  keepFound("ivy", [found(3, true)], false);
  expect(
    busStore
      .getState()
      .found.get("ivy")
      ?.map(({ id, isClash }) => [id, isClash]),
  ).toEqual([
    [3, true],
    [5, false],
  ]);
  forgetFound("ivy", "kestrel", 3);
  expect(
    busStore
      .getState()
      .found.get("ivy")
      ?.map(({ id }) => id),
  ).toEqual([5]);
  keepFound("ivy", [found(7)], true);
  expect(
    busStore
      .getState()
      .found.get("ivy")
      ?.map(({ id }) => id),
  ).toEqual([7]);
});
