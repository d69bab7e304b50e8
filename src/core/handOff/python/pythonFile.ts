import type { HandOff, OwnLines } from "@core/project";
import { boardComments, commentOf, type HandedFile, titleOf, waitsOf } from "../describe";
import { easingsUsed, placeOfEasing, type UsedEasing } from "../easingsUsed";
import { pythonLeads } from "../leads/pythonLeads";
import type { Machine, MachineJoint } from "../machine";
import { columns, num } from "../numbers";
import { filled, type Place } from "../ownLines";
import { pythonPackets } from "../packets/pythonPackets";
import type { MachineRoutine } from "../routines";
import { wholeWords } from "../whole/bound";
import { scaled } from "../whole/scale";
import { inWhole } from "../whole/wholeJoint";
import { wholeSlopes } from "../whole/wholeKeys";
import { nearWords } from "../whole/words";
import { pythonRuntime } from "./runtime";
import { real, type Spelling, whole } from "./spelling";
import { wholeEasings, wholeJointClass, wholeScales } from "./whole";

/**
 * The machine as one module of Python 3, for a desktop and for the reduced Python of small boards: no import, no data classes, no annotations. The same sums as the
 * bench, so that the same counts come out wherever numbers have 64 bits.
 */
export function pythonFile(machine: Machine, lines: OwnLines, written: HandOff["numbers"]): HandedFile {
  const spelling = written === "whole" ? whole : real;
  const { isWhole } = spelling;
  const moves = machine.poses.length > 0 || machine.routines.length > 0;
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
    ...(isWhole ? [wholeWords(machine)] : []),
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
    ...numbers("SOURCE", machine.sources),
    ...boardComments(machine).map((line) => `# ${commentOf(line)}`),
    "",
    "# ---- The joints: change numbers here. ----",
    "",
    ...(isWhole ? [wholeScales, wholeJointClass] : ["FULL = 1  # of a way, or of a time", "", "", jointClass]),
    "joints = [",
    ...joints.flatMap(isWhole ? wholeJointRows : jointRows),
    "]",
    "",
    ...(poses.length > 0 ? poseTable(machine, spelling) : []),
    ...(moves ? [...(isWhole ? wholeEasings(used) : [...easingText(used), realMoves])] : []),
    ...(routines.length > 0 ? routineTables(machine, used, spelling) : []),
    "# ---- Your own lines: how your platform puts a number on a pin. ----",
    "",
    ...ownFunctions(machine, lines, isWhole),
    ...(machine.families.length > 0 ? pythonPackets(machine) : []),
    ...(machine.leads.length > 0 ? pythonLeads(machine) : []),
    ...pythonRuntime(machine, used, lines.start, waits, spelling),
  ];
  return { name: `${machine.name}.py`, text: `${text.join("\n").trimEnd()}\n` };
}

const bool = (value: boolean) => (value ? "True" : "False");

const jointClass = `class Joint:
    # Targets in degrees (or spin, -1 to 1); pulses in us.
    def __init__(self, board, channel, low, high, home, per_s, direction, zero, slope, intercept, knots, window, counts, truncates, per_count,
                 period_us, rated_per_s, is_limp_at_rest, is_wired):
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
        self.is_wired = is_wired  # a smart servo: its counts are ticks, sent by packets; its channel is its id

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
    `        rated_per_s=${num(joint.ratedPerS ?? 0)}, is_limp_at_rest=${bool(joint.isLimpAtRest)}, is_wired=${bool(joint.setPointUnit === "ticks")},`,
    "    ),",
  ];
}

function poseTable({ joints, poses }: Machine, spelling: Spelling): readonly string[] {
  const rows = poses.map(({ label, targets }) => [
    "    (",
    ...targets.map(
      (target, at) => `${target === null ? "None" : spelling.target(target, (joints[at] as MachineJoint).unit)},`,
    ),
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

function routineTables(machine: Machine, used: readonly UsedEasing[], spelling: Spelling): readonly string[] {
  let waits = 0;
  const rows = machine.routines.flatMap((routine) => {
    const text = routineRows(machine, routine, used, spelling, waits);
    waits += routine.steps.filter(({ kind }) => kind === "wait").length;
    return text;
  });
  return [
    "# ---- The routines: steps one after the other. ----",
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
        self.keys = keys  # (ms, target, slope (in whole numbers: over the way to the next, here and there), how it goes on)


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
const easingText = (used: readonly UsedEasing[]): readonly string[] => [
  "# How a move runs, by the share of its time that is over; and the fastest of each, in its mean speeds.",
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
  spelling: Spelling,
  firstWait: number,
): readonly string[] {
  let wait = firstWait;
  const steps = routine.steps.map((step) => {
    if (step.kind === "hold")
      return ["            (HOLD,", "0,", "0,", `${spelling.ms(step.holdMs)},`, "0,", "0,", "None),"];
    if (step.kind === "wait") {
      wait += 1;
      return [
        "            (WAIT,",
        `${wait - 1},`,
        "0,",
        `${spelling.ms(step.timeoutMs ?? 0)},`,
        "0,",
        `${step.stops ? 1 : 0},`,
        `None),  # ${commentOf(step.words)}`,
      ];
    }
    const delays = Object.entries(step.delaysMs).flatMap(([id, ms]) => {
      const joint = machine.joints.find((one) => one.id === id);
      return joint ? [`JOINT_${joint.name.toUpperCase()}: ${spelling.ms(ms)}`] : [];
    });
    return [
      "            (MOVE,",
      `POSE_${(machine.poses[step.pose]?.name ?? "").toUpperCase()},`,
      `${spelling.ms(step.moveMs)},`,
      `${spelling.ms(step.holdMs)},`,
      `${spelling.ms(step.staggerMs)},`,
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
      ...keys.map((key, at) => {
        const slopes = spelling.isWhole ? wholeSlopes(of, key, keys[at + 1]) : num(key.slope);
        return `                (${spelling.ms(key.atMs)}, ${spelling.target(key.target, of.unit)}, ${slopes}, ${shapeNames[key.shape]}),`;
      }),
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
    `        least_ms=${spelling.ms(routine.leastMs)}, goes_there_and_back=${bool(routine.isThereAndBack)}, rounds=${routine.rounds ?? 0}, releases=${bool(routine.releases)},`,
    "    ),",
  ];
}

/** What moves need of floating point. */
const realMoves = `

def ease(easing, share):
    # How much of the way a move has gone after a share of its time.
    return easings[easing](share)


def part(way, share):
    return way * share


def share_of(ms, of_ms):
    return ms / of_ms


def reach_of(live, ms, easing):
    # How far a joint gets in a move of so long, no faster than it turns.
    return (ms / 1000) * (live.turns_per_s / peak_rates[easing])


def lead_ms_of(live, way):
    # How long a joint takes to be brought over a way, softly: whole ms. Nothing for a way of less than 0.05.
    return -floor_of(0.001 - (way * 1.875 * 1000) / live.bring_per_s) if way > 0.05 else 0

`;

const wholePulse = "(joint.pulse_offset + joint.pulse_gain * count)";

/** What the places of a person's own lines are in whole numbers. */
const wholeExpressions: Readonly<Record<Place, string>> = {
  board: "joint.board",
  channel: "joint.channel",
  count: "count",
  value: "(count * joint.per_count)",
  pulse_us: `((${wholePulse} + (1 << 31)) >> 32)`,
  target: "target",
  fraction: "((target - joint.low) * 65536 // (joint.high - joint.low))",
  duty: `(${wholePulse} // joint.period_us)`,
  bytes: "None",
  length: "0",
};

function wholeJointRows(joint: MachineJoint): readonly string[] {
  const { unit, counts, window } = joint;
  const { whole: made, near } = inWhole(joint);
  const lines = made.lines.map(({ from, count, perTarget }) => `(${from}, ${count}, ${perTarget}),`);
  return [
    `    Joint(  # ${commentOf(`${joint.label}: ${joint.servo}, channel ${joint.channel} of ${joint.board}`)}`,
    `        board=${joint.boardAt}, channel=${joint.channel}, low=${whole.target(joint.low, unit)}, high=${whole.target(joint.high, unit)}, home=${whole.target(joint.home, unit)},`,
    `        per_s=${whole.perS(joint.fastestPerS ?? 0, unit)},`,
    `        lines=(${lines.join(" ")}), shift=${made.shift},  # ${nearWords(near)}`,
    `        window=(${made.windowFrom}, ${made.windowTo}), counts=(${made.first}, ${made.last}),  # ${num(window.low)} to ${num(window.high)} us`,
    `        truncates=${bool(counts.rounding === "truncate")}, per_count=${Math.round(counts.perCount)},`,
    `        pulse=(${made.pulseOffset}, ${made.pulseGain}), period_us=${scaled(joint.periodUs, 16)},`,
    `        rated_per_s=${whole.perS(joint.ratedPerS ?? 0, unit)}, is_spin=${bool(unit === "spin")}, is_limp_at_rest=${bool(joint.isLimpAtRest)}, is_wired=${bool(joint.setPointUnit === "ticks")},`,
    "    ),",
  ];
}

function ownFunctions(
  { families, joints }: Machine,
  { set, off, send }: OwnLines,
  isWhole: boolean,
): readonly string[] {
  const pulse = "(joint.offset + joint.gain * count)";
  const expressions: Readonly<Record<Place, string>> = isWhole
    ? wholeExpressions
    : {
        board: "joint.board",
        channel: "joint.channel",
        count: "count",
        value: "(count * joint.per_count)",
        pulse_us: pulse,
        target: "target",
        fraction: "((target - joint.low) / (joint.high - joint.low))",
        duty: `(${pulse} / joint.period_us)`,
        bytes: "None",
        length: "0",
      };
  const body = (line: string) =>
    (line.trim() === "" ? "pass" : filled(line.trimEnd(), expressions)).split("\n").map((one) => `    ${one}`);
  const none = { count: "None", value: "None", pulse_us: "0", target: "0", fraction: "0", duty: "0" };
  const hasPackets = families.length > 0;
  const hasPulses = joints.some(({ setPointUnit }) => setPointUnit === "µs");
  const wired = (line: string) => (hasPackets ? ["    if joint.is_wired:", `        ${line}`, "        return"] : []);
  return [
    ...(hasPackets
      ? [
          "def send_bytes(board, data):",
          ...filled(send.trimEnd(), { ...expressions, board: "board", bytes: "data", length: "len(data)" })
            .split("\n")
            .map((one) => `    ${one}`),
          "",
          "",
        ]
      : []),
    "def set_pin(joint, count, target):",
    ...wired("# its goal goes with those of the others, at the end of the frame"),
    ...(hasPulses ? body(set) : ["    pass"]),
    "",
    "",
    "def let_go(joint):",
    ...wired(
      "at = joints.index(joint)\n        if at in switching:\n            send_bytes(joint.board, switching[at][1])",
    ),
    ...(off.trim() === "" || !hasPulses
      ? ["    pass"]
      : filled(off.trimEnd(), { ...expressions, ...none })
          .split("\n")
          .map((one) => `    ${one}`)),
    "",
    "",
  ];
}
