import {
  BusSession,
  changeSpeed,
  type DeviceNews,
  heron,
  kestrel,
  letGoFirst,
  meet,
  type Procedure,
  readAll,
  renumber,
  scan,
  type WireAnswer,
  writeValue,
} from "@core/bus";
import type { Layout } from "@core/project";
import { expect, test } from "vitest";
import { faultlessTruth, noFaults, SimBus, SimDevice, SimServo } from ".";

/** A bus with devices of these ids, the first ones joints; and a clock that a test turns by hand. */
function busOf(ids: readonly number[], { layout = kestrel, joints = 0, slack = [10, 40, 1300] } = {}) {
  const devices = ids.map((id, at) => {
    const [centre, perDeg, midDeg] = layout === heron ? [18_000, 100, 180] : [0, 62.5, 160];
    const truth = {
      ...faultlessTruth,
      centre,
      midDeg,
      perDeg,
      speedDegPerS: 300,
      stopHighDeg: 360,
    };
    const servo = new SimServo({
      ...truth,
      startDeg: truth.midDeg,
      feedback: { atZeroDeg: centre - midDeg * perDeg, perDeg, noise: 6 },
    });
    const device = new SimDevice(layout, servo, {}, slack[at % slack.length] as number, () => {});
    device.force("id", id);
    return device;
  });
  const news: DeviceNews[] = [];
  const session = new BusSession(
    230_400,
    254,
    ids.slice(0, joints).map((id) => ({
      id,
      layout,
      calmTicksPerFrame: 75,
      fastestTicksPerFrame: Number.POSITIVE_INFINITY,
      window: { low: -10_000, high: 10_000 },
    })),
    [kestrel, heron],
    (bytes, speed, atUs) => bus.receive(bytes, speed, atUs),
  );
  session.onNews = (one) => news.push(one);
  const bus = new SimBus((bytes, atUs) => session.receive(bytes, atUs));
  bus.devices = devices;
  let nowMs = 0;
  const wanted = new Float64Array(joints).fill(Number.NaN);
  /** One frame of 20 ms, as the bench ticks. */
  const frame = () => {
    nowMs += 20;
    for (let nowUs = 0; ; ) {
      nowUs = Math.max(nowUs, Math.min(session.nextWakeUs, bus.nextEventUs));
      if (nowUs > nowMs * 1000) break;
      bus.advance(nowUs);
      session.wake(nowUs);
    }
    session.wake(nowMs * 1000);
    if (joints > 0) session.sendFrame(ids.slice(0, joints), wanted, nowMs);
    bus.step(nowMs, 20);
  };
  return {
    session,
    bus,
    devices,
    news,
    wanted,
    nowMs: () => nowMs,
    run(ms: number, each: () => void = () => {}) {
      for (let passed = 0; passed < ms; passed += 20) {
        frame();
        each();
      }
    },
    /** Lets a procedure run to its end. */
    do<Progress, Outcome>(procedure: Procedure<Progress, Outcome>): Outcome {
      let outcome: Outcome | undefined;
      session.run(
        procedure,
        () => {},
        (end) => {
          outcome = end;
        },
      );
      for (let frames = 0; outcome === undefined && frames < 5000; frames += 1) frame();
      if (outcome === undefined) throw new Error("It never ended.");
      return outcome;
    },
  };
}

const plan = (layouts: readonly Layout[], bitsPerS = [230_400]) => ({ layouts, lowestId: 0, highestId: 12, bitsPerS });

test("a scan finds who is there at which speed, and what they are", () => {
  const at = busOf([3, 7]);
  at.devices[1]?.force("bitRate", 78);
  expect(at.do(scan(plan([kestrel, heron], [230_400, 500_000])))).toEqual([
    { layoutId: "kestrel", id: 3, bitsPerS: 230_400, isClash: false, model: 7302, firmware: 12 },
    { layoutId: "kestrel", id: 7, bitsPerS: 500_000, isClash: false, model: 7302, firmware: 12 },
  ]);
});

test.each([
  ["garbled", [10, 40]],
  ["one after the other", [10, 1300]],
])("two with one id are known as a clash when their answers come %s", (_, slack) => {
  expect(busOf([1, 1], { slack }).do(meet(kestrel, 1, null))).toMatchObject({ isClash: true });
});

test("three new ones are numbered one at a time, and a clash is walked out of", () => {
  const at = busOf([1, 1, 1]);
  const [red, green, blue] = at.devices as [SimDevice, SimDevice, SimDevice];
  expect(at.do(renumber(kestrel, 1, 4)).sentence).toContain("Two or more answer as 1");
  at.bus.devices = [red];
  expect(at.do(renumber(kestrel, 1, 4)).isDone).toBe(true);
  at.bus.devices = [red, green];
  expect(at.do(renumber(kestrel, 1, 4)).sentence).toContain("Somebody answers as 4 already");
  expect(at.do(renumber(kestrel, 1, 5)).isDone).toBe(true);
  at.bus.devices = [red, green, blue];
  expect(at.do(renumber(kestrel, 1, 6)).isDone).toBe(true);
  expect(at.do(scan(plan([kestrel]))).map(({ id }) => id)).toEqual([4, 5, 6]);
});

test("the speed of all is changed, or of none", () => {
  const at = busOf([3, 7]);
  expect(
    at.do(
      changeSpeed(
        [3, 7].map((id) => ({ layout: kestrel, id })),
        230_400,
        500_000,
      ),
    ).isDone,
  ).toBe(true);
  expect(at.devices.map(({ bitsPerS }) => bitsPerS)).toEqual([500_000, 500_000]);
  const other = busOf([3, 7]);
  expect(
    other.do(
      changeSpeed(
        [3, 8].map((id) => ({ layout: kestrel, id })),
        230_400,
        500_000,
      ),
    ).sentence,
  ).toContain("Nothing was changed");
  expect(other.devices.map(({ bitsPerS }) => bitsPerS)).toEqual([230_400, 230_400]);
});

test("a register that needs the torque off is refused with it on, and written through a moment without", () => {
  const at = busOf([3]);
  at.devices[0]?.force("torque", 1);
  expect(at.do(writeValue(kestrel, 3, 80, -4000, false))).toMatchObject({
    isDone: false,
    raw: -10_000,
    sentence: expect.stringContaining("only while it is limp"),
  });
  expect(at.do(writeValue(kestrel, 3, 80, -4000, true))).toMatchObject({ isDone: true, raw: -4000 });
  expect(at.devices[0]?.isHeld).toBe(true);
  expect(at.do(readAll(kestrel, 3)).get(80)).toBe(-4000);
});

test("switched on, a joint starts from where it stands, and is led to its target in calm steps", () => {
  const at = busOf([3], { joints: 1 });
  at.run(200);
  at.wanted[0] = 3500;
  let before = at.devices[0]?.read("position") ?? 0;
  at.run(4000, () => {
    const now = at.devices[0]?.read("position") ?? 0;
    // 75 ticks a frame is what it may be led by; each reading is off by 9 at most.
    expect(Math.abs(now - before)).toBeLessThanOrEqual(94);
    before = now;
  });
  expect(Math.abs(before - 3500)).toBeLessThan(30);
  at.wanted[0] = Number.NaN;
  at.run(100);
  expect(at.devices[0]?.isHeld).toBe(false);
});

type At = ReturnType<typeof busOf>;
const faulty = (faults: Partial<typeof noFaults>) => (at: At) => {
  at.bus.faults = { ...noFaults, ...faults };
};
const plugged = (isIn: boolean) => (at: At) => {
  at.bus.devices = isIn ? at.devices : [];
};
const hot = (isHot: boolean) => (at: At) => {
  for (const device of at.devices) device.isHot = isHot;
};
const overloaded = (at: At) => {
  for (const device of at.devices) device.isOverloaded = true;
};
const nothing = () => {};

test.each<[string, (at: At) => void, (at: At) => void, string]>([
  ["a pulled plug", plugged(false), plugged(true), "back"],
  ["a brown-out", (at) => at.bus.brownOut(2000), nothing, "restarted"],
  ["an overload", overloaded, nothing, "letGo"],
  ["heat", hot(true), hot(false), "letGo"],
  ["much noise", faulty({ noise: 0.02 }), faulty({}), ""],
  ["late answers", faulty({ late: 0.3 }), faulty({}), ""],
  ["lost answers", faulty({ lost: 0.9 }), faulty({}), ""],
])("%s makes no joint jump, then or when it is over, and is told by its name", (_, begin, end, told) => {
  const at = busOf([3, 4], { joints: 2 });
  at.wanted.set([0, 0]);
  at.run(2000);
  begin(at);
  let before = at.devices.map((device) => device.read("position") ?? 0);
  const calm = () => {
    const now = at.devices.map((device) => device.read("position") ?? 0);
    for (const [index, tick] of now.entries())
      expect(Math.abs(tick - (before[index] as number))).toBeLessThanOrEqual(94);
    before = now;
  };
  at.run(5000, calm);
  // Meanwhile a routine went on: the target is far from where the joint stands.
  if (told === "back") at.wanted.set([2500, 2500]);
  end(at);
  at.run(6000, calm);
  if (told) expect(at.news.map(({ kind }) => kind)).toContain(told);
  if (told === "back") expect(Math.abs((before[0] as number) - 2500)).toBeLessThan(30);
});

test("release all reaches a servo that is no joint, over whatever is on the wire, and ends what runs with a word", () => {
  const at = busOf([3, 4], { joints: 1 });
  at.run(100);
  at.do(writeValue(kestrel, 4, 90, 5, false));
  at.do(writeValue(kestrel, 4, 48, 1, false));
  at.do(writeValue(kestrel, 4, 52, 500, false));
  at.run(200);
  const spinning = at.devices[1]?.servo.angleDeg ?? 0;
  let wasBroken = false;
  at.session.run(
    scan(plan([kestrel])),
    () => {},
    () => {},
    () => {
      wasBroken = true;
    },
  );
  at.run(20);
  at.session.releaseAll(at.nowMs());
  at.run(20);
  expect(at.devices.map(({ isHeld }) => isHeld)).toEqual([false, false]);
  expect(wasBroken).toBe(true);
  const stopped = at.devices[1]?.servo.angleDeg ?? 0;
  expect(stopped).not.toBe(spinning);
  at.run(500);
  expect(at.devices[1]?.servo.angleDeg).toBe(stopped);
});

test("before a scan of other speeds the joints have let go; held during it, one starts from where it stands and is not thrown", () => {
  const at = busOf([3], { joints: 1 });
  at.wanted[0] = 0;
  at.run(1000);
  expect(at.devices[0]?.isHeld).toBe(true);
  // The page releases its joints and scans in the same breath.
  at.wanted[0] = Number.NaN;
  at.session.run(
    letGoFirst([{ layout: kestrel, id: 3 }], scan({ ...plan([kestrel], [57_600]), highestId: 40 })),
    () => {},
    () => {},
  );
  at.run(100);
  expect(at.devices[0]?.isHeld).toBe(false);
  // Held again, and sent far away, while nobody hears it.
  at.wanted[0] = 5000;
  let before = at.devices[0]?.read("position") ?? 0;
  at.run(4000, () => {
    const now = at.devices[0]?.read("position") ?? 0;
    expect(Math.abs(now - before)).toBeLessThanOrEqual(94);
    before = now;
  });
  expect(before).toBeGreaterThan(2000);
});

test("a servo that stands outside its window is not switched on, and says so; a window that is drawn in binds the next goal", () => {
  const at = busOf([3], { joints: 1 });
  at.session.bound(3, {
    calmTicksPerFrame: 75,
    fastestTicksPerFrame: Number.POSITIVE_INFINITY,
    window: { low: 1000, high: 2000 },
  });
  at.wanted[0] = 1500;
  at.run(500);
  expect(at.devices[0]?.isHeld).toBe(false);
  expect(at.news.map(({ kind }) => kind)).toContain("outside");
  const inside = busOf([3], { joints: 1 });
  inside.wanted[0] = 3000;
  inside.run(2000);
  inside.session.bound(3, {
    calmTicksPerFrame: 75,
    fastestTicksPerFrame: Number.POSITIVE_INFINITY,
    window: { low: -2000, high: 2000 },
  });
  // It comes in calmly, and no further out.
  let before = inside.devices[0]?.read("goalPosition") ?? 0;
  inside.run(600, () => {
    const now = inside.devices[0]?.read("goalPosition") ?? 0;
    expect(before - now).toBeLessThanOrEqual(75);
    expect(now).toBeLessThanOrEqual(before);
    before = now;
  });
  expect(before).toBe(2000);
});

test("a servo that would leap or turn on as soon as it may push is not switched on, and says why", () => {
  const ends = busOf([3], { joints: 1 });
  ends.devices[0]?.force("lowestPosition", 3000);
  ends.wanted[0] = 0;
  ends.run(1000);
  expect(ends.devices[0]?.isHeld).toBe(false);
  expect(new Set(ends.news.map(({ kind }) => kind))).toEqual(new Set(["ends"]));
  const turning = busOf([3], { joints: 1 });
  turning.devices[0]?.force("mode", kestrel.modes.find(({ kind }) => kind === "velocity")?.value ?? 0);
  turning.wanted[0] = 0;
  turning.run(1000);
  expect(turning.devices[0]?.isHeld).toBe(false);
  expect(new Set(turning.news.map(({ kind }) => kind))).toEqual(new Set(["turning"]));
});

test("a goal is never further from the last that got onto the wire than the joint's limit allows, whatever is wanted and however full the wire is", () => {
  const at = busOf([3, 7], { joints: 2 });
  at.wanted.fill(0);
  at.run(2000);
  for (const id of [3, 7])
    at.session.bound(id, { calmTicksPerFrame: 30, fastestTicksPerFrame: 40, window: { low: -9000, high: 9000 } });
  const before = at.devices.map((device) => device.read("goalPosition"));
  let moves = 0;
  for (let frame = 0; frame < 400; frame += 1) {
    at.wanted[0] = frame % 60 < 30 ? 5000 : -5000;
    at.wanted[1] = 60 * Math.sin(frame / 9);
    // Now and then a person's reading of everything holds the goals up.
    if (frame % 50 === 10)
      at.session.run(
        readAll(kestrel, 3),
        () => {},
        () => {},
      );
    at.run(20);
    for (const [place, device] of at.devices.entries()) {
      const now = device.read("goalPosition") ?? 0;
      expect(Math.abs(now - (before[place] ?? 0))).toBeLessThanOrEqual(41);
      if (now !== before[place]) moves += 1;
      before[place] = now;
    }
  }
  expect(moves).toBeGreaterThan(300);
});

test("a wire at another speed is silence, and at the right one speech again", () => {
  const at = busOf([3]);
  const silent = at.do(meet(kestrel, 3, 57_600));
  expect(silent).toBeNull();
  expect(at.do(meet(kestrel, 3, null))).toMatchObject({ id: 3, isClash: false });
});

test("an exchange that nobody answers is tried a bounded number of times", () => {
  const at = busOf([]);
  const answers: WireAnswer[] = [];
  at.session.wire.ask(
    {
      layout: kestrel,
      bytes: new Uint8Array([1]),
      from: [9],
      replyBytes: 0,
      listensOut: false,
      tries: 3,
      rank: 2,
      onDone: (answer) => answers.push(answer),
    },
    0,
  );
  at.run(200);
  expect(answers.map(({ times }) => times)).toEqual([3]);
});
