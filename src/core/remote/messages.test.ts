import { describe, expect, test } from "vitest";
import { cueRootOf, levelOf, Newest, readMessage, topicsOf, Universe } from ".";

const read = (topic: string, payload: string) => readMessage("show/owl", topic, payload);

describe("what a message says", () => {
  test.each([
    ["512", 512],
    [" -3.5e1 ", -35],
    ["on", 1],
    ["False", 0],
    ['{"value": 0.25, "unit": "V"}', 0.25],
    ['{"value": true}', 1],
  ])("a number: %s", (payload, value) => {
    expect(read("show/owl/in/shelf/knob", payload)?.heard).toEqual({ kind: "value", key: "mqtt:shelf/knob", value });
  });

  test.each(["", "abc", "1e999", "0x10", "NaN", "[1]", '{"value":"7"}', '{"value":null}', "1 2", '{"value":1e999}'])(
    "no number: %s",
    (payload) => expect(read("show/owl/in/knob", payload)).toBeNull(),
  );

  test("acts are named barely or in JSON, with who asks and when", () => {
    expect(read("show/owl/do/pose", "Look left")?.heard).toEqual({ kind: "pose", name: "Look left", moveMs: null });
    expect(read("show/owl/do/pose", '{"pose":"Watch","ms":300,"seq":4,"at":17,"from":"shelf"}')).toEqual({
      heard: { kind: "pose", name: "Watch", moveMs: 300 },
      from: "shelf",
      seq: 4,
      atMs: 17,
    });
    expect(read("show/owl/do/play", "Owl wakes")?.heard).toEqual({ kind: "play", name: "Owl wakes" });
    expect(read("show/owl/do/release", "")?.heard).toEqual({ kind: "release" });
    expect(read("show/owl/do/pose", '{"pose":"Watch","ms":-1}')).toBeNull();
    expect(read("show/owl/do/shutdown", "")).toBeNull();
  });

  test("a last will says who is gone; what is neither there nor gone says nothing", () => {
    expect(read("show/owl/here/shelf", "0")?.heard).toEqual({ kind: "here", from: "shelf", isHere: false });
    expect(read("show/owl/here/shelf", "maybe")).toBeNull();
  });

  test("benches of one show share their cues; another bench's topics are not this one's", () => {
    expect(cueRootOf("show/owl")).toBe(cueRootOf("show/arm"));
    expect(read("show/cue/go", "")?.heard).toEqual({ kind: "cue", name: "go" });
    expect(read("show/arm/in/knob", "1")).toBeNull();
    expect(read("show/owls/in/knob", "1")).toBeNull();
    expect(topicsOf("owl").cue).toBe("owl/cue/#");
  });

  test("a label is one level of a topic", () => {
    expect(levelOf("Neck turn")).toBe("neck-turn");
    expect(levelOf("  Öse #2/+ ")).toBe("o-se-2");
    expect(levelOf("###")).toBe("x");
  });
});

describe("which message is fresh", () => {
  const at = (seq: number | null, atMs: number | null) => ({ seq, atMs });

  test("doubled and overtaken ones are old; after a silence a sender may begin anew", () => {
    const newest = new Newest();
    const judge = (seq: number, nowMs: number) => newest.judge("shelf", at(seq, null), nowMs);
    expect([judge(5, 0), judge(5, 10), judge(4, 20), judge(6, 30)]).toEqual(["fresh", "old", "old", "fresh"]);
    expect(judge(1, 1900)).toBe("old");
    expect(judge(1, 2100)).toBe("fresh");
  });

  test("late is what was half a second longer on its way than the quickest, whatever its clock shows", () => {
    const newest = new Newest();
    const behindMs = 86_400_000;
    const judge = (sentMs: number, nowMs: number) => newest.judge("shelf", at(null, sentMs - behindMs), nowMs);
    expect(judge(0, 300)).toBe("fresh");
    // Now it is known that the way can take 20 ms.
    expect(judge(1000, 1020)).toBe("fresh");
    expect(judge(2000, 2400)).toBe("fresh");
    expect(judge(3000, 3600)).toBe("late");
  });

  test("a burst that was held up is late; a clock that was set back is late for five seconds, and then believed", () => {
    const newest = new Newest();
    const judge = (sentMs: number, nowMs: number) => newest.judge("shelf", at(null, sentMs), nowMs);
    judge(1000, 1010);
    expect([judge(2000, 9000), judge(3000, 9001), judge(8000, 9002), judge(9000, 9010)]).toEqual([
      "late",
      "late",
      "late",
      "fresh",
    ]);
    const setBackMs = 3_600_000;
    const later = [10_000, 12_000, 14_000, 14_900, 15_100, 15_200].map((ms) => judge(ms - setBackMs, ms + 10));
    expect(later).toEqual(["late", "late", "late", "late", "fresh", "fresh"]);
  });

  test("whoever makes up names takes no room from the others for long", () => {
    const newest = new Newest();
    for (let name = 0; name < 5000; name += 1) newest.judge(`name ${name}`, at(1, null), name);
    expect(newest.judge("name 4999", at(1, null), 5000)).toBe("old");
  });
});

describe("a universe of a lighting desk", () => {
  const packet = (change: Partial<Parameters<Universe["hear"]>[0]> = {}) => ({
    cid: "desk",
    priority: 100,
    sequence: 1,
    isTerminated: false,
    slots: Uint8Array.of(10, 20, 255),
    ...change,
  });

  test("slots have 8 bits, or 16 with the next one; one that is not sent is none", () => {
    const universe = new Universe();
    universe.hear(packet(), 0);
    expect([
      universe.valueOf(1, false),
      universe.valueOf(2, true),
      universe.valueOf(3, true),
      universe.valueOf(4, false),
    ]).toEqual([10, 20 * 256 + 255, Number.NaN, Number.NaN]);
  });

  test("the higher priority has it; of equals the one that had it first; the other takes over 2.5 s after the last word", () => {
    const universe = new Universe();
    universe.hear(packet(), 0);
    universe.hear(packet({ cid: "other", slots: Uint8Array.of(99) }), 100);
    expect(universe.valueOf(1, false)).toBe(10);
    universe.hear(packet({ cid: "chief", priority: 150, slots: Uint8Array.of(50) }), 200);
    expect(universe.valueOf(1, false)).toBe(50);
    universe.hear(packet({ cid: "other", sequence: 2, slots: Uint8Array.of(99) }), 2600);
    expect([universe.tick(2699), universe.valueOf(1, false)]).toEqual([true, 50]);
    universe.tick(2701);
    expect(universe.valueOf(1, false)).toBe(99);
    expect(universe.tick(9000)).toBe(false);
  });

  test("overtaken packets are dropped, round the corner at 256 as well; one that ends is out at once", () => {
    const universe = new Universe();
    const hear = (sequence: number, slot = 0) => universe.hear(packet({ sequence, slots: Uint8Array.of(slot) }), 0);
    expect([hear(250), hear(249), hear(250), hear(3), hear(255), hear(100)]).toEqual([
      true,
      false,
      false,
      true,
      false,
      true,
    ]);
    universe.hear(packet({ sequence: 101, isTerminated: true }), 10);
    expect(universe.tick(11)).toBe(false);
  });
});
