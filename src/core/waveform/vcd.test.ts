import fc from "fast-check";
import { expect, test } from "vitest";
import { edgesOf, type WaveChannel, writeVcd, writeWaveCsv } from ".";

/** A small reader of value change dumps, written from the standard and not from the writer: edges in ns by wire name. */
function readVcd(text: string): { timescaleNs: number; edges: Map<string, [number, string][]> } {
  const tokens = text.split(/\s+/).filter(Boolean);
  const names = new Map<string, string>();
  const edges = new Map<string, [number, string][]>();
  let timescaleNs = 0;
  let time = 0;
  for (let at = 0; at < tokens.length; at += 1) {
    const token = tokens[at] as string;
    if (token === "$timescale") {
      const unit = { s: 1e9, ms: 1e6, us: 1e3, ns: 1 }[tokens[at + 2] as string] ?? 0;
      timescaleNs = Number(tokens[at + 1]) * unit;
    }
    if (token === "$var") {
      expect(tokens.slice(at + 1, at + 3)).toEqual(["wire", "1"]);
      names.set(tokens[at + 3] as string, tokens[at + 4] as string);
      edges.set(tokens[at + 4] as string, []);
    }
    if (token.startsWith("$") && token !== "$dumpvars" && token !== "$end") {
      while (tokens[at] !== "$end") at += 1;
    } else if (token.startsWith("#")) time = Number(token.slice(1));
    else if (/^[01]/.test(token))
      edges.get(names.get(token.slice(1)) ?? "")?.push([time * timescaleNs, token[0] as string]);
  }
  return { timescaleNs, edges };
}

test("1500 µs at 50 Hz, two frames: rises at 0 and 20 ms, falls at 1.5 and 21.5 ms, in units of 100 µs", () => {
  const { timescaleNs, edges } = readVcd(
    writeVcd([{ label: "Neck turn", pulseNs: 1_500_000, periodNs: 20_000_000 }], 2),
  );
  expect(timescaleNs).toBe(100_000);
  expect(edges.get("Neck_turn")).toEqual([
    [0, "1"],
    [1_500_000, "0"],
    [20_000_000, "1"],
    [21_500_000, "0"],
  ]);
});

test("a pulse of 1499.023 µs needs nanoseconds", () => {
  expect(readVcd(writeVcd([{ label: "a", pulseNs: 1_499_023, periodNs: 20_000_000 }], 1)).timescaleNs).toBe(1);
});

test("whatever the channels, what is read back agrees to the nanosecond", () => {
  const channel: fc.Arbitrary<WaveChannel> = fc.record({
    label: fc.constant("x"),
    pulseNs: fc.integer({ min: 0, max: 3_000_000 }),
    periodNs: fc.integer({ min: 3_000_001, max: 24_000_000 }),
  });
  fc.assert(
    fc.property(fc.array(channel, { minLength: 1, maxLength: 100 }), fc.integer({ min: 1, max: 4 }), (some, frames) => {
      const channels = some.map((one, at) => ({ ...one, label: `wire ${at}` }));
      const { edges } = readVcd(writeVcd(channels, frames));
      for (const [at, { pulseNs }] of channels.entries()) {
        const expected = edgesOf([channels[at] as WaveChannel], frames).map((edge): [number, string] => [
          edge.atNs,
          String(edge.level),
        ]);
        expect(edges.get(`wire_${at}`)).toEqual(pulseNs > 0 ? expected : [[0, "0"]]);
      }
    }),
    { numRuns: 40 },
  );
});

test("as CSV every edge is a line with the level of every channel", () => {
  const csv = writeWaveCsv(
    [
      { label: "Beak, lower", pulseNs: 1_000_000, periodNs: 20_000_000 },
      { label: "Tuft", pulseNs: 1_500_500, periodNs: 20_000_000 },
    ],
    1,
  );
  expect(csv.split("\r\n")).toEqual(['time_us,"Beak, lower",Tuft', "0,1,1", "1000,0,1", "1500.5,0,0", ""]);
});
