import { easingsUsed, placeOfEasing, type UsedEasing } from "../easingsUsed";
import type { Machine } from "../machine";
import type { MachineRoutine, MachineStep } from "../routines";

/** A number or a word of the code that can be changed there. */
export interface Written {
  readonly key: string;
  readonly what: string;
  /** As the bench has it; null where it says nothing. */
  readonly value: string | null;
  /** Why it cannot be taken over; null where it can. */
  readonly why: string | null;
  /** The words that it may be; null for a number. */
  readonly words: readonly string[] | null;
}

const jointWords = {
  low: "lower limit",
  high: "upper limit",
  home: "home",
  per_s: "speed limit",
  window_low: "lower end of the hard window",
  window_high: "upper end of the hard window",
  zero: "zero",
  slope: "slope",
  intercept: "intercept",
} as const;
const byMeasuring = "it follows from a calibration: measure it anew at station Calibrate";

/** All that can be changed in the code, as the bench has it. */
export function written(machine: Machine): readonly Written[] {
  const joints = machine.joints.flatMap((joint) => {
    const fields: Readonly<Record<keyof typeof jointWords, number>> = {
      low: joint.low,
      high: joint.high,
      home: joint.home,
      per_s: joint.fastestPerS ?? 0,
      window_low: joint.window.low,
      window_high: joint.window.high,
      zero: joint.zeroDeg,
      slope: joint.curve.kind === "line" ? joint.curve.slopePerDeg : 0,
      intercept: joint.curve.kind === "line" ? joint.curve.intercept : 0,
    };
    const isSpin = joint.unit === "spin";
    const isStraight = joint.curve.kind === "line";
    const names = (Object.keys(fields) as (keyof typeof jointWords)[]).filter(
      (field) => isStraight || (field !== "slope" && field !== "intercept"),
    );
    return names.map((field) => {
      const isMeasured = field === "zero" || field === "slope" || field === "intercept";
      const ofSpin = isSpin && !field.startsWith("window") ? "a spin’s limits are set at station Drive" : null;
      return {
        key: `joint/${joint.name}/${field}`,
        what: `${joint.label}, ${jointWords[field]}`,
        value: String(fields[field]),
        why: isMeasured ? byMeasuring : ofSpin,
        words: null,
      };
    });
  });
  const poses = machine.poses.flatMap((pose) =>
    machine.joints.map((joint, at) => ({
      key: `pose/${pose.name}/${joint.name}`,
      what: `Pose ${pose.label}, ${joint.label}`,
      value: pose.targets[at] === null || pose.targets[at] === undefined ? null : String(pose.targets[at]),
      why: null,
      words: null,
    })),
  );
  return [
    ...joints,
    ...poses,
    ...machine.routines.flatMap((routine) => [
      ...writtenRoutine(routine),
      ...writtenSteps(machine, routine),
      ...writtenKeys(machine, routine),
    ]),
  ];
}

function writtenSteps(machine: Machine, { name, label, steps }: MachineRoutine): readonly Written[] {
  const poses = machine.poses.map((pose) => pose.name);
  const used = easingsUsed(machine);
  const easings = used.map((one) => one.name);
  return steps.flatMap((step, at) => {
    const isOwn = (step.kind === "move" || step.kind === "hold") && !step.isWithin;
    const why = isOwn ? null : "it is of a routine within, or a wait: change it at station Routine";
    const row = rowOf(machine, used, step);
    return Object.entries(row).map(([field, value]) => ({
      key: `step/${name}/${at}/${field}`,
      what: `${label}, step ${at + 1}, ${field.replace("_ms", " ms").replace("_", " ")}`,
      value,
      why,
      words: field === "pose" ? poses : field === "easing" ? easings : null,
    }));
  });
}

const routineWords = {
  rounds: "rounds (0 is without end)",
  goes_there_and_back: "goes there and back",
  releases: "releases its joints at the end",
} as const;

function writtenRoutine({ name, label, rounds, isThereAndBack, releases }: MachineRoutine): readonly Written[] {
  const fields = { rounds: rounds ?? 0, goes_there_and_back: isThereAndBack, releases };
  return (Object.keys(routineWords) as (keyof typeof routineWords)[]).map((field) => ({
    key: `routine/${name}/${field}`,
    what: `${label}, ${routineWords[field]}`,
    value: String(fields[field]),
    why: null,
    words: field === "rounds" ? null : ["true", "false"],
  }));
}

function writtenKeys({ joints }: Machine, { name, label, tracks }: MachineRoutine): readonly Written[] {
  return tracks.flatMap(({ joint, keys, isLane }) => {
    const of = joints[joint];
    if (!of) return [];
    const why = isLane ? null : "these keys were made of moves and takes: change those at station Routine";
    return keys.flatMap(({ atMs, target }, at) =>
      (["ms", "target"] as const).map((field) => ({
        key: `key/${name}__${of.name}/${at}/${field}`,
        what: `${label}, ${of.label}, key ${at + 1}, ${field}`,
        value: String(field === "ms" ? atMs : target),
        why,
        words: null,
      })),
    );
  });
}

const rowOf = ({ poses }: Machine, used: readonly UsedEasing[], step: MachineStep): Readonly<Record<string, string>> =>
  step.kind === "move"
    ? {
        pose: poses[step.pose]?.name ?? "",
        move_ms: String(step.moveMs),
        hold_ms: String(step.holdMs),
        stagger_ms: String(step.staggerMs),
        easing: used[placeOfEasing(used, step.easing)]?.name ?? "",
      }
    : { hold_ms: String(step.kind === "hold" ? step.holdMs : (step.timeoutMs ?? 0)) };
