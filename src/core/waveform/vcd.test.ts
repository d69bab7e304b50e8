import { makerOf } from "@core/encodings";
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

/** A pulse at the beginning of each frame. */
const wave = (label: string, pulseUs: number, periodUs: number, riseUs = 0): WaveChannel => ({
  label,
  pulseUs,
  periodUs,
  riseUs,
});

test("1500 µs at 50 Hz, two frames: rises at 0 and 20 ms, falls at 1.5 and 21.5 ms, in units of 100 µs", () => {
  const { timescaleNs, edges } = readVcd(writeVcd([wave("Neck turn", 1500, 20_000)], 2));
  expect(timescaleNs).toBe(100_000);
  expect(edges.get("Neck_turn")).toEqual([
    [0, "1"],
    [1_500_000, "0"],
    [20_000_000, "1"],
    [21_500_000, "0"],
  ]);
});

test("a pulse of 1499.023 µs needs nanoseconds", () => {
  expect(readVcd(writeVcd([wave("a", 1499.023, 20_000)], 1)).timescaleNs).toBe(1);
});

test("whatever the channels, what is read back agrees to the nanosecond", () => {
  const channel: fc.Arbitrary<WaveChannel> = fc.record({
    label: fc.constant("x"),
    pulseUs: fc.double({ min: 0, max: 3000, noNaN: true }),
    periodUs: fc.double({ min: 3001, max: 24_000, noNaN: true }),
    riseUs: fc.constantFrom(0, 700, 2900),
  });
  fc.assert(
    fc.property(fc.array(channel, { minLength: 1, maxLength: 100 }), fc.integer({ min: 1, max: 4 }), (some, frames) => {
      const channels = some.map((one, at) => ({ ...one, label: `wire ${at}` }));
      const { edges } = readVcd(writeVcd(channels, frames));
      const all = edgesOf(channels, frames);
      for (const at of channels.keys()) {
        const own = all
          .filter(({ channel }) => channel === at)
          .map(({ atNs, level }): [number, string] => [atNs, String(level)]);
        // A dump begins with where each wire stands.
        expect(edges.get(`wire_${at}`)).toEqual(own[0]?.[0] === 0 && own[0][1] === "1" ? own : [[0, "0"], ...own]);
      }
    }),
    { numRuns: 40 },
  );
});

test("as CSV every edge is a line with the level of every channel", () => {
  const csv = writeWaveCsv([wave("Beak, lower", 1000, 20_000), wave("Tuft", 1500.5, 20_000)], 1);
  expect(csv.split("\r\n")).toEqual(['time_us,"Beak, lower",Tuft', "0,1,1", "1000,0,1", "1500.5,0,0", ""]);
});

test("at 60 Hz the tenth edge is where it is, and not ten rounded periods away", () => {
  const rises = edgesOf([wave("a", 1500, 1e6 / 60)], 11).filter(({ level }) => level === 1);
  // 10 × 16 666.666… µs; ten times 16 666 667 ns would be 3 ns more.
  expect(rises[10]?.atNs).toBe(166_666_667);
});

test("a channel with shorter frames goes on until the slowest has ended", () => {
  const rises = edgesOf([wave("slow", 1500, 20_000), wave("fast", 1500, 5000)], 2).filter(
    ({ channel, level }) => channel === 1 && level === 1,
  );
  expect(rises.map(({ atNs }) => atNs / 1e6)).toEqual([0, 5, 10, 15, 20, 25, 30, 35]);
});

test("timers put their pulses where they are: at the end of the frame, about its middle, or about its beginning", () => {
  const at = (alignment: "edge" | "centre", output: "normal" | "inverted") => {
    const encoding = { kind: "timer", clockHz: 1_000_000, prescale: 1, counterBits: 16, alignment, output } as const;
    const maker = makerOf(encoding, 50);
    const edges = edgesOf([wave("a", 2000, maker.periodUs, maker.riseUsAt(2000, 0))], 1);
    return edges.map(({ atNs, level }) => `${atNs / 1000}${level === 1 ? "↑" : "↓"}`).join(" ");
  };
  expect(at("edge", "normal")).toBe("0↑ 2000↓");
  expect(at("edge", "inverted")).toBe("18000↑ 20000↓");
  expect(at("centre", "inverted")).toBe("9000↑ 11000↓");
  expect(at("centre", "normal")).toBe("0↑ 1000↓ 19000↑");
});

test("two joints of one name, or in another script, are two wires; their labels stand beside them", () => {
  const text = writeVcd([wave("Ohr", 1000, 20_000), wave("Ohr", 1500, 20_000), wave("耳", 1200, 20_000)], 1);
  expect([...readVcd(text).edges.keys()]).toEqual(["Ohr", "Ohr_2", "ch2_"]);
  expect(text).toContain("$comment ch2_ is 耳 $end");
});

test("staggered channels: each begins so many counts after the one before, and one that reaches over the frame is high at its beginning", () => {
  // 25 MHz over 4096 counts and a prescale of 121 is 4.88 µs a count: a quarter of the frame is 1024 counts, 4997.12 µs.
  const maker = makerOf(
    { kind: "pulseChip", oscillatorHz: 25e6, oscillatorErrorPercent: 0, bits: 12, rounding: "round", stagger: 1024 },
    50,
  );
  expect([0, 1, 3, 4].map((channel) => maker.riseUsAt(1500, channel))).toEqual([0, 4997.12, 14_991.36, 0]);
  const reaching = edgesOf([wave("d", 6000, maker.periodUs, maker.riseUsAt(6000, 3))], 1);
  expect(reaching.map(({ atNs, level }) => [atNs, level])).toEqual([
    [0, 1],
    [1_002_880, 0],
    [14_991_360, 1],
  ]);
});
