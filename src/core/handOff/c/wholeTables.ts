import type { Machine, MachineJoint } from "../machine";
import { num } from "../numbers";
import type { Place } from "../ownLines";
import { scaled } from "../whole/scale";
import { inWhole } from "../whole/wholeJoint";
import { nearWords } from "../whole/words";
import { whole } from "./spelling";
import { comment, upper } from "./words";

export const wholeJointTypes: readonly string[] = [
  "/* A straight piece of the way from target to count: 65536ths of a count = (count + (target - from) * per_target) / 2^shift. */",
  "typedef struct { Target from; int64_t count, per_target; } Line;",
  "typedef struct {",
  "  uint8_t board, channel;",
  "  bool is_limp_at_rest;     /* no signal at a spin of 0 */",
  "  bool is_spin;",
  "  bool is_wired;            /* a smart servo: its counts are ticks, sent by packets; its channel is its id */",
  "  Target low, high, home;   /* travel limits and home */",
  "  int64_t per_s;            /* no faster than this; 0 for no limit */",
  "  const Line *lines;",
  "  uint8_t line_count, shift;",
  "  Target window_from, window_to; /* the hard window: no signal is ever outside */",
  "  int32_t first, last;      /* and the counts in it */",
  "  bool truncates;           /* the board cuts off what is behind the point, instead of rounding */",
  "  int32_t per_count;        /* what its call takes for one count */",
  "  int64_t pulse_offset, pulse_gain; /* pulse in us = (offset + gain * count) / 2^32 */",
  "  int64_t period_us;        /* one frame, 65536 to a us */",
  "  int64_t rated_per_s;      /* how fast its servo can turn; 0 where nobody knows */",
  "} Joint;",
  "",
];

const linesOf = (joint: MachineJoint): readonly string[] => {
  const { lines } = inWhole(joint).whole;
  return [
    `static const Line ${joint.name}_lines[] = {`,
    ...lines.map(({ from, count, perTarget }) => `  { ${from}, ${count}, ${perTarget} },`),
    "};",
  ];
};

export function wholeJointTable({ joints }: Machine): readonly string[] {
  const rows = joints.flatMap((joint) => {
    const { whole: made, near } = inWhole(joint);
    const { unit, window, counts } = joint;
    return [
      `  [JOINT_${upper(joint.name)}] = { /* ${comment(`${joint.label}: ${joint.servo}, channel ${joint.channel} of ${joint.board}`)} */`,
      `    .board = ${joint.boardAt}, .channel = ${joint.channel}, .is_limp_at_rest = ${joint.isLimpAtRest}, .is_spin = ${unit === "spin"}, .is_wired = ${joint.setPointUnit === "ticks"},`,
      `    .low = ${whole.target(joint.low, unit)}, .high = ${whole.target(joint.high, unit)}, .home = ${whole.target(joint.home, unit)},`,
      `    .per_s = ${whole.perS(joint.fastestPerS ?? 0, unit)},`,
      `    .lines = ${joint.name}_lines, .line_count = ${made.lines.length}, .shift = ${made.shift}, /* ${nearWords(near)} */`,
      `    .window_from = ${made.windowFrom}, .window_to = ${made.windowTo}, .first = ${made.first}, .last = ${made.last}, /* ${num(window.low)} to ${num(window.high)} us */`,
      `    .truncates = ${counts.rounding === "truncate"}, .per_count = ${Math.round(counts.perCount)},`,
      `    .pulse_offset = ${made.pulseOffset}, .pulse_gain = ${made.pulseGain}, .period_us = ${scaled(joint.periodUs, 16)},`,
      `    .rated_per_s = ${whole.perS(joint.ratedPerS ?? 0, unit)},`,
      "  },",
    ];
  });
  return [...joints.flatMap(linesOf), "", "static const Joint joints[JOINT_COUNT] = {", ...rows, "};"];
}

const pulse = "(joint->pulse_offset + joint->pulse_gain * count)";

/** What the places of a person's own lines are in whole numbers. */
export const wholeExpressions: Readonly<Record<Place, string>> = {
  board: "joint->board",
  channel: "joint->channel",
  count: "count",
  value: "(count * joint->per_count)",
  pulse_us: `(int32_t)((${pulse} + ((int64_t)1 << 31)) / ((int64_t)1 << 32))`,
  target: "target",
  bytes: "NULL",
  length: "0",
  fraction: "(int32_t)(((int64_t)target - joint->low) * 65536 / (joint->high - joint->low))",
  duty: `(int32_t)(${pulse} / joint->period_us)`,
};
