import type { OwnLines } from "@core/project";
import type { Machine, MachineJoint } from "../machine";
import { columns, num } from "../numbers";
import { filled, type Place, placesIn } from "../ownLines";
import type { Spelling } from "./spelling";
import { wholeExpressions } from "./wholeTables";
import { comment, upper } from "./words";

export const jointTypes = (hasKnots: boolean): readonly string[] => [
  ...(hasKnots ? ["typedef struct { double at; double set_point; } Knot;"] : []),
  "typedef struct {",
  "  uint8_t board, channel;",
  "  bool is_limp_at_rest;     /* no signal at a spin of 0 */",
  "  bool is_wired;            /* a smart servo: its counts are ticks, sent by packets; its channel is its id */",
  "  double direction;         /* 1 or -1: servo angle = zero + direction * target */",
  "  double zero;",
  "  double low, high, home;   /* travel limits and home, in degrees (or spin) */",
  "  double per_s;             /* no faster than this; 0 for no limit */",
  "  double slope, intercept;  /* pulse in us = slope * servo angle + intercept */",
  ...(hasKnots
    ? [
        "  const Knot *knots;        /* instead of slope and intercept, where the curve was measured piece by piece */",
        "  uint8_t knot_count;",
      ]
    : []),
  "  double window_low, window_high; /* the hard window, in us: no signal is ever outside */",
  "  double offset, gain;      /* pulse in us = offset + gain * count */",
  "  int32_t lowest_count, highest_count;",
  "  bool truncates;           /* the board cuts off what is behind the point, instead of rounding */",
  "  double per_count;         /* what its call takes for one count */",
  "  double period_us;         /* one frame */",
  "  double rated_per_s;       /* how fast its servo can turn; 0 where nobody knows */",
  "} Joint;",
  "",
];

export const knotsOf = ({ name, label, curve }: MachineJoint): readonly string[] =>
  curve.kind === "piecewise"
    ? [
        `/* ${comment(label)}: the servo's own angle (or spin), and the pulse in us that was measured there. */`,
        `static const Knot ${name}_knots[] = {`,
        ...curve.knots.map(({ angleDeg, setPoint }) => `  { ${num(angleDeg)}, ${num(setPoint)} },`),
        "};",
        "",
      ]
    : [];

export function jointTable(joints: readonly MachineJoint[], hasKnots: boolean): readonly string[] {
  const rows = joints.flatMap((joint) => [
    `  [JOINT_${upper(joint.name)}] = { /* ${comment(`${joint.label}: ${joint.servo}, channel ${joint.channel} of ${joint.board}`)} */`,
    `    .board = ${joint.boardAt}, .channel = ${joint.channel}, .is_limp_at_rest = ${joint.isLimpAtRest}, .is_wired = ${joint.setPointUnit === "ticks"},`,
    `    .direction = ${joint.direction}, .zero = ${num(joint.zeroDeg)},`,
    `    .low = ${num(joint.low)}, .high = ${num(joint.high)}, .home = ${num(joint.home)},`,
    `    .per_s = ${num(joint.fastestPerS ?? 0)},`,
    joint.curve.kind === "piecewise"
      ? `    .knots = ${joint.name}_knots, .knot_count = ${joint.curve.knots.length},`
      : `    .slope = ${num(joint.curve.slopePerDeg)}, .intercept = ${num(joint.curve.intercept)},${hasKnots ? " .knots = NULL, .knot_count = 0," : ""}`,
    `    .window_low = ${num(joint.window.low)}, .window_high = ${num(joint.window.high)},`,
    `    .offset = ${num(joint.counts.offset)}, .gain = ${num(joint.counts.gain)},`,
    `    .lowest_count = ${num(joint.counts.lowest)}, .highest_count = ${num(joint.counts.highest)}, .truncates = ${joint.counts.rounding === "truncate"},`,
    `    .per_count = ${num(joint.counts.perCount)}, .period_us = ${num(joint.periodUs)},`,
    `    .rated_per_s = ${num(joint.ratedPerS ?? 0)},`,
    "  },",
  ]);
  return ["static const Joint joints[JOINT_COUNT] = {", ...rows, "};"];
}

export function poseTable({ joints, poses }: Machine, spelling: Spelling): readonly string[] {
  const rows = poses.map(({ name, targets }) => [
    `  [POSE_${upper(name)}] = {`,
    ...targets.map((target, at) => {
      const cell = target === null ? "KEEP" : spelling.target(target, (joints[at] as MachineJoint).unit);
      return `${cell}${at < targets.length - 1 ? "," : ""}`;
    }),
    "},",
  ]);
  return [
    "/* ---- The poses: a target for each joint, in their order. ---- */",
    "",
    `#define KEEP ${spelling.keep} /* the pose says nothing of this joint */`,
    `/* ${joints.map(({ name }) => name).join(", ")} */`,
    `static const Target poses[${poses.length > 0 ? "POSE_COUNT" : "1"}][JOINT_COUNT] = {`,
    ...(poses.length > 0 ? columns(rows) : ["  { 0 }"]),
    "};",
    "",
  ];
}

export function ownFunctions(
  { joints, families }: Machine,
  { set, off, send }: OwnLines,
  isWhole: boolean,
): readonly string[] {
  const isTyped = joints.some(({ counts }) => counts.perCount !== 1);
  const expressions: Readonly<Record<Place, string>> = isWhole
    ? wholeExpressions
    : {
        board: "joint->board",
        channel: "joint->channel",
        count: "count",
        value: isTyped ? "(count * joint->per_count)" : "count",
        pulse_us: "(joint->offset + joint->gain * count)",
        target: "target",
        fraction: "((target - joint->low) / (joint->high - joint->low))",
        bytes: "NULL",
        length: "0",
        duty: "((joint->offset + joint->gain * count) / joint->period_us)",
      };
  const names = placesIn(set);
  const usesCount = names.some(
    (name) => name === "count" || name === "value" || name === "pulse_us" || name === "duty",
  );
  const usesTarget = names.some((name) => name === "target" || name === "fraction");
  const offLine = off.trim() || "/* nothing that takes it off was written */";
  const hasPackets = families.length > 0;
  const hasPulses = joints.some(({ setPointUnit }) => setPointUnit === "µs");
  return [
    ...(hasPackets
      ? [
          "static void send_bytes(uint8_t board, const uint8_t *bytes, uint16_t length)",
          "{",
          ...(placesIn(send).includes("board") ? [] : ["  (void)board;"]),
          ...filled(send.trim(), { ...expressions, board: "board", bytes: "bytes", length: "length" })
            .split("\n")
            .map((line) => `  ${line}`),
          "}",
          "",
        ]
      : []),
    "static void set_pin(const Joint *joint, int32_t count, Target target)",
    "{",
    ...(hasPackets ? ["  if (joint->is_wired) { is_goal_new = true; return; }"] : []),
    ...(usesCount && hasPulses ? [] : ["  (void)count;"]),
    ...(usesTarget && hasPulses ? [] : ["  (void)target;"]),
    ...(hasPulses
      ? filled(set.trim(), expressions)
          .split("\n")
          .map((line) => `  ${line}`)
      : []),
    "}",
    "",
    "static void let_go(const Joint *joint)",
    "{",
    ...(hasPackets
      ? [
          "  if (joint->is_wired) {",
          "    const Switching *own = &switching[joint - joints];",
          "    is_switched_on[joint - joints] = false;",
          "    if (own->lets_go) send_bytes(joint->board, own->lets_go, own->lets_go_count);",
          "    return;",
          "  }",
        ]
      : []),
    ...(hasPackets || placesIn(offLine).some((name) => name === "board" || name === "channel")
      ? []
      : ["  (void)joint;"]),
    ...(hasPulses
      ? filled(offLine, {
          ...expressions,
          count: "0",
          value: "0",
          pulse_us: "0",
          target: "0",
          fraction: "0",
          duty: "0",
        })
          .split("\n")
          .map((line) => `  ${line}`)
      : []),
    "}",
    "",
  ];
}
