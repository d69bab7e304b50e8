import { heron, kestrel, packetBytes, wireUs, wireUse } from "@core/bus";
import { describe, expect, test } from "vitest";

test("bytes × bits / speed: 10 bytes of 10 bits at 1 Mbit/s are 100 µs", () => {
  expect(wireUs(10, 10, 1_000_000)).toBe(100);
  expect(wireUs(1, 10, 115_200)).toBeCloseTo(86.8, 1);
});

test("a Kestrel’s read is 7 bytes, its answer of two bytes 7 as well", () => {
  expect(packetBytes(kestrel, "request", 2)).toBe(7);
  expect(packetBytes(kestrel, "reply", 2)).toBe(7);
});

describe("one frame", () => {
  const plan = {
    layout: kestrel,
    devices: 2,
    bitsPerS: 1_000_000,
    frameHz: 50,
    writtenBytes: 2,
    readBytes: 0,
    writes: "as a group",
    readsPerFrame: 0,
    replyDelayUs: 400,
    gapUs: 60,
  } as const;

  test("the goals of two as a group: 5 bytes around, 2 for where, 3 for each", () => {
    const use = wireUse(plan);
    expect(use.usedUs).toBe((5 + 2 + 2 * 3) * 10 + 60);
    expect(use.share).toBeCloseTo(190 / 20_000, 5);
  });

  test("one by one, a Kestrel is asked for no answer: 8 bytes and a pause each", () => {
    expect(wireUse({ ...plan, writes: "one by one" }).usedUs).toBe(2 * (80 + 60));
  });

  test("one by one, each Heron is told and answers: 14 bytes, the wait, 9 bytes, the turn", () => {
    const use = wireUse({ ...plan, layout: heron, writtenBytes: 4, writes: "one by one" });
    expect(use.usedUs).toBe(2 * (140 + 400 + 90 + 60));
  });

  test("spans follow each other without a hole, and end where the used time ends", () => {
    const { spans, usedUs } = wireUse({ ...plan, layout: heron, readBytes: 13, readsPerFrame: 2 });
    for (const [at, span] of spans.entries()) expect(span.fromUs).toBe(at === 0 ? 0 : spans[at - 1]?.toUs);
    expect(spans.at(-1)?.toUs).toBe(usedUs);
  });

  test("as many devices as there is room for, and not one more", () => {
    const { mostDevices } = wireUse({ ...plan, layout: heron, bitsPerS: 57_600, writes: "one by one" });
    const full = { ...plan, layout: heron, bitsPerS: 57_600, writes: "one by one" } as const;
    expect(wireUse({ ...full, devices: mostDevices }).share).toBeLessThanOrEqual(1);
    expect(wireUse({ ...full, devices: mostDevices + 1 }).share).toBeGreaterThan(1);
  });
});
