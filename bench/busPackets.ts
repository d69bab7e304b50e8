import fc from "fast-check";
import { encodePacket, heron, kestrel, type Packet, PacketReader } from "../src/core/bus";
import { demoProject } from "../src/core/demo";
import type { Layout } from "../src/core/project";
import { Bench } from "../src/worker/bench";
import { medianUs } from "./timing";

const packet: Packet = {
  direction: "request",
  id: 3,
  operation: 0x50,
  asksReply: false,
  error: 0,
  parameters: Uint8Array.from([50, 2, 0, 0xac, 0xd1, 9, 8, 7]),
};
const cases = 100_000;

/** How fast packets are made and found again; a plain copy of the same bytes, byte by byte, is the measure beside it. */
export function busPackets(): string[] {
  return [kestrel, heron].flatMap((layout) => {
    const bytes = encodePacket(layout, packet);
    const many = Uint8Array.from({ length: bytes.length * 100 }, (_, at) => bytes[at % bytes.length] as number);
    const codeUs = medianUs(1000, 20, () => void encodePacket(layout, packet));
    const copyUs = medianUs(20, 20, () => void Uint8Array.from(many)) / 100;
    const reader = new PacketReader(layout, "request");
    const readUs = medianUs(20, 20, () => reader.read(many, () => {})) / 100;
    return [
      `${layout.name}, ${bytes.length} bytes: ${perSecond(codeUs)} coded and ${perSecond(readUs)} decoded a second, ${(readUs / copyUs).toFixed(0)} times a copy of the bytes`,
    ];
  });
}

/** The demo on the bench, its bus with a frame of goals and as many answers as the wire has time for simulated byte by byte. */
export function busTick(): string[] {
  const bench = new Bench();
  bench.configure(demoProject(), 1);
  bench.command({ kind: "holdAll" }, 0);
  let nowMs = 0;
  const tick = () => {
    nowMs += 20;
    bench.tick(nowMs);
  };
  for (let ticks = 0; ticks < 5000; ticks += 1) tick();
  const us = medianUs(50, 20, tick);
  return [`${us.toFixed(0)} µs a tick, ${((100 * us) / 20_000).toFixed(2)} % of a 20 ms frame`];
}

const perSecond = (us: number): string => `${Math.round(1e6 / us / 1000)} 000`;

/** Streams of packets and noise, cut anywhere: every good packet must be found, and nothing thrown. Says how many were tried. */
export function busFuzz(): string[] {
  let packets = 0;
  const one = fc.tuple(fc.nat(254), fc.nat(255), fc.uint8Array({ maxLength: 24 })).map(
    ([id, operation, parameters]): Packet => ({
      direction: "request",
      id,
      operation,
      asksReply: false,
      error: 0,
      parameters,
    }),
  );
  const tried = (layout: Layout, mark: number) => {
    const noise = fc.uint8Array({ maxLength: 10 }).map((bytes) => bytes.map((byte) => (byte === mark ? 0 : byte)));
    const part = fc.tuple(noise, one);
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 3 }), fc.integer({ min: 1, max: 9 }), (parts, cut) => {
        const stream = parts.flatMap(([before, sent]) => [...before, ...encodePacket(layout, sent)]);
        const reader = new PacketReader(layout, "request");
        let found = 0;
        const take = (heard: { kind: string }) => {
          if (heard.kind === "packet") found += 1;
        };
        for (let at = 0; at < stream.length; at += cut) reader.read(stream.slice(at, at + cut), take);
        reader.flush(take);
        packets += parts.length;
        return found >= parts.length;
      }),
      { numRuns: cases / 2 },
    );
  };
  tried(kestrel, 0xb4);
  tried(heron, 0xd1);
  const reader = new PacketReader(kestrel, "request");
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 40 }), (bytes) => reader.read(bytes, () => {})),
    { numRuns: cases },
  );
  return [
    `${cases} streams with ${packets} packets, cut and joined anywhere: all found; ${cases} runs of arbitrary bytes: none threw`,
  ];
}
