import type { BenchTold, Wants } from "@core/remote";
import { encode, Message } from "node-osc";
import { Packet } from "sacn";
import { describe, expect, test } from "vitest";
import { Messages } from "./messages";
import { valuesIn } from "./oscDoor";
import { packetIn } from "./sacnDoor";

const wants: Wants = {
  root: "show/owl",
  keys: ["mqtt:knob", "cue:go"],
  mayStop: false,
  poses: [{ id: "p1", name: "Watch" }],
  routines: [],
};

function funnel() {
  const told: BenchTold[] = [];
  const log: string[] = [];
  const clock = { nowMs: 0 };
  const messages = new Messages({
    nowMs: () => clock.nowMs,
    tell: (one) => told.push(one),
    note: (who, what, sentence) => log.push(`${who} ${what}: ${sentence}`),
  });
  messages.setWants(wants);
  return {
    messages,
    told,
    log,
    clock,
    say: (topic: string, payload: string, isRetained = false) =>
      messages.hearTopic("MQTT", `show/owl/${topic}`, Buffer.from(payload), isRetained),
  };
}

describe("what passes the funnel", () => {
  test("numbers that a source waits for; others are heard of and go no further", () => {
    const { say, told, messages } = funnel();
    say("in/knob", "5");
    say("in/other", "6");
    expect(told).toEqual([{ kind: "afar", key: "mqtt:knob", value: 5, atMs: 0 }]);
    expect(messages.heard.map(({ key, value }) => [key, value])).toEqual([
      ["mqtt:other", 6],
      ["mqtt:knob", 5],
    ]);
  });

  test("acts that others may; a release always", () => {
    const { say, told, log } = funnel();
    for (const [topic, payload] of [
      ["do/pose", "Watch"],
      ["do/pose", "p1"],
      ["do/pose", "Look left"],
      ["do/stop", ""],
      ["do/play", "Owl wakes"],
      ["do/release", ""],
    ] as const)
      say(topic, payload);
    expect(told.map((one) => one.kind === "act" && one.act.kind)).toEqual(["pose", "pose", "release"]);
    expect(log.filter((line) => line.includes("refused"))).toHaveLength(3);
  });

  test("what was kept by a broker, is too long, or came twice does not", () => {
    const { say, told } = funnel();
    say("in/knob", "1", true);
    say("in/knob", `{"value":2,"x":"${"x".repeat(2000)}"}`);
    say("in/knob", '{"value":3,"seq":7,"from":"shelf"}');
    say("in/knob", '{"value":4,"seq":7,"from":"shelf"}');
    say("in/knob", '{"value":5,"seq":6,"from":"shelf"}');
    expect(told).toMatchObject([{ value: 3 }]);
  });

  test("a last will takes along what its sender fed, and no more", () => {
    const { say, told } = funnel();
    say("in/knob", '{"value":3,"from":"shelf"}');
    say("here/another", "0");
    say("here/shelf", "0");
    expect(told.slice(1)).toEqual([{ kind: "vanished", keys: ["mqtt:knob"], who: "shelf" }]);
  });

  test("a flood under one topic takes nothing from another, and a release is heard in it", () => {
    const { say, told, clock } = funnel();
    for (let at = 0; at < 10_000; at += 1) {
      clock.nowMs = at / 10;
      say("in/nobody", String(at));
      if (at % 1000 === 0) say("in/knob", String(at));
    }
    say("do/release", "");
    expect(told.filter(({ kind }) => kind === "afar")).toHaveLength(10);
    expect(told.at(-1)).toMatchObject({ act: { kind: "release" } });
  });
});

test("a show desk's packets are read, bundles as well; patterns and what is cut are not", () => {
  expect(valuesIn(encode(new Message("/a/b", 0.5, true, "x", 7)))).toEqual([
    { key: "osc:/a/b#0", value: 0.5 },
    { key: "osc:/a/b#1", value: 1 },
    { key: "osc:/a/b#3", value: 7 },
  ]);
  expect(valuesIn(encode(new Message("/press")))).toEqual([{ key: "osc:/press#0", value: 1 }]);
  for (const odd of ["/a/*", "/a/\u0007", "/a b", "a/b", "/a//b", "/é"])
    expect(valuesIn(encode(new Message(odd, 1)))).toBeNull();
  const whole = encode(new Message("/a/b", 0.5));
  for (let length = 0; length < whole.length; length += 1) expect(valuesIn(whole.subarray(0, length))).toBeNull();
});

test("a lighting desk's packets are read; a preview, a priority that is none, and what is cut are not", () => {
  const bytes = () =>
    Buffer.from(new Packet({ universe: 7, sequence: 9, payload: { 1: 200, 512: 3 }, useRawDmxValues: true }).buffer);
  const read = packetIn(bytes());
  expect([
    read?.universe,
    read?.packet.sequence,
    read?.packet.slots[0],
    read?.packet.slots[511],
    read?.packet.slots.length,
  ]).toEqual([7, 9, 200, 3, 512]);
  const changed = (at: number, to: number) => {
    const packet = bytes();
    packet[at] = to;
    return packet;
  };
  expect(packetIn(changed(112, 0x80))).toBeNull();
  expect(packetIn(changed(108, 201))).toBeNull();
  expect(packetIn(changed(112, 0x40))?.packet.isTerminated).toBe(true);
  for (let length = 0; length < 638; length += 7) expect(packetIn(bytes().subarray(0, length))).toBeNull();
});
