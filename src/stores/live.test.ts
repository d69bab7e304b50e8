import { demoProject } from "@core/demo";
import { head, setJoint, shapeOf, snapshotLength } from "@core/engine";
import { routineOfText } from "@core/project";
import { beforeEach, expect, test, vi } from "vitest";

class FakeWorker {
  static last: FakeWorker;
  sent: { kind: string; snapshot?: Float64Array }[] = [];
  onmessage: ((event: { data: unknown }) => void) | null = null;
  constructor() {
    FakeWorker.last = this;
  }
  postMessage(message: { kind: string }) {
    this.sent.push(message);
  }
  isTerminated = false;
  terminate() {
    this.isTerminated = true;
  }
  say(data: unknown) {
    this.onmessage?.({ data });
  }
}

let frames: (() => void)[];
beforeEach(() => {
  vi.resetModules();
  frames = [];
  vi.stubGlobal("Worker", FakeWorker);
  vi.stubGlobal("requestAnimationFrame", (callback: () => void) => frames.push(callback));
});

const demo = demoProject();
function snapshotOf(revision: number, target: number): Float64Array {
  const snapshot = new Float64Array(snapshotLength(shapeOf(demo)));
  snapshot[head.revision] = revision;
  setJoint(snapshot, 0, "target", target);
  return snapshot;
}
async function openLive() {
  const live = await import("./live");
  const { startWorker } = await import("./bridge");
  startWorker();
  live.giveDocument(demo);
  return live;
}

test("a snapshot is read by joint, and shown once per display frame however many arrive", async () => {
  const live = await openLive();
  let shown = 0;
  live.onLive(() => {
    shown += 1;
  });
  for (const target of [1, 2, 3]) FakeWorker.last.say({ kind: "snapshot", snapshot: snapshotOf(1, target) });
  expect(frames).toHaveLength(1);
  frames[0]?.();
  expect(shown).toBe(1);
  expect(live.liveJoint("neck-turn", "target")).toBe(3);
  expect(live.liveJoint("no-such-joint", "target")).toBeNaN();
});

test("the buffer of the last snapshot goes back to the worker", async () => {
  const live = await openLive();
  const first = snapshotOf(1, 1);
  FakeWorker.last.say({ kind: "snapshot", snapshot: first });
  FakeWorker.last.say({ kind: "snapshot", snapshot: snapshotOf(1, 2) });
  expect(FakeWorker.last.sent.at(-1)).toMatchObject({ kind: "buffer", snapshot: first });
  expect(live.liveHead("frames")).toBe(0);
});

test("a snapshot of an earlier document is not read: its places may mean other joints", async () => {
  const live = await openLive();
  FakeWorker.last.say({ kind: "snapshot", snapshot: snapshotOf(1, 5) });
  live.giveDocument({ ...demo, joints: demo.joints.toReversed() });
  expect(live.liveJoint("neck-turn", "target")).toBeNaN();
  let shown = 0;
  live.onLive(() => {
    shown += 1;
  });
  for (const frame of frames) frame();
  expect(shown).toBe(0);
});

test("after an edit that leaves all in its place, what was said last holds until the worker has read it: a joint is not called limp meanwhile", async () => {
  const live = await openLive();
  FakeWorker.last.say({ kind: "snapshot", snapshot: snapshotOf(1, 5) });
  live.giveDocument({ ...demo, name: "Another name" });
  expect(live.liveJoint("neck-turn", "target")).toBe(5);
  live.giveDocument({ ...demo, routines: demo.routines.toReversed() });
  expect(live.liveHead("routineIndex")).toBeNaN();
  // Places that come back do not bring back what was said of others in between.
  live.giveDocument(demo);
  expect(live.liveJoint("neck-turn", "target")).toBeNaN();
  FakeWorker.last.say({ kind: "snapshot", snapshot: snapshotOf(4, 7) });
  expect(live.liveJoint("neck-turn", "target")).toBe(7);
});

test("words are shown less often than needles, and all together", async () => {
  vi.useFakeTimers({ toFake: ["performance"] });
  const live = await openLive();
  const shown: string[] = [];
  live.onLive(() => shown.push("needle"));
  live.onLive(() => shown.push(`first ${live.liveJoint("neck-turn", "target")}`), live.pace.words);
  live.onLive(() => shown.push("second"), live.pace.words);
  for (let at = 0; at < 12; at += 1) {
    FakeWorker.last.say({ kind: "snapshot", snapshot: snapshotOf(1, at) });
    frames.splice(0).forEach((frame) => {
      frame();
    });
    vi.advanceTimersByTime(20);
  }
  expect(shown.filter((what) => what === "needle")).toHaveLength(12);
  expect(shown.filter((what) => what !== "needle")).toEqual(["first 0", "second", "first 6", "second"]);
  vi.useRealTimers();
});

test("one who stopped listening is not called", async () => {
  const live = await openLive();
  let shown = 0;
  const stop = live.onLive(() => {
    shown += 1;
  });
  stop();
  FakeWorker.last.say({ kind: "snapshot", snapshot: snapshotOf(1, 1) });
  frames[0]?.();
  expect(shown).toBe(0);
});

test("what the engine refuses is told, the same sentence only once", async () => {
  await openLive();
  const { noticeStore } = await import("./notices");
  for (let times = 0; times < 5; times += 1) FakeWorker.last.say({ kind: "refused", sentence: "Beak is released." });
  expect(noticeStore.getState().map((notice) => notice.sentence)).toEqual(["Beak is released."]);
});

test("of the routines only those that are others now are sent again, and all are named in their order", async () => {
  const live = await openLive();
  const [owl, tray] = demo.routines;
  if (!owl || !tray) throw new Error("The demo has two routines.");
  live.giveDocument({ ...demo, routines: [tray, { ...owl, name: "Owl stirs" }] });
  const last = FakeWorker.last.sent.at(-1) as unknown as { routines: string[]; routineIds: string[] };
  expect(last.routines.map((text) => routineOfText(text).name)).toEqual(["Owl stirs"]);
  expect(last.routineIds).toEqual([tray.id, owl.id]);
});

test("the worker is ended once it has parted; one that says nothing is waited for a second at most", async () => {
  vi.useFakeTimers();
  const live = await openLive();
  const polite = FakeWorker.last;
  const ended = live.endLive();
  expect(polite.sent.at(-1)).toEqual({ kind: "part" });
  expect(polite.isTerminated).toBe(false);
  polite.say({ kind: "parted" });
  await ended;
  expect(polite.isTerminated).toBe(true);
  expect(live.liveJoint("neck-turn", "target")).toBeNaN();

  (await import("./bridge")).startWorker();
  const silent = FakeWorker.last;
  const waiting = live.endLive();
  await vi.advanceTimersByTimeAsync(900);
  expect(silent.isTerminated).toBe(false);
  await vi.advanceTimersByTimeAsync(200);
  await waiting;
  expect(silent.isTerminated).toBe(true);
  vi.useRealTimers();
});

test("with no worker there is nothing to wait for, nothing is told, and nothing is read", async () => {
  vi.useFakeTimers();
  const live = await import("./live");
  const sentBefore = FakeWorker.last?.sent.length;
  live.command({ kind: "holdAll" });
  // It ends without a timer having to run: a worker would be given a second.
  await live.endLive();
  expect(vi.getTimerCount()).toBe(0);
  expect(FakeWorker.last?.sent.length).toBe(sentBefore);
  expect(live.liveHead("frames")).toBeNaN();
  vi.useRealTimers();
});
