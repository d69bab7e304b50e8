import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import type { Recorded } from "@core/take";
import { beforeEach, expect, test, vi } from "vitest";
import { documentStore, layOut, undo } from "./document";
import { keepRecorded, rescueRecording, startRecording, takeOf, wholeClip } from "./recording";
import { takesNow } from "./takes";

const saved = vi.fn(async () => {});
const store = {
  saveTake: saved,
  keepRecording: vi.fn(async () => {}),
  recordingOf: vi.fn(async () => null as Recorded | null),
};
const project = () =>
  documentStore.getState().project as NonNullable<ReturnType<typeof documentStore.getState>["project"]>;
const recorded = { jointIds: ["beak"], frameMs: 20, fromMs: 700, channels: [Float32Array.of(0, 1, 2, 3)] };
const ask = { jointIds: ["beak"], fromMs: 700, countInMs: 0, punch: null, byHand: false };

beforeEach(() => {
  layOut(demoProject());
  saved.mockReset();
});

test("what was recorded over a routine is kept, and lies in it where it was played: one step to undo", async () => {
  startRecording({ ...ask, routineId: "routine-owl-wakes" });
  await keepRecorded(store, recorded);
  const [take] = project().takes;
  expect(take).toMatchObject({ name: "Take 1", frames: 4, frameMs: 20, jointIds: ["beak"] });
  expect(byId(project().routines, "routine-owl-wakes").clips).toMatchObject([
    { takeId: take?.id, atMs: 700, fromMs: 0, toMs: 60 },
  ]);
  expect(saved).toHaveBeenCalledWith("night-greenhouse", takesNow().get(take?.id ?? ""));
  undo();
  expect(project()).toMatchObject({ takes: [] });
  expect(byId(project().routines, "routine-owl-wakes").clips).toEqual([]);
  // Its samples stay at hand: a redo needs them.
  expect(takesNow().has(take?.id ?? "")).toBe(true);
});

test("recorded over nothing it is a take alone", async () => {
  startRecording({ ...ask, routineId: null });
  await keepRecorded(store, recorded);
  expect(project().takes).toHaveLength(1);
  expect(project().routines.every((routine) => routine.clips.length === 0)).toBe(true);
});

test("where the browser keeps nothing, the take is there all the same", async () => {
  saved.mockRejectedValueOnce(new Error("full"));
  startRecording({ ...ask, routineId: null });
  await keepRecorded(store, recorded);
  expect(project().takes).toHaveLength(1);
});

test("what was cut off by a crash becomes a take when the bench is opened again, once", async () => {
  store.recordingOf.mockResolvedValueOnce(recorded);
  await rescueRecording(store);
  expect(project().takes).toMatchObject([{ frames: 4, jointIds: ["beak"] }]);
  expect(store.keepRecording).toHaveBeenLastCalledWith("night-greenhouse", null);
  await rescueRecording(store);
  expect(project().takes).toHaveLength(1);
  // Of joints that are no longer there nothing can be made.
  store.recordingOf.mockResolvedValueOnce({ ...recorded, jointIds: ["tail"] });
  await rescueRecording(store);
  expect(project().takes).toHaveLength(1);
});

test("a clip of a whole take is as long as it: from its first sample to its last", () => {
  const { take, data } = takeOf(recorded, "Nod");
  expect(wholeClip(take, 40)).toMatchObject({ atMs: 40, fromMs: 0, toMs: 60, stretch: 1, mode: "replace" });
  expect(data.channels.beak).toBe(recorded.channels[0]);
});
