import { seededRandom } from "@core/sim";
import { expect, test } from "vitest";
import type { ByteStream } from "../wires";
import { RealPackets } from "./realPackets";

function adapter() {
  const stream: ByteStream & { sent: number[] } = {
    life: { kind: "open" },
    sent: [],
    onBytes: () => {},
    onLife: () => {},
    write: (bytes) => void stream.sent.push(...bytes),
    setLastWords: () => {},
    setSpeed: () => {},
    close: () => {},
  };
  const heard: number[] = [];
  const packets = new RealPackets(
    stream,
    115_200,
    () => 0,
    () => {},
  );
  packets.onBytes = (bytes) => void heard.push(...bytes);
  return { stream, packets, heard };
}

test("an adapter that echoes is found out with the first packet, and its echo is swallowed, in pieces of any size", () => {
  const { stream, packets, heard } = adapter();
  const ask = Uint8Array.of(255, 255, 3, 2, 1);
  packets.send(ask, 115_200);
  stream.onBytes(ask.slice(0, 2));
  expect(packets.echoes).toBeNull();
  stream.onBytes(Uint8Array.of(3, 2, 1, 255, 255, 3, 7));
  expect([packets.echoes, heard]).toEqual([true, [255, 255, 3, 7]]);
});

test("one that does not echo: an answer that begins as the question did is heard whole", () => {
  const { stream, packets, heard } = adapter();
  packets.send(Uint8Array.of(255, 255, 3, 2, 1), 115_200);
  stream.onBytes(Uint8Array.of(255, 255));
  stream.onBytes(Uint8Array.of(3, 7, 9));
  expect([packets.echoes, heard]).toEqual([false, [255, 255, 3, 7, 9]]);
});

test("an answer that never came whole is handed on before the next question", () => {
  const { stream, packets, heard } = adapter();
  packets.send(Uint8Array.of(255, 255, 3), 115_200);
  stream.onBytes(Uint8Array.of(255));
  packets.send(Uint8Array.of(254), 115_200);
  expect(heard).toEqual([255]);
});

test("a second packet that leaves before the first was echoed: both echoes are swallowed (found by a scan that missed a device)", () => {
  const { stream, packets, heard } = adapter();
  packets.send(Uint8Array.of(255, 1), 115_200);
  stream.onBytes(Uint8Array.of(255, 1));
  expect(packets.echoes).toBe(true);
  packets.send(Uint8Array.of(255, 2), 115_200);
  packets.send(Uint8Array.of(255, 3), 115_200);
  stream.onBytes(Uint8Array.of(255));
  packets.send(Uint8Array.of(255, 4), 115_200);
  stream.onBytes(Uint8Array.of(2, 255, 3, 255, 4, 255, 9));
  expect(heard).toEqual([255, 9]);
});

test("two packets before anything has come back: that it echoes is found out all the same", () => {
  const { stream, packets, heard } = adapter();
  packets.send(Uint8Array.of(255, 2), 115_200);
  packets.send(Uint8Array.of(255, 3), 115_200);
  stream.onBytes(Uint8Array.of(255, 2, 255));
  stream.onBytes(Uint8Array.of(3, 255, 9));
  expect([packets.echoes, heard]).toEqual([true, [255, 9]]);
});

test("random packets through an adapter that echoes, cut at random: only the answers come through", () => {
  const random = seededRandom(5);
  const { stream, packets, heard } = adapter();
  const answers: number[] = [];
  const bytesOf = (length: number) => Uint8Array.from({ length }, () => Math.floor(random() * 256));
  for (let at = 0; at < 2000; at += 1) {
    const ask = bytesOf(1 + Math.floor(random() * 12));
    const answer = bytesOf(Math.floor(random() * 12));
    answers.push(...answer);
    packets.send(ask, 115_200);
    const line = Uint8Array.of(...ask, ...answer);
    for (let from = 0; from < line.length; ) {
      const to = from + 1 + Math.floor(random() * 8);
      stream.onBytes(line.slice(from, to));
      from = to;
    }
  }
  expect(heard).toEqual(answers);
});
