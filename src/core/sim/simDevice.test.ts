import {
  dissect,
  encodePacket,
  groupWriteRequest,
  heron,
  kestrel,
  operationFor,
  pingRequest,
  rawBytes,
  rawIn,
  reachOf,
  readRequest,
  registerFor,
  requestOf,
  writeRequest,
} from "@core/bus";
import type { Layout, Operation, Register, RegisterRole } from "@core/project";
import { describe, expect, test } from "vitest";
import { faultlessTruth, SimDevice, SimServo, type StoredRegisters } from ".";

/** A device out of the box, with its servo in the middle of its travel; and what it is asked, in the bytes of its family. */
function deviceOf(layout: Layout, stored: StoredRegisters = {}) {
  // A hundred hundredths are a degree, from 0 to 360; 62.5 parts are one, and 160° is their middle.
  const [centre, perDeg, midDeg] = layout === heron ? [18_000, 100, 180] : [0, 62.5, 160];
  const servo = new SimServo({
    ...faultlessTruth,
    centre,
    midDeg,
    perDeg,
    speedDegPerS: 300,
    stopHighDeg: 360,
    startDeg: midDeg,
    feedback: { atZeroDeg: centre - midDeg * perDeg, perDeg, noise: 0 },
  });
  let storings = 0;
  const device = new SimDevice(layout, servo, stored, 0, () => {
    storings += 1;
  });
  const say = (bytes: Uint8Array | null) => {
    if (!bytes) throw new Error("The family cannot say that.");
    const reply = device.receive(bytes);
    return reply && dissect(layout, "reply", reply.bytes).packet;
  };
  const register = (role: RegisterRole) => registerFor(layout, role) as Register;
  return {
    device,
    servo,
    say,
    register,
    storings: () => storings,
    write: (role: RegisterRole, raw: number) =>
      say(writeRequest(layout, device.id, register(role), raw)?.bytes ?? null)?.error,
    read: (role: RegisterRole) => {
      const { address, size } = reachOf(register(role));
      const reply = say(readRequest(layout, device.id, address, size));
      return reply && rawIn(layout, register(role), reply.parameters, register(role).address - address);
    },
    pass(ms: number, volts = 12) {
      for (let passed = 0; passed < ms; passed += 20) device.advance(20, volts);
    },
  };
}
/** What the manuals say: a Heron has a bit for each, a Kestrel a code. */
const manual = {
  heron: { operation: 2, torque: 4, range: 8, voltage: 32, overload: 64, temperature: 128 },
  kestrel: { overload: 11, temperature: 12, voltage: 21, range: 31, torque: 32, operation: 33 },
};
const errorsOf = ({ id }: Layout) => (id === "heron" ? manual.heron : manual.kestrel);

describe.each([kestrel, heron])("a $name", (layout) => {
  const errors = errorsOf(layout);

  test("answers what is for it and right, and is silent about all else", () => {
    const { device, say } = deviceOf(layout);
    expect(say(pingRequest(layout, device.id))?.error).toBe(0);
    expect(say(pingRequest(layout, device.id + 1))).toBeNull();
    const wrong = pingRequest(layout, device.id) as Uint8Array;
    wrong[wrong.length - 1] = (wrong.at(-1) as number) ^ 1;
    expect(device.receive(wrong)).toBeNull();
    expect(device.receive(Uint8Array.of())).toBeNull();
  });

  test("what is out of range, or for no register, changes nothing and says so", () => {
    const { write, read, say, device, register } = deviceOf(layout);
    const before = read("goalPosition");
    expect(write("goalPosition", register("goalPosition").high + 1)).toBe(errors.range);
    expect(read("goalPosition")).toBe(before);
    expect(write("position", 5)).toBe(errors.range);
    const end = Math.max(...layout.registers.map(({ address, size }) => address + size));
    expect(say(readRequest(layout, device.id, end, 2))?.error).toBe(errors.range);
    const unknown: Operation = {
      code: 0x77,
      label: "nobody's",
      kind: "other",
      request: [],
      reply: [],
      answers: "always",
    };
    expect(say(encodePacket(layout, requestOf(layout, unknown, device.id)))?.error).toBe(errors.operation);
  });

  test("its number can be written only while it is limp; then it answers to the new one alone", () => {
    const { device, write, say } = deviceOf(layout);
    write("torque", 1);
    expect(write("id", 7)).toBe(errors.torque);
    write("torque", 0);
    const old = device.id;
    expect(write("id", 7)).toBe(0);
    expect(device.id).toBe(7);
    expect(say(pingRequest(layout, old))).toBeNull();
    expect(say(pingRequest(layout, 7))?.id).toBe(7);
  });

  test("given torque without a goal it stays where it is; with one it goes there", () => {
    const { servo, write, pass, read } = deviceOf(layout);
    const stood = servo.angleDeg;
    write("torque", 1);
    pass(500);
    expect(Math.abs(servo.angleDeg - stood)).toBeLessThan(0.5);
    const goal = (read("position") ?? 0) + 3000;
    write("goalPosition", goal);
    pass(1000);
    expect(Math.abs((read("position") ?? 0) - goal)).toBeLessThan(2);
  });

  test("limp, it does not move, whatever goal it is given", () => {
    const { servo, write, pass } = deviceOf(layout);
    const stood = servo.angleDeg;
    write("torque", 0);
    write("goalPosition", 10);
    pass(1000);
    expect(servo.angleDeg).toBe(stood);
  });

  test("after a break of the supply it is limp and has forgotten its goal, but not what it stores", () => {
    const { device, write, read, register } = deviceOf(layout);
    write("replyDelay", 90);
    write("torque", 1);
    write("goalPosition", 300);
    device.restart();
    expect(read("torque")).toBe(0);
    expect(read("goalPosition")).toBe(register("goalPosition").default);
    expect(read("replyDelay")).toBe(90);
    const again = deviceOf(layout, device.stored);
    expect(again.read("replyDelay")).toBe(90);
  });

  test("what is stored is kept when it is written, and only then", () => {
    const { write, storings } = deviceOf(layout);
    write("goalPosition", 300);
    write("torque", 0);
    expect(storings()).toBe(0);
    write("replyDelay", 90);
    expect(storings()).toBe(1);
  });

  test("set back as from the factory it has its first number, and lies limp", () => {
    const { device, say, write, read, register } = deviceOf(layout);
    write("id", 7);
    const reset = operationFor(layout, "factoryReset") as Operation;
    // It still answers as the one that was asked.
    expect(say(encodePacket(layout, requestOf(layout, reset, 7)))?.id).toBe(7);
    expect(device.id).toBe(register("id").default);
    expect(read("torque")).toBe(0);
  });

  test("of a group write it takes its own part, and nobody answers", () => {
    const { device, say, write, read, register } = deviceOf(layout);
    write("torque", 1);
    const { address, size } = register("goalPosition");
    const goalOf = (raw: number) => rawBytes(layout, register("goalPosition"), raw);
    const each = [
      { id: device.id + 1, data: goalOf(111) },
      { id: device.id, data: goalOf(222) },
    ];
    expect(say(groupWriteRequest(layout, address, size, each))).toBeNull();
    expect(read("goalPosition")).toBe(222);
    say(groupWriteRequest(layout, address, size, [{ id: device.id + 1, data: goalOf(333) }]));
    expect(read("goalPosition")).toBe(222);
  });
});

describe("what it does for its own sake", () => {
  const errors = manual.kestrel;

  test("too little on the wire is told as trouble, and is over when the supply is back", () => {
    const { say, device, pass } = deviceOf(kestrel);
    pass(40, 5);
    expect(say(pingRequest(kestrel, device.id))?.error).toBe(errors.voltage);
    pass(40, 12);
    expect(say(pingRequest(kestrel, device.id))?.error).toBe(0);
  });

  test("too hot, it lets go, says so, and does not come back by itself", () => {
    const { device, write, read, pass, say } = deviceOf(kestrel);
    write("torque", 1);
    device.isHot = true;
    pass(8000);
    expect(read("torque")).toBe(0);
    expect(say(pingRequest(kestrel, device.id))?.error).toBe(errors.temperature);
    device.isHot = false;
    pass(120_000);
    expect(say(pingRequest(kestrel, device.id))?.error).toBe(0);
    expect(read("torque")).toBe(0);
  });

  test("overloaded for two and a half seconds, it lets go; torque given again takes the word back", () => {
    const { device, write, read, pass, say } = deviceOf(kestrel);
    write("torque", 1);
    device.isOverloaded = true;
    pass(2000);
    expect(read("torque")).toBe(1);
    pass(1000);
    expect(read("torque")).toBe(0);
    expect(say(pingRequest(kestrel, device.id))?.error).toBe(errors.overload);
    write("torque", 1);
    pass(40);
    expect(say(pingRequest(kestrel, device.id))?.error).toBe(0);
  });

  test("a Kestrel's goal is held within its lowest and highest position", () => {
    const { write, read, pass } = deviceOf(kestrel);
    write("lowestPosition", -2000);
    write("torque", 1);
    write("goalPosition", -5000);
    pass(2000);
    expect(Math.abs((read("position") ?? 0) + 2000)).toBeLessThan(4);
  });

  test("a Kestrel asked for no answer does what it is told and keeps silent, even of what it refuses", () => {
    const { device, say, read, register } = deviceOf(kestrel);
    for (const [raw, stands] of [
      [700, 700],
      [10_001, 700],
    ] as const) {
      expect(say(writeRequest(kestrel, device.id, register("goalPosition"), raw, true)?.bytes ?? null)).toBeNull();
      expect(read("goalPosition")).toBe(stands);
    }
  });

  test("a speed and the byte of its direction are one value: a Kestrel at −40 % turns back, 120° a second", () => {
    const { write, servo, pass, read } = deviceOf(kestrel);
    expect(write("mode", 5)).toBe(0);
    write("torque", 1);
    expect(write("goalVelocity", -400)).toBe(0);
    expect(read("goalVelocity")).toBe(-400);
    const from = servo.angleDeg;
    pass(2000);
    expect(servo.angleDeg - from).toBeCloseTo(-240, 0);
  });

  test("a Heron's goal beyond its turn is taken round: 370° is 10°", () => {
    const { write, read, pass } = deviceOf(heron);
    write("torque", 1);
    write("goalPosition", 37_000);
    pass(3000);
    expect(read("position")).toBe(1000);
  });

  test("a Heron in its velocity mode turns on past its turn: asked for 60° a second it has turned 420° after seven", () => {
    const { write, servo, pass, register } = deviceOf(heron);
    const velocity = heron.modes.find(({ kind }) => kind === "velocity");
    expect(write("mode", velocity?.value ?? -1)).toBe(0);
    write("torque", 1);
    const from = servo.angleDeg;
    write("goalVelocity", Math.round(60 / register("goalVelocity").scale));
    pass(7000);
    expect(servo.angleDeg - from).toBeCloseTo(420, 0);
  });
});
