import { EventEmitter } from "node:events";
import { expect, test } from "vitest";
import type { WebSocket } from "ws";
import { PadSocket } from "./padSocket";
import { type Session, Sessions } from "./sessions";

const session = (): Session => {
  const sessions = new Sessions();
  sessions.begin("Ada", "10.0.0.2", "phone", false, 0);
  return sessions.all[0] as Session;
};

/** A pad's connection whose other end the test holds; `heard` is what came through. */
function pad() {
  const heard: string[] = [];
  const end = new EventEmitter() as EventEmitter & { isGone: boolean; bufferedAmount: number; said: number };
  Object.assign(end, { OPEN: 1, readyState: 1, bufferedAmount: 0, isGone: false, said: 0 });
  const clock = { nowMs: 0 };
  Object.assign(end, {
    send: () => {
      end.said += 1;
    },
    close: () => {},
    terminate: () => {
      end.isGone = true;
    },
  });
  const one = session();
  const socket = new PadSocket(end as unknown as WebSocket, one, {
    nowMs: () => clock.nowMs,
    controlOf: () => undefined,
    onHands: () => heard.push("hands"),
    onRelease: (times) => heard.push(`release ${times}`),
    onPressed: () => heard.push("pressed"),
    onRefused: (sentence) => heard.push(sentence),
    onClosed: () => heard.push("closed"),
  });
  return {
    end,
    heard,
    clock,
    socket,
    session: one,
    say: (text: string) => end.emit("message", Buffer.from(text), false),
  };
}

test("a cookie is good at its own address and in its own browser alone, and for nobody who changes a letter", () => {
  const sessions = new Sessions();
  const cookie = `vantel-pad=${sessions.begin("Ada", "10.0.0.2", "phone", false, 0)}`;
  expect(sessions.find(`a=b; ${cookie}`, "10.0.0.2", "phone")?.device.name).toBe("Ada");
  expect(sessions.find(cookie, "10.0.0.3", "phone")).toBeNull();
  expect(sessions.find(cookie, "10.0.0.2", "another")).toBeNull();
  expect(sessions.find(`${cookie}x`, "10.0.0.2", "phone")).toBeNull();
  expect(sessions.find(undefined, "10.0.0.2", "phone")).toBeNull();
});

test("two devices of one name are told apart", () => {
  const sessions = new Sessions();
  for (let time = 0; time < 2; time += 1) sessions.begin("Phone", "10.0.0.2", "phone", false, 0);
  expect(sessions.all.map(({ device }) => device.name)).toEqual(["Phone", "Phone 2"]);
});

test("who floods is cut off and barred; a release is heard in the crowd", () => {
  const { say, heard, end, session: one } = pad();
  for (let at = 0; at < 100; at += 1) say('{"kind":"time","askedMs":1,"atMs":1}');
  say('{"kind":"release","times":1}');
  expect(heard).toEqual(["release 1"]);
  for (let at = 0; at < 300; at += 1) say('{"kind":"time","askedMs":1,"atMs":1}');
  expect([end.isGone, heard.at(-1), one.barredUntilMs > 0]).toEqual([true, "closed", true]);
});

test("who goes on saying what no pad says is cut off; before a clock is known no thumb is heard", () => {
  const { say, heard, end } = pad();
  say('{"kind":"hands","seq":1,"atMs":1,"hands":[]}');
  expect(heard).toEqual([]);
  for (const text of ["", "{", "[]", '{"kind":"x"}', '{"kind":"release"}', "null"]) say(text);
  expect(end.isGone).toBe(true);
});

test("who only talks and never listens is cut off; a state is left out before that", () => {
  const { end, socket } = pad();
  end.bufferedAmount = 100_000;
  socket.tellText("state", true);
  expect([end.said, end.isGone]).toEqual([0, false]);
  end.bufferedAmount = 2_000_000;
  socket.tellText("word");
  expect([end.said, end.isGone]).toEqual([0, true]);
});
