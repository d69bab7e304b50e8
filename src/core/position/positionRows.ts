import { fractionOf, pulseUsOfFraction } from "@core/encodings";
import { type JointBench, jointDegOf, servoDegOf } from "@core/rig";
import { timeUnitsUs, type UnitTable } from "@core/signal";

/** One position in one unit: the exact number, and what it is after the board's rounding. */
export interface PositionRow {
  readonly id: string;
  readonly name: string;
  readonly unit: string;
  readonly decimals: number;
  /** Units that may be typed, and what each is worth in `unit`. */
  readonly units?: UnitTable;
  /** What the arrow keys add. */
  readonly step: number;
  readonly exact: number;
  /** What the board makes of it. */
  readonly made: number;
  /** The target that has this value in this unit. */
  toTarget(value: number): number;
}

/** A way to write a position down: from and to a set point. */
interface Scale extends Pick<PositionRow, "id" | "name" | "unit" | "decimals" | "step"> {
  readonly units?: UnitTable;
  readonly of: (setPoint: number) => number;
  readonly back: (value: number) => number;
}

/** The position of a target in every unit that its servo and board know. */
export function positionRows(bench: JointBench, target: number): readonly PositionRow[] {
  const { map, maker } = bench;
  const exact = map.toSetPoint(target);
  const made = maker.toSetPoint(maker.toCount(exact));
  return scalesOf(bench).map(({ of, back, ...scale }) => ({
    ...scale,
    exact: of(exact),
    made: of(made),
    toTarget: (value) => map.toTarget(back(value)),
  }));
}

function scalesOf(bench: JointBench): readonly Scale[] {
  const { card } = bench;
  if (card.kind === "continuous") return [...spinScales(bench), ...pulseScales(bench), countScale(bench)];
  const fractions = fractionScales(bench, card.travelDeg);
  if (card.kind === "smart") return [...angleScales(bench, card.travelDeg), countScale(bench), ...fractions];
  return [...angleScales(bench, card.travelDeg), ...pulseScales(bench), countScale(bench), ...fractions];
}

/** The joint's own angle, and the servo's in the two conventions: from one end, and about the middle. */
function angleScales({ joint, map }: JointBench, travelDeg: number): readonly Scale[] {
  const { axis } = joint;
  if (axis.kind !== "angle") return [];
  const half = travelDeg / 2;
  const servoDeg = (setPoint: number) => servoDegOf(axis, map.toTarget(setPoint));
  const fromServoDeg = (deg: number) => map.toSetPoint(jointDegOf(axis, deg));
  const common = { unit: "°", decimals: 2, step: 1 };
  return [
    { id: "angle", name: "Angle", ...common, of: map.toTarget, back: map.toSetPoint },
    { id: "servo", name: `Servo 0…${travelDeg}`, ...common, of: servoDeg, back: fromServoDeg },
    {
      id: "centred",
      name: `Servo −${half}…+${half}`,
      ...common,
      of: (setPoint) => servoDeg(setPoint) - half,
      back: (deg) => fromServoDeg(deg + half),
    },
  ];
}

function pulseScales({ maker }: JointBench): readonly Scale[] {
  // With a fixed gap the period grows with the pulse; duty is then a share of that longer frame.
  const duty = (pulseUs: number) => pulseUs / maker.periodUsAt(pulseUs);
  const fromDuty = (share: number) => pulseOfDuty(maker.periodUsAt, share);
  const identity = (pulseUs: number) => pulseUs;
  return [
    { id: "us", name: "Pulse", unit: "µs", decimals: 2, units: timeUnitsUs, step: 10, of: identity, back: identity },
    {
      id: "ms",
      name: "Pulse in ms",
      unit: "ms",
      decimals: 5,
      units: { ms: 1, µs: 0.001, s: 1000 },
      step: 0.01,
      of: (pulseUs) => pulseUs / 1000,
      back: (ms) => ms * 1000,
    },
    {
      id: "duty",
      name: "Duty",
      unit: "%",
      decimals: 4,
      step: 0.1,
      of: (pulseUs) => 100 * duty(pulseUs),
      back: (percent) => fromDuty(percent / 100),
    },
    { id: "fraction", name: "Duty 0…1", unit: "", decimals: 6, step: 0.001, of: duty, back: fromDuty },
  ];
}

/** The pulse whose share of its own frame this is: `pulse = share × period(pulse)`, and the period is a line in the pulse. */
function pulseOfDuty(periodUsAt: (pulseUs: number) => number, share: number): number {
  const atZero = periodUsAt(0);
  const growth = periodUsAt(1) - atZero;
  return (share * atZero) / (1 - share * growth);
}

function countScale({ maker }: JointBench): Scale {
  const names = { count: "Count", tick: "Tick", compare: "Compare", µs: "Number in µs", "%": "Number in %" };
  const units = { count: "counts", tick: "ticks", compare: "", µs: "µs", "%": "%" };
  return {
    id: "count",
    name: names[maker.countName],
    unit: units[maker.countName],
    decimals: maker.countName === "%" ? 3 : 2,
    step: maker.perCount,
    of: (setPoint) => maker.exactCount(setPoint) * maker.perCount,
    back: (value) => maker.toSetPoint(value / maker.perCount),
  };
}

/** Shares of the servo's travel, by its curve: 0…1 from end to end, and −1…+1 about the middle. */
function fractionScales({ joint, map }: JointBench, travelDeg: number): readonly Scale[] {
  const { axis } = joint;
  if (axis.kind !== "angle") return [];
  const low = map.toSetPoint(jointDegOf(axis, 0));
  const high = map.toSetPoint(jointDegOf(axis, travelDeg));
  const fraction = (setPoint: number) => fractionOf(setPoint, low, high);
  const back = (share: number) => pulseUsOfFraction(share, low, high);
  return [
    { id: "travel", name: "Travel 0…1", unit: "", decimals: 4, step: 0.01, of: fraction, back },
    {
      id: "spin",
      name: "Travel −1…+1",
      unit: "",
      decimals: 4,
      step: 0.02,
      of: (setPoint) => 2 * fraction(setPoint) - 1,
      back: (spin) => back((spin + 1) / 2),
    },
    {
      id: "spinPercent",
      name: "Travel ±100 %",
      unit: "%",
      decimals: 2,
      step: 1,
      of: (setPoint) => 200 * fraction(setPoint) - 100,
      back: (percent) => back((percent / 100 + 1) / 2),
    },
  ];
}

function spinScales({ map }: JointBench): readonly Scale[] {
  return [
    { id: "spin", name: "Spin", unit: "", decimals: 3, step: 0.05, of: map.toTarget, back: map.toSetPoint },
    {
      id: "spinPercent",
      name: "Spin ±100 %",
      unit: "%",
      decimals: 1,
      step: 5,
      of: (setPoint) => 100 * map.toTarget(setPoint),
      back: (percent) => map.toSetPoint(percent / 100),
    },
  ];
}

/** What the board's rounding costs at a target: in the set point's unit, and as degrees (or spin). */
export function roundingError({ map, maker }: JointBench, target: number) {
  const exact = map.toSetPoint(target);
  const made = maker.toSetPoint(maker.toCount(exact));
  return {
    setPoint: made - exact,
    target: map.toTarget(made) - target,
    /** The change of target that one step of the count makes. */
    targetStep: Math.abs(map.toTarget(exact + maker.step) - map.toTarget(exact)),
  };
}
