import { heron, readSettings, storedOfVersion4 } from "@core/bus";
import { demoProject } from "@core/demo";
import { readMemories, readProjectFile, writeProjectFile } from "@core/files";
import { byId, type Project, schemaVersion } from "@core/project";
import { jointMapOf } from "@core/rig";
import { describe, expect, test } from "vitest";
import { benchOf } from "./benchInHand";
import { fileOfVersion4, sourceOfVersion5 } from "./fileOfVersion4";

// biome-ignore lint/suspicious/noExplicitAny: a file of then has no type of today.
type Loose = any;

const demo = demoProject();
const opened = (file: Loose): Project => {
  const read = readProjectFile(JSON.stringify(file));
  if (!read.ok) throw new Error(read.problem);
  return read.value.project;
};

test("a file of version 1 is brought up: nothing that nobody measured is made up", () => {
  const file = fileOfVersion4();
  file.version = 1;
  for (const rig of file.project.rigs) delete rig.mirror;
  for (const pose of file.project.poses) delete pose.group;
  for (const list of ["takes", "conditions", "supplies"]) delete file.project[list];
  file.project.routines = [
    {
      id: "r",
      name: "Blink",
      loop: true,
      steps: [{ kind: "move", id: "s", poseId: "pose-blink", moveMs: 200, holdMs: 100, easing: "soft" }],
    },
  ];
  for (const card of file.project.cards) {
    for (const added of ["currents", "standing", "checkEveryDays", "checks", "feedback"]) delete card[added];
    delete card.rating.supplyVolts;
    delete card.rating.accelDegPerS2;
  }
  for (const joint of file.project.joints) {
    delete joint.axis.atRest;
    delete joint.control;
  }
  file.project.sources = [{ id: "k", label: "Knob", kind: "knob", range: { low: 0, high: 1023 } }];
  const map = { kind: "rangeMap", from: { low: 0, high: 1023 }, to: { low: -70, high: 70 } };
  file.project.leads = [{ id: "l", sourceId: "k", jointId: "neck-turn", shapers: [map] }];
  for (const truth of file.project.simulated)
    for (const added of ["backlashDeg", "feedback", "idleMa", "movingMa", "stallMa"]) delete truth[added];
  const vent = file.project.cards.find((card: Loose) => card.kind === "continuous");
  vent.calibrations = [
    { kind: "spin", id: "s", madeAt: "2026-11-01T10:00:00.000Z", note: "", back: 1000, neutral: 1522, forward: 2000 },
  ];
  const read = readProjectFile(JSON.stringify(file));
  if (!read.ok) throw new Error(read.problem);
  const { project } = read.value;
  expect(project.routines[0]).toMatchObject({
    repeat: { kind: "forever" },
    steps: [{ pace: { kind: "time", moveMs: 200 }, easing: { kind: "leastJerk" }, staggerMs: 0 }],
  });
  const cardOf = (id: string) => project.cards.find((card) => card.id === id);
  expect(cardOf("card-neck-turn")).toMatchObject({ standing: "inUse", currents: { idleMa: null }, feedback: null });
  expect(cardOf("card-elbow")).toMatchObject({ feedback: { unit: "ticks", points: [] } });
  expect(cardOf("card-vent-crank")?.calibrations[0]).toMatchObject({ rest: null, speeds: [] });
  expect(project.sources[0]).toMatchObject({ origin: { kind: "knob" }, ifLost: { kind: "hold" } });
  expect(project.leads[0]).toMatchObject({ target: { kind: "joint", jointId: "neck-turn" }, shapers: [map] });
  expect(project.simulated.find((truth) => truth.cardId === "card-elbow")).toMatchObject({
    backlashDeg: 0,
    // 0.4 of the old ticks, in those of today.
    feedback: { noise: expect.closeTo(7.3242, 4) },
  });
});

test("a line of version 5 that had a board's name in its label comes from that board; one that had none, from any", () => {
  const file = JSON.parse(writeProjectFile(demo));
  file.version = 5;
  file.project.sources = file.project.sources.map(sourceOfVersion5);
  file.project.sources.push({ ...file.project.sources.at(-1), id: "gate", label: "Gate" });
  const { sources } = opened(file);
  expect(byId(sources, "vane").origin).toEqual({ kind: "line", name: "vane", boardId: "pebble" });
  expect(byId(sources, "gate").origin).toEqual({ kind: "line", name: "vane", boardId: null });
  expect(sources.slice(0, -1)).toEqual(demo.sources);
});

test("a file of version 3 gets families by its ticks, and a speed for its bus", () => {
  const file = fileOfVersion4();
  file.version = 3;
  delete file.project.layouts;
  delete file.project.simulatedDevices;
  for (const card of file.project.cards) {
    delete card.layoutId;
    delete card.alarms;
  }
  for (const board of file.project.boards) delete board.encoding.bitsPerS;
  const { cards, boards } = opened(file);
  expect(cards.flatMap((card) => (card.kind === "smart" ? [card.layoutId] : []))).toEqual([
    "heron",
    "kestrel",
    "kestrel",
  ]);
  expect(byId(boards, "ivy").encoding).toEqual({ kind: "bus", bitsPerS: 115_200 });
});

describe("a file of version 4, in the ticks of then", () => {
  test("the same angles are asked of every servo by the new ticks", () => {
    const project = opened(fileOfVersion4());
    const setPoint = (jointId: string, angleDeg: number) => {
      const joint = byId(project.joints, jointId);
      return jointMapOf(joint, byId(project.cards, joint.cardId)).toSetPoint(angleDeg);
    };
    // 90° from the middle of 360° in hundredths; 32° from the middle at 62.5 parts a degree.
    expect(setPoint("turntable", 90)).toBeCloseTo(27_000, 6);
    expect(setPoint("shoulder", -32)).toBeCloseTo(-2000, 6);
    // By its calibration the elbow stood at 832 for 90°: 320 ticks of 300° / 1024 beyond the middle are 93.75°, and 62.5 parts each.
    expect(setPoint("elbow", 90)).toBeCloseTo(5859.375, 6);
  });

  test("windows come inwards; stops, checks, deadbands and the truth come along", () => {
    const { cards, simulated } = opened(fileOfVersion4());
    const elbow = byId(cards, "card-elbow");
    // 0 is 150° below the middle: −9375; 1023 is 9356.7, and the window takes no more than 9356. 12 ticks are 3.515625°.
    expect(elbow).toMatchObject({ window: { low: -9375, high: 9356 }, endStops: { low: -9155.2734375, high: null } });
    expect(elbow.deadband).toBeCloseTo(18.310546875, 9);
    // 100 ticks above the middle.
    expect(elbow.checks[0]?.readings[0]?.setPoint).toBeCloseTo(1831.0546875, 9);
    expect(byId(cards, "card-turntable").window).toEqual({ low: 0, high: 35_991 });
    expect(simulated.find(({ cardId }) => cardId === "card-elbow")).toMatchObject({
      centre: 0,
      perDeg: expect.closeTo(62.5, 9),
    });
    expect(simulated.find(({ cardId }) => cardId === "card-turntable")).toMatchObject({ centre: 18_000, perDeg: 100 });
  });

  test("a family of a person's own keeps its numbers, and says of its errors and answers what was always so", () => {
    const file = fileOfVersion4();
    const { errors: _, askBit: __, ...layout } = structuredClone(heron) as Loose;
    for (const operation of layout.operations) delete operation.answers;
    const errorBits = [{ bit: 1, label: "range", hint: "Too far.", letsGo: false }];
    file.project.layouts = [{ ...layout, id: "mine", name: "Mine", errorBits }];
    const [mine] = opened(file).layouts;
    expect(mine?.registers).toEqual(heron.registers);
    expect(mine?.askBit).toBeNull();
    expect(mine?.operations.every(({ answers }) => answers === "always")).toBe(true);
    const trouble = { value: 1, label: "range", hint: "Too far.", letsGo: false, cause: "range" };
    expect(mine?.errors).toEqual({ kind: "bits", list: [trouble] });
  });

  test("what a device kept: its number, speed, pause, limits, in today's registers", () => {
    // Number 7, 115 200 bit/s, 400 µs, one turn, from 100 to the end, 65 °C, 8.5 to 14 V; the high byte came first.
    const stored = { 3: 7, 4: 2, 5: 100, 6: 0, 7: 0, 8: 100, 9: 3, 10: 255, 11: 65, 12: 85, 13: 140 };
    const now = storedOfVersion4("kestrel", stored);
    // −412 ticks from the middle are −7543.9 parts, and the limit comes inwards: −7543 = 0xE289.
    expect(now).toMatchObject({ 112: 7, 113: 18, 114: 40, 90: 4, 80: 0xe2, 81: 0x89, 82: 0x27, 83: 0x10 });
    // 65 °C are 105 above −40; 8.5 V are 850 hundredths = 0x0352, 14 V are 1400 = 0x0578.
    expect(now).toMatchObject({ 84: 105, 86: 0x03, 87: 0x52, 88: 0x05, 89: 0x78 });
    const memories = { "card-elbow": { isPlugged: true, stored }, "nobody-knows": { isPlugged: false, stored: {} } };
    expect(readMemories(demo, 4, memories)["card-elbow"]).toEqual({ isPlugged: true, stored: now });
    expect(readMemories(demo, schemaVersion, memories)["card-elbow"]?.stored).toEqual(stored);
    expect(readMemories(demo, 4, "soup")).toEqual({});
  });

  test("a file of a device's settings, by the names of then", () => {
    const values = {
      "Reply delay": 110,
      Mode: 3,
      "Highest position": 4095,
      "Highest temperature": 70,
      "Lowest voltage": 950,
    };
    const text = JSON.stringify({
      format: "vantel-device-settings",
      version: 1,
      layoutId: "heron",
      layoutName: "Heron",
      values,
    });
    const read = readSettings(heron, text);
    // 220 µs, at a speed, to the end of the turn, 70.0 °C, 9500 mV.
    expect(read).toEqual({
      ok: true,
      value: new Map([
        [0x204, 220],
        [0x400, 30],
        [0x304, 35_999],
        [0x308, 700],
        [0x30a, 9500],
      ]),
    });
  });
});

test("an arm of version 4 is held where it stood, and driven to the same angles by its new ticks", () => {
  const { run, command, read: now } = benchOf(opened(fileOfVersion4()));
  run(400);
  for (const jointId of ["turntable", "shoulder", "elbow"]) command({ kind: "hold", jointId });
  run(400);
  expect(Math.abs(now("turntable", "actual"))).toBeLessThan(1);
  command({ kind: "target", jointId: "turntable", target: 90 });
  command({ kind: "target", jointId: "shoulder", target: 40 });
  run(3000);
  expect(Math.abs(now("turntable", "actual") - 90)).toBeLessThan(1);
  expect(Math.abs(now("shoulder", "actual") - 40)).toBeLessThan(1);
  expect(now("turntable", "setPoint")).toBe(27_000);
});
