import { heron, kestrel, turnOnCard } from "@core/bus";
import {
  type Calibration,
  emptyProject,
  type Joint,
  type Layout,
  type Project,
  type ServoCard,
  type ServoTruth,
  usualControl,
} from "@core/project";
import { demoFigures, demoThings } from "./figures";
import { demoLeads, demoPads, demoSources } from "./inputs";
import { demoConditions, demoPoses, demoRigs, demoRoutines } from "./performance";
import { demoRails, demoRuns, demoSupplies } from "./power";

/**
 * The night greenhouse: Trellis, an arm that moves seed trays; Tawny, an owl's head on a post; Vent, a roof vent.
 * Some servos are calibrated, most are as they came out of the box, and none agrees with its data sheet.
 */
export function demoProject(): Project {
  return {
    ...emptyProject("night-greenhouse", "Night greenhouse"),
    cards: servos.map((servo) => servo.card),
    simulated: servos.map((servo) => servo.truth),
    boards: [
      {
        id: "fern",
        label: "Fern",
        channels: 12,
        frameHz: [50],
        encoding: {
          kind: "pulseChip",
          oscillatorHz: 20_000_000,
          oscillatorErrorPercent: 0,
          bits: 13,
          rounding: "round",
        },
        silence: { afterMs: 500, action: "release" },
        link: { kind: "simulated" },
      },
      {
        id: "pebble",
        label: "Pebble",
        channels: 8,
        // Pairs of channels share a timer, and with it a frame rate.
        frameHz: [50, 50, 50, 50],
        encoding: { kind: "counts", bits: 16, fullScale: "2^n-1", rounding: "truncate" },
        silence: { afterMs: 500, action: "hold" },
        link: { kind: "simulated" },
      },
      {
        id: "ivy",
        label: "Ivy",
        channels: 254,
        frameHz: [50],
        encoding: { kind: "bus", bitsPerS: 230_400 },
        silence: { afterMs: 500, action: "hold" },
        link: { kind: "simulated" },
      },
    ],
    rigs: demoRigs,
    joints: servos.map((servo) => servo.joint),
    sources: demoSources,
    leads: demoLeads,
    pads: demoPads,
    poses: demoPoses,
    routines: demoRoutines,
    conditions: demoConditions,
    supplies: demoSupplies,
    rails: demoRails,
    runs: demoRuns(servos.map(({ joint }) => joint)),
    figures: demoFigures,
    things: demoThings,
    simulatedDevices: demoDevices,
  };
}

/** Three servos fresh from their boxes: each of them believes that it has the number of the factory. */
const demoDevices: Project["simulatedDevices"] = ["red", "green", "blue"].map((sticker) => ({
  id: `new-${sticker}`,
  label: `New servo, ${sticker} sticker`,
  boardId: "ivy",
  layoutId: "kestrel",
  cardId: null,
}));

interface DemoServo {
  readonly card: ServoCard;
  readonly truth: ServoTruth;
  readonly joint: Joint;
}

type Place = Pick<Joint, "id" | "label" | "rigId" | "boardId" | "channel">;

const nothingMeasured = { idleMa: null, movingMa: null, highestMa: null };
const hobbyWires = { ground: "brown", supply: "red", signal: "orange" };

/** A hobby servo whose data sheet says 1000–2000 µs for 180°; `truth` is what it really does. */
function hobby(
  place: Place,
  label: string,
  axis: Joint["axis"],
  truth: {
    centre: number;
    perDeg: number;
    bend: number;
    stops: [number, number];
    speed: number;
    deadband: number;
    backlash: number;
  },
  calibrations: readonly Calibration[] = [],
  known: Partial<Pick<ServoCard, "checkEveryDays" | "notes">> = {},
): DemoServo {
  const cardId = `card-${place.id}`;
  return {
    card: {
      kind: "positional",
      id: cardId,
      label,
      window: { low: 500, high: 2500 },
      endStops: { low: null, high: null },
      deadband: 4,
      frameHz: { low: 40, high: 60 },
      rating: {
        secPer60Deg: 0.14,
        accelDegPerS2: null,
        atVolts: 5,
        torqueKgCm: 2.2,
        stallMa: 750,
        supplyVolts: { low: 4.8, high: 6 },
      },
      currents: nothingMeasured,
      standing: "inUse",
      checkEveryDays: null,
      wires: hobbyWires,
      splineTeeth: 25,
      notes: "",
      calibrations,
      checks: [],
      feedback: null,
      travelDeg: 180,
      nominal: { low: 1000, high: 2000 },
      ...known,
    },
    truth: {
      kind: "positional",
      cardId,
      centre: truth.centre,
      midDeg: 90,
      perDeg: truth.perDeg,
      bend: truth.bend,
      stopLowDeg: truth.stops[0],
      stopHighDeg: truth.stops[1],
      deadband: truth.deadband,
      speedDegPerS: truth.speed,
      noiseDeg: 0.05,
      startDeg: 90,
      backlashDeg: truth.backlash,
      feedback: null,
      idleMa: 9,
      movingMa: 170,
      stallMa: 720,
    },
    joint: { ...place, cardId, axis, control: usualControl },
  };
}

/** The same servo with a fourth wire to its potentiometer, read by a converter of the board. */
function withFeedbackWire(servo: DemoServo): DemoServo {
  if (servo.card.kind === "continuous" || servo.truth.kind === "continuous") return servo;
  return {
    ...servo,
    card: { ...servo.card, feedback: { unit: "counts", points: [] } },
    truth: { ...servo.truth, feedback: { atZeroDeg: 118, perDeg: 4.36, noise: 1.2 } },
  };
}

/** A smart servo of the bus, almost true to its family's sheet but for how its horn was put on. */
function smart(place: Place, label: string, layout: Layout, hornOffDeg: number, axis: Joint["axis"]): DemoServo {
  const cardId = `card-${place.id}`;
  const turn = turnOnCard(layout);
  const { low, high } = turn.nominal;
  const perDeg = (high - low) / turn.travelDeg;
  // Both families notice a fifth of a degree.
  const deadband = Math.round(0.2 * perDeg);
  return {
    card: {
      kind: "smart",
      id: cardId,
      label,
      ...turn,
      endStops: { low: null, high: null },
      deadband,
      frameHz: { low: 1, high: 200 },
      rating: {
        secPer60Deg: 0.19,
        accelDegPerS2: null,
        atVolts: 12,
        torqueKgCm: 15,
        stallMa: 1500,
        supplyVolts: { low: 9, high: 12.6 },
      },
      currents: nothingMeasured,
      standing: "inUse",
      checkEveryDays: null,
      wires: { ground: "black", supply: "red", signal: "white" },
      splineTeeth: 20,
      notes: "",
      calibrations: [],
      checks: [],
      feedback: { unit: "ticks", points: [] },
      layoutId: layout.id,
      alarms: { highestC: 60, lowestV: 10.5, highestV: 13, highestLoad: 80 },
    },
    truth: {
      kind: "positional",
      cardId,
      centre: (low + high) / 2,
      midDeg: turn.travelDeg / 2 + hornOffDeg,
      perDeg,
      bend: 0,
      stopLowDeg: 0,
      stopHighDeg: turn.travelDeg,
      deadband,
      speedDegPerS: 300,
      noiseDeg: 0.02,
      startDeg: turn.travelDeg / 2 + hornOffDeg,
      backlashDeg: 0.2,
      // Its encoder sits on the shaft: it knows nothing of how the horn was put on.
      feedback: { atZeroDeg: low - hornOffDeg * perDeg, perDeg, noise: 0.1 * perDeg },
      idleMa: 45,
      movingMa: 320,
      stallMa: 1450,
    },
    joint: { ...place, cardId, axis, control: usualControl },
  };
}

const angle = (
  zeroDeg: number,
  low: number,
  high: number,
  homeDeg: number,
  speed: number,
  direction: 1 | -1 = 1,
): Joint["axis"] => ({
  kind: "angle",
  direction,
  zeroDeg,
  travel: { low, high },
  homeDeg,
  speedLimitDegPerS: speed,
});

const measured = (id: string, madeAt: string, points: [number, number][]): Calibration => ({
  kind: "line",
  id,
  madeAt,
  note: "",
  points: points.map(([angleDeg, setPoint]) => ({ angleDeg, setPoint })),
});

const servos: readonly DemoServo[] = [
  hobby(
    { id: "neck-turn", label: "Neck turn", rigId: "tawny", boardId: "fern", channel: 0 },
    "Neck servo, wide range",
    angle(90, -80, 80, 0, 240),
    { centre: 1512, perDeg: 10.9, bend: 0.02, stops: [2, 176], speed: 420, deadband: 4, backlash: 0.5 },
  ),
  hobby(
    { id: "neck-nod", label: "Neck nod", rigId: "tawny", boardId: "fern", channel: 1 },
    "Nod servo",
    angle(90, -30, 35, 0, 180),
    { centre: 1488, perDeg: 10.2, bend: -0.01, stops: [4, 172], speed: 380, deadband: 5, backlash: 0.4 },
    [
      // Its horn slipped a little between May and July, and was put right in October.
      measured("made-nod-may", "2026-05-17T18:05:00.000Z", [
        [60, 1181],
        [90, 1488],
        [125, 1846],
      ]),
      measured("made-nod-july", "2026-07-30T21:40:00.000Z", [
        [60, 1201],
        [125, 1868],
      ]),
      measured("made-nod", "2026-10-04T19:20:00.000Z", [
        [60, 1183],
        [125, 1844],
      ]),
    ],
  ),
  hobby(
    { id: "left-lid", label: "Left lid", rigId: "tawny", boardId: "fern", channel: 2 },
    "Lid servo, left",
    angle(60, 0, 60, 55, 400),
    { centre: 1475, perDeg: 9.6, bend: 0, stops: [0, 180], speed: 520, deadband: 6, backlash: 0.4 },
    [
      measured("made-left-lid", "2026-10-11T20:02:00.000Z", [
        [60, 1187],
        [120, 1764],
      ]),
    ],
  ),
  hobby(
    { id: "right-lid", label: "Right lid", rigId: "tawny", boardId: "fern", channel: 3 },
    "Lid servo, right",
    angle(120, 0, 60, 55, 400, -1),
    { centre: 1530, perDeg: 10.4, bend: 0.03, stops: [1, 178], speed: 480, deadband: 6, backlash: 0.5 },
  ),
  hobby(
    { id: "beak", label: "Beak", rigId: "tawny", boardId: "fern", channel: 4 },
    "Beak servo",
    angle(75, 0, 35, 0, 300),
    { centre: 1505, perDeg: 5.7, bend: 0.01, stops: [-8, 188], speed: 450, deadband: 5, backlash: 0.3 },
  ),
  hobby(
    { id: "ear-tuft", label: "Ear tuft", rigId: "tawny", boardId: "fern", channel: 5 },
    "Tuft servo, plastic gear",
    angle(90, -25, 40, 0, 300),
    { centre: 1555, perDeg: 9.1, bend: -0.04, stops: [6, 168], speed: 350, deadband: 9, backlash: 1.6 },
  ),
  smart(
    { id: "turntable", label: "Turntable", rigId: "trellis", boardId: "ivy", channel: 1 },
    "Turntable, fine",
    heron,
    1.4,
    angle(180, -150, 150, 0, 120),
  ),
  smart(
    { id: "shoulder", label: "Shoulder", rigId: "trellis", boardId: "ivy", channel: 2 },
    "Shoulder, plain",
    kestrel,
    -0.8,
    angle(160, -70, 85, -20, 90),
  ),
  smart(
    { id: "elbow", label: "Elbow", rigId: "trellis", boardId: "ivy", channel: 3 },
    "Elbow, plain",
    kestrel,
    0.6,
    angle(160, -10, 130, 70, 120),
  ),
  hobby(
    { id: "wrist-tilt", label: "Wrist tilt", rigId: "trellis", boardId: "pebble", channel: 0 },
    "Wrist servo",
    angle(90, -75, 75, 10, 240),
    { centre: 1495, perDeg: 10.5, bend: 0.01, stops: [0, 178], speed: 400, deadband: 3, backlash: 0.4 },
    [
      measured("made-wrist", "2026-09-27T16:45:00.000Z", [
        [20, 762],
        [160, 2234],
      ]),
    ],
    { checkEveryDays: 30, notes: "From the old crane. Hums a little at 5.5 V; the screw is a coarse one." },
  ),
  withFeedbackWire(
    hobby(
      { id: "grip", label: "Grip", rigId: "trellis", boardId: "pebble", channel: 1 },
      "Grip servo",
      angle(60, 0, 70, 35, 200),
      { centre: 1520, perDeg: 7.4, bend: 0, stops: [10, 170], speed: 360, deadband: 5, backlash: 0.8 },
    ),
  ),
  {
    card: {
      kind: "continuous",
      id: "card-vent-crank",
      label: "Crank servo, turns on",
      window: { low: 900, high: 2100 },
      endStops: { low: null, high: null },
      deadband: 10,
      frameHz: { low: 40, high: 60 },
      rating: {
        secPer60Deg: 0.2,
        accelDegPerS2: null,
        atVolts: 5,
        torqueKgCm: 3,
        stallMa: 900,
        supplyVolts: { low: 4.8, high: 6 },
      },
      currents: nothingMeasured,
      standing: "inUse",
      checkEveryDays: null,
      wires: hobbyWires,
      splineTeeth: 25,
      notes: "",
      calibrations: [],
      checks: [],
      nominal: { back: 1000, neutral: 1500, forward: 2000 },
    },
    truth: {
      kind: "continuous",
      cardId: "card-vent-crank",
      neutral: 1522,
      deadband: 9,
      span: 240,
      fullSpeedDegPerS: 290,
      noiseDeg: 0.05,
    },
    joint: {
      id: "vent-crank",
      label: "Vent crank",
      rigId: "vent",
      boardId: "pebble",
      channel: 2,
      cardId: "card-vent-crank",
      axis: { kind: "spin", direction: 1, limit: 1, rampPerS: 2, atRest: "neutral" },
      control: usualControl,
    },
  },
];
