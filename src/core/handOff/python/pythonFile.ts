import type { OwnLines } from "@core/project";
import { boardComments, commentOf, type HandedFile, titleOf, waitsOf } from "../describe";
import { easingsUsed, placeOfEasing, type UsedEasing } from "../easingsUsed";
import type { Machine, MachineJoint } from "../machine";
import { columns, num } from "../numbers";
import { filled, type Place } from "../ownLines";
import type { MachineRoutine } from "../routines";
import { pythonRuntime } from "./runtime";

/**
 * The machine as one module of Python 3, for a desktop and for the reduced Python of small boards: no import, no data classes, no annotations. The same sums as the
 * bench, so that the same counts come out wherever numbers have 64 bits.
 */
export function pythonFile(machine: Machine, lines: OwnLines): HandedFile {
  const { joints, poses, routines } = machine;
  const used = easingsUsed(machine);
  const numbers = (prefix: string, items: readonly { name: string; label: string }[]) => [
    ...columns(
      items.map(({ name, label }, at) => [`${prefix}_${name.toUpperCase()}`, `= ${at}`, ` # ${commentOf(label)}`]),
    ),
    ...(items.length > 0 ? [""] : []),
  ];
  const waits = waitsOf(machine);
  const text = [
    `"""${commentOf(titleOf(machine)).replace(/["\\]/g, "'")}.`,
    "",
    "Written by Vantel. Python 3; it imports nothing.",
    "",
    "    rig = Rig()",
    "    rig.hold()",
    ...(routines.length > 0 ? [`    rig.play(ROUTINE_${routines[0]?.name.toUpperCase()})`] : []),
    "    while True:",
    "        rig.tick(now_ms)  # it never waits: call it again and again",
    '"""',
    "",
    ...(lines.top.trim() ? [lines.top.trimEnd(), ""] : []),
    "# A frame leaves this often; tick as often as you like.",
    `FRAME_MS = ${machine.frameMs}`,
    "",
    ...numbers("JOINT", joints),
    ...numbers("POSE", poses),
    ...numbers("ROUTINE", routines),
    ...boardComments(machine).map((line) => `# ${commentOf(line)}`),
    "",
    "# ---- The joints: change numbers here. ----",
    "",
    jointClass,
    "joints = [",
    ...joints.flatMap(jointRows),
    "]",
    "",
    ...(poses.length > 0 ? poseTable(machine) : []),
    ...(routines.length > 0 ? routineTables(machine, used) : []),
    "# ---- Your own lines: how your platform puts a number on a pin. ----",
    "",
    ...ownFunctions(lines),
    ...pythonRuntime(machine, used, lines.start, waits),
  ];
  return { name: `${machine.name}.py`, text: `${text.join("\n").trimEnd()}\n` };
}

const bool = (value: boolean) => (value ? "True" : "False");

const jointClass = `class Joint:
    # Targets in degrees (or spin, -1 to 1); pulses in us.
    def __init__(self, board, channel, low, high, home, per_s, direction, zero, slope, intercept, knots, window, counts, truncates, per_count,
                 period_us, rated_per_s, is_limp_at_rest):
        self.board, self.channel = board, channel
        self.low, self.high, self.home = low, high, home
        self.per_s = per_s  # no faster than this; 0 for no limit
        self.direction, self.zero = direction, zero  # servo angle = zero + direction * target
        self.slope, self.intercept = slope, intercept  # pulse = slope * servo angle + intercept
        self.knots = knots  # (servo angle, pulse), instead of slope and intercept; () for a straight curve
        self.window_low, self.window_high = window  # no signal is ever outside
        self.offset, self.gain, self.lowest, self.highest = counts  # pulse = offset + gain * count
        self.truncates = truncates  # the board cuts off what is behind the point, instead of rounding
        self.per_count = per_count  # what its call takes for one count
        self.period_us = period_us
        self.rated_per_s = rated_per_s  # how fast its servo can turn; 0 where nobody knows
        self.is_limp_at_rest = is_limp_at_rest  # no signal at a spin of 0

`;

function jointRows(joint: MachineJoint): readonly string[] {
  const { curve, counts } = joint;
  const isLine = curve.kind === "line";
  const knots = isLine
    ? "()"
    : `(${curve.knots.map(({ angleDeg, setPoint }) => `(${num(angleDeg)}, ${num(setPoint)})`).join(", ")})`;
  return [
    `    Joint(  # ${commentOf(`${joint.label}: ${joint.servo}, channel ${joint.channel} of ${joint.board}`)}`,
    `        board=${joint.boardAt}, channel=${joint.channel}, low=${num(joint.low)}, high=${num(joint.high)}, home=${num(joint.home)}, per_s=${num(joint.fastestPerS ?? 0)},`,
    `        direction=${joint.direction}, zero=${num(joint.zeroDeg)},`,
    `        slope=${isLine ? num(curve.slopePerDeg) : 0}, intercept=${isLine ? num(curve.intercept) : 0}, knots=${knots},`,
    `        window=(${num(joint.window.low)}, ${num(joint.window.high)}),`,
    `        counts=(${num(counts.offset)}, ${num(counts.gain)}, ${num(counts.lowest)}, ${num(counts.highest)}), truncates=${bool(counts.rounding === "truncate")},`,
    `        per_count=${num(counts.perCount)}, period_us=${num(joint.periodUs)},`,
    `        rated_per_s=${num(joint.ratedPerS ?? 0)}, is_limp_at_rest=${bool(joint.isLimpAtRest)},`,
    "    ),",
  ];
}

function poseTable({ joints, poses }: Machine): readonly string[] {
  const rows = poses.map(({ label, targets }) => [
    "    (",
    ...targets.map((target) => `${target === null ? "None" : num(target)},`),
    `),  # ${commentOf(label)}`,
  ]);
  return [
    "# ---- The poses: a target for each joint, in their order; None says nothing of it. ----",
    "",
    `# ${joints.map(({ name }) => name).join(", ")}`,
    "poses = [",
    ...columns(rows),
    "]",
    "",
  ];
}

function routineTables(machine: Machine, used: readonly UsedEasing[]): readonly string[] {
  let waits = 0;
  const rows = machine.routines.flatMap((routine) => {
    const text = routineRows(machine, routine, used, waits);
    waits += routine.steps.filter(({ kind }) => kind === "wait").length;
    return text;
  });
  return [
    "# ---- The routines: steps one after the other. ----",
    "",
    "# How a move runs, by the share of its time that is over; and the fastest of each, in its mean speeds.",
    ...easingText(used),
    "",
    "MOVE, HOLD, WAIT = 0, 1, 2",
    "LINE, SMOOTH, STAY = 0, 1, 2",
    "",
    routineClasses,
    "routines = [",
    ...rows,
    "]",
    "",
  ];
}

const routineClasses = `class Track:
    def __init__(self, joint, taken_up_at, adds, keys):
        self.joint = joint
        self.taken_up_at = taken_up_at  # the step at which a routine within takes it up; -1: first brought to where its first move can be made from
        self.adds = adds  # its keys are added to its moves, not in their place
        self.keys = keys  # (ms, target, slope, how it goes on)


class Routine:
    def __init__(self, steps, tracks, least_ms, goes_there_and_back, rounds, releases):
        # A step: kind, pose (of a wait: its number), move ms, hold ms (of a wait: at most so long), stagger ms, easing (of a wait: 1 ends), delays
        self.steps = steps
        self.tracks = tracks
        self.least_ms = least_ms  # it lasts at least so long
        self.goes_there_and_back = goes_there_and_back
        self.rounds = rounds  # 0 for without end
        self.releases = releases  # its joints are let go when it is over

`;

/** The easings as functions, and their names in a row. */
export const easingText = (used: readonly UsedEasing[]): readonly string[] => [
  ...used.flatMap(({ name, formula }) => [
    `def ${name}(s):`,
    ...formula.map(({ until, is }) =>
      until === null ? `    return ${is}` : `    if s < ${num(until)}:\n        return ${is}`,
    ),
    "",
    "",
  ]),
  `${used.map(({ name }) => name.toUpperCase()).join(", ")}${used.length === 1 ? "," : ""} = range(${used.length})`,
  `easings = (${used.map(({ name }) => `${name},`).join(" ")})`,
  `peak_rates = (${used.map(({ peakRate }) => `${num(peakRate)},`).join(" ")})`,
];

const shapeNames = { line: "LINE", smooth: "SMOOTH", step: "STAY" } as const;

function routineRows(
  machine: Machine,
  routine: MachineRoutine,
  used: readonly UsedEasing[],
  firstWait: number,
): readonly string[] {
  let wait = firstWait;
  const steps = routine.steps.map((step) => {
    if (step.kind === "hold") return ["            (HOLD,", "0,", "0,", `${num(step.holdMs)},`, "0,", "0,", "None),"];
    if (step.kind === "wait") {
      wait += 1;
      return [
        "            (WAIT,",
        `${wait - 1},`,
        "0,",
        `${num(step.timeoutMs ?? 0)},`,
        "0,",
        `${step.stops ? 1 : 0},`,
        `None),  # ${commentOf(step.words)}`,
      ];
    }
    const delays = Object.entries(step.delaysMs).flatMap(([id, ms]) => {
      const joint = machine.joints.find((one) => one.id === id);
      return joint ? [`JOINT_${joint.name.toUpperCase()}: ${num(ms)}`] : [];
    });
    return [
      "            (MOVE,",
      `POSE_${(machine.poses[step.pose]?.name ?? "").toUpperCase()},`,
      `${num(step.moveMs)},`,
      `${num(step.holdMs)},`,
      `${num(step.staggerMs)},`,
      `${(used[placeOfEasing(used, step.easing)]?.name ?? "").toUpperCase()},`,
      delays.length > 0 ? `{${delays.join(", ")}}),` : "None),",
    ];
  });
  const tracks = routine.tracks.flatMap(({ joint, takenUpAt, adds, keys, error }) => {
    const of = machine.joints[joint];
    if (!of) return [];
    const head = `            Track(JOINT_${of.name.toUpperCase()}, ${takenUpAt ?? -1}, ${bool(adds)}, (`;
    if (keys.length === 0) return [`${head})),`];
    const bound =
      error > 0
        ? `  # reduced from what was recorded: off by no more than ${num(Number(error.toPrecision(2)))} where it was looked at`
        : "";
    return [
      `${head}${bound}`,
      ...keys.map(
        ({ atMs, target, slope, shape }) =>
          `                (${num(atMs)}, ${num(target)}, ${num(slope)}, ${shapeNames[shape]}),`,
      ),
      "            )),",
    ];
  });
  return [
    `    Routine(  # ${commentOf(routine.label)}`,
    "        [",
    ...(steps.length > 0
      ? columns([
          ["            # kind,", "pose,", "move ms,", "hold ms,", "stagger ms,", "easing,", "delays"],
          ...steps,
        ])
      : []),
    "        ],",
    "        [",
    ...tracks,
    "        ],",
    `        least_ms=${num(routine.leastMs)}, goes_there_and_back=${bool(routine.isThereAndBack)}, rounds=${routine.rounds ?? 0}, releases=${bool(routine.releases)},`,
    "    ),",
  ];
}

function ownFunctions({ set, off }: OwnLines): readonly string[] {
  const pulse = "(joint.offset + joint.gain * count)";
  const expressions: Readonly<Record<Place, string>> = {
    board: "joint.board",
    channel: "joint.channel",
    count: "count",
    value: "(count * joint.per_count)",
    pulse_us: pulse,
    target: "target",
    fraction: "((target - joint.low) / (joint.high - joint.low))",
    duty: `(${pulse} / joint.period_us)`,
  };
  const body = (line: string) =>
    (line.trim() === "" ? "pass" : filled(line.trimEnd(), expressions)).split("\n").map((one) => `    ${one}`);
  const none = { count: "None", value: "None", pulse_us: "0", target: "0", fraction: "0", duty: "0" };
  return [
    "def set_pin(joint, count, target):",
    ...body(set),
    "",
    "",
    "def let_go(joint):",
    ...(off.trim() === ""
      ? ["    pass"]
      : filled(off.trimEnd(), { ...expressions, ...none })
          .split("\n")
          .map((one) => `    ${one}`)),
    "",
    "",
  ];
}
