import { emptyRoutine, type Take } from "@core/project";
import fc from "fast-check";
import { expect, test } from "vitest";
import { cleaned, keysInPlace, Recorder, smoothed } from ".";

test("ticks at uneven moments become even frames, on the straight lines between them", () => {
  const recorder = new Recorder(["a"], 0, 20, 100);
  for (const [ms, deg] of [
    [0, 0],
    [15, 15],
    [50, 50],
    [61, 61],
  ] as const)
    recorder.take(ms, [deg]);
  expect(recorder.lengthMs).toBe(60);
  expect(Array.from(recorder.finish()?.channels[0] ?? [])).toEqual([0, 20, 40, 60]);
});

test("however the ticks fall, a ramp is recorded as a ramp", () => {
  fc.assert(
    fc.property(fc.array(fc.double({ min: 0.5, max: 49, noNaN: true }), { minLength: 1, maxLength: 300 }), (gaps) => {
      const recorder = new Recorder(["a", "b"], 0, 20, 10_000);
      let ms = 0;
      recorder.take(0, [0, 5]);
      for (const gap of gaps) {
        ms += gap;
        recorder.take(ms, [ms / 10, 5 - ms / 10]);
      }
      const recorded = recorder.finish();
      expect(recorded?.channels[0]).toHaveLength(Math.floor(ms / 20 + 1e-9) + 1);
      for (const [frame, deg] of recorded?.channels[0]?.entries() ?? [])
        expect(Math.abs(deg - frame * 2)).toBeLessThan(1e-3);
    }),
  );
});

test("it grows past its first thousand frames, ends where it is full, and is nothing before the first", () => {
  const recorder = new Recorder(["a"], 0, 20, 3000);
  expect(recorder.finish()).toBeNull();
  for (let ms = 0; ms < 100_000; ms += 20) recorder.take(ms, [ms]);
  expect(recorder.isFull).toBe(true);
  expect(recorder.finish()?.channels[0]?.at(-1)).toBe(2999 * 20);
});

test("smoothing leaves a parabola as it is, and a peak where and as high as it was", () => {
  const parabola = Float32Array.from({ length: 60 }, (_, at) => (at - 30) ** 2 / 20);
  const kept = smoothed(parabola, 20, 200);
  for (const [at, value] of kept.entries()) expect(value).toBeCloseTo(parabola[at] as number, 3);
});

test("smoothing has no lag: a slow wave with fast noise comes out in step with the wave", () => {
  const wave = Float32Array.from({ length: 400 }, (_, at) => 20 * Math.sin(at / 25));
  const noisy = wave.map((value, at) => value + 2 * Math.sin(at * 2.1));
  const kept = smoothed(noisy, 20, 300);
  const offBy = (shift: number) => {
    let sum = 0;
    for (let at = 30; at < 370; at += 1) sum += Math.abs((kept[at] as number) - (wave[at + shift] as number));
    return sum / 340;
  };
  expect(offBy(0)).toBeLessThan(0.35);
  expect(offBy(0)).toBeLessThan(Math.min(offBy(-1), offBy(1)));
});

const take: Take = {
  id: "t",
  name: "T",
  madeAt: "2026-11-23T10:00:00.000Z",
  frameMs: 20,
  frames: 101,
  jointIds: ["beak"],
};
const data = { id: "t", channels: { beak: Float32Array.from({ length: 101 }, (_, at) => 25 - Math.abs(at - 50) / 2) } };

test("a part of a take becomes keys on its own time, and they are put where its clip lies", () => {
  const [beak] = cleaned(take, data, { smoothMs: 0, largest: 0.2 }, 500, 1500);
  if (!beak) throw new Error("nothing");
  expect(beak.keys).toHaveLength(3);
  expect(beak.keys[0]?.atMs).toBe(500);
  expect(beak.keys.at(-1)?.atMs).toBe(1500);
  expect(beak.errorOfKeys).toBeLessThanOrEqual(0.2);
  const own = (ms: number) => ({ atMs: ms, target: 1, shape: "line" as const });
  const routine = {
    ...emptyRoutine("r", "R"),
    lanes: [{ jointId: "beak", mode: "replace" as const, keys: [own(100), own(3000), own(9000)] }],
  };
  const placed = keysInPlace(routine, { atMs: 2000, fromMs: 500, stretch: 2 }, beak);
  expect(placed.map((key) => Math.round(key.atMs / 50) * 50)).toEqual([100, 9000, 2000, 3000, 4000]);
});

test("keys of a clip that begins and ends between two frames keep the error that was promised, and lie where the clip lies", () => {
  const samples = Float32Array.from({ length: 200 }, (_, at) => 40 * Math.sin(at / 5));
  const take = {
    id: "t",
    name: "T",
    madeAt: "2026-11-25T10:00:00.000Z",
    frameMs: 20,
    frames: 200,
    jointIds: ["beak"],
  };
  const data = { id: "t", channels: { beak: samples } };
  const sampleAt = (ms: number) => {
    const at = Math.floor(ms / 20);
    const [a, b] = [samples[at] as number, samples[Math.min(at + 1, 199)] as number];
    return a + (b - a) * (ms / 20 - at);
  };
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 1900, noNaN: true }),
      fc.double({ min: 30, max: 2000, noNaN: true }),
      fc.constantFrom(0, 7, 1000),
      fc.constantFrom(0.5, 1, 3),
      (fromMs, lengthMs, atMs, stretch) => {
        const clip = { atMs, fromMs, stretch };
        const toMs = fromMs + lengthMs;
        const [channel] = cleaned(take, data, { smoothMs: 0, largest: 0.5 }, fromMs, toMs);
        if (!channel) throw new Error("There is no channel.");
        const keys = keysInPlace(emptyRoutine("r", "R"), clip, channel);
        expect(keys[0]?.atMs).toBe(atMs);
        expect(keys.at(-1)?.atMs).toBeCloseTo(atMs + lengthMs * stretch, 6);
        for (let share = 0; share <= 1; share += 0.01) {
          const ms = atMs + share * lengthMs * stretch;
          const at = Math.max(
            0,
            Math.min(
              keys.length - 2,
              keys.findLastIndex((key) => key.atMs <= ms),
            ),
          );
          const [a, b] = [keys[at], keys[at + 1]];
          if (!a || !b) continue;
          const line = a.target + ((b.target - a.target) * (ms - a.atMs)) / (b.atMs - a.atMs);
          expect(Math.abs(line - sampleAt(fromMs + share * lengthMs))).toBeLessThanOrEqual(0.5 + 1e-4);
        }
      },
    ),
  );
});
