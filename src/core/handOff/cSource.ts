import type { OwnLines } from "@core/project";
import { calmDegPerS, calmSpinPerS } from "@core/rig";
import { easingsUsed, placeOfEasing, type UsedEasing } from "./easingsUsed";
import type { Machine, MachineJoint } from "./machine";
import { columns, num } from "./numbers";
import { filled, type Place, placesIn } from "./ownLines";
import type { MachineKey, MachineRoutine } from "./routines";

/** A file that is handed off. */
export interface HandedFile {
  readonly name: string;
  readonly text: string;
}

/**
 * The machine as C99: a header, and a source that needs no library, allocates nothing and compiles with all warnings as errors. It works in floating point, and
 * each sum is written as the bench does it, so that the same counts come out.
 */
export function cFiles(machine: Machine, lines: OwnLines): readonly HandedFile[] {
  const used = easingsUsed(machine);
  return [
    { name: `${machine.name}.h`, text: header(machine) },
    { name: `${machine.name}.c`, text: source(machine, lines, used) },
  ];
}

const upper = (name: string) => name.toUpperCase();
const comment = (text: string) => text.replace(/\*\//g, "* /").replace(/[\r\n]+/g, " ");
const hasWaits = ({ routines }: Machine) => routines.some(({ steps }) => steps.some(({ kind }) => kind === "wait"));
const plural = (count: number, what: string) => `${count} ${what}${count === 1 ? "" : "s"}`;

/** What the file is, in one line. */
export const titleOf = ({ label, joints, poses, routines }: Machine): string =>
  `${label}: ${plural(joints.length, "joint")}, ${plural(poses.length, "pose")}, ${plural(routines.length, "routine")}`;

/** How the boards make their signals, line by line: for whoever sets up the timers. */
export const boardComments = ({ boards }: Machine): readonly string[] =>
  boards.flatMap(({ label, kind, working }, at) => [
    `Board ${at}, ${label}: ${kind}. For a pulse of 1500 us:`,
    ...working.map((line) => `  ${line.replaceAll("µs", "us").replaceAll("×", "*").replaceAll("−", "-")}`),
  ]);

/** The waits of all routines in words, in the order of their numbers. */
export const waitsOf = ({ routines }: Machine): readonly string[] =>
  routines.flatMap(({ label, steps }) =>
    steps.flatMap((step) => (step.kind === "wait" ? [`${label}: ${step.words}`] : [])),
  );

function header(machine: Machine): string {
  const { name, joints, poses, routines } = machine;
  const guard = `${upper(name)}_H`;
  const enumOf = (prefix: string, items: readonly { name: string; label: string }[]) =>
    items.length === 0
      ? []
      : [
          "enum {",
          ...columns(items.map((item) => [`  ${prefix}_${upper(item.name)},`, `/* ${comment(item.label)} */`])),
          `  ${prefix}_COUNT`,
          "};",
          "",
        ];
  const waits = waitsOf(machine);
  return [
    `/* ${comment(titleOf(machine))}. Written by Vantel. C99; it needs nothing else. */`,
    `#ifndef ${guard}`,
    `#define ${guard}`,
    "",
    "#include <stdbool.h>",
    "#include <stdint.h>",
    "",
    "/* A frame leaves this often; tick as often as you like. */",
    `#define FRAME_MS ${machine.frameMs}`,
    "",
    ...enumOf("JOINT", joints),
    ...enumOf("POSE", poses),
    ...enumOf("ROUTINE", routines),
    "/* Once, at the start. Nothing is driven by it. */",
    `void ${name}_begin(void);`,
    "/* Where a joint stands, if you know it: in degrees, or spin. Else it is taken to stand at its home. Before it is held. */",
    `void ${name}_stands(uint8_t joint, double target);`,
    "/* Gives all joints their signal. A hobby servo goes to where it is taken to stand at once, at its own speed. */",
    `void ${name}_hold(void);`,
    "/* Takes the signal off all channels. Ends what plays. */",
    `void ${name}_release(void);`,
    "/* Asks a joint for a target; limits and speed are kept. What plays has it no more. */",
    `void ${name}_go(uint8_t joint, double target);`,
    ...(poses.length > 0
      ? [
          "/* Brings the joints of a pose there, softly, in so many ms. */",
          `void ${name}_pose(uint8_t pose, double in_ms);`,
        ]
      : []),
    ...(routines.length > 0
      ? [
          "/* Plays a routine, after its joints were brought to its beginning. False where nothing is held. */",
          `bool ${name}_play(uint8_t routine);`,
        ]
      : []),
    "/* Ends what plays; joints stay where they are, held. */",
    `void ${name}_stop(void);`,
    `bool ${name}_is_moving(void);`,
    "/* Call it again and again: it never waits. The time may turn over. */",
    `void ${name}_tick(uint32_t now_ms);`,
    "/* What a joint was asked for last and let through: in degrees, or spin. */",
    `double ${name}_target(uint8_t joint);`,
    "/* From a target to the number for the board, within limits and window; -1 where there is none. And back. */",
    `int32_t ${name}_count_of(uint8_t joint, double target);`,
    `double ${name}_target_of(uint8_t joint, int32_t count);`,
    ...(waits.length > 0
      ? [
          "/* Yours to write: whether what a routine waits for has happened.",
          ...waits.map((words, at) => ` *   ${at}: ${comment(words)}`),
          " */",
          `bool ${name}_is_met(uint8_t wait);`,
        ]
      : []),
    "",
    "#endif",
    "",
  ].join("\n");
}

function source(machine: Machine, lines: OwnLines, used: readonly UsedEasing[]): string {
  const { name, joints, poses, routines } = machine;
  const hasKnots = joints.some(({ curve }) => curve.kind === "piecewise");
  const hasKeys = routines.some(({ tracks }) => tracks.some(({ keys }) => keys.length > 0));
  const isSmooth = routines.some(({ tracks }) =>
    tracks.some(({ keys }) => keys.some(({ shape }) => shape === "smooth")),
  );
  const needsHermite = isSmooth || used.some(({ formula }) => formula.some(({ is }) => is.includes("hermite(")));
  return [
    `/* ${comment(titleOf(machine))}. Written by Vantel. */`,
    ...(lines.top.trim() ? [lines.top.trimEnd()] : []),
    `#include "${name}.h"`,
    "#include <stddef.h>",
    "",
    ...boardComments(machine).map(
      (line, at, all) => `${at === 0 ? "/*" : " *"} ${comment(line)}${at === all.length - 1 ? " */" : ""}`,
    ),
    "",
    "/* ---- The joints: change numbers here. ---- */",
    "",
    ...jointTypes(hasKnots),
    ...(hasKnots ? joints.flatMap(knotsOf) : []),
    ...jointTable(joints, hasKnots),
    "",
    ...(poses.length > 0 || routines.length > 0 ? poseTable(machine) : []),
    ...(routines.length > 0 ? routineTables(machine, used, hasKeys) : []),
    "/* ---- Your own lines: how your platform puts a number on a pin. ---- */",
    "",
    ...ownFunctions(joints, lines),
    "/* ---- From targets to counts, as the bench does it. ---- */",
    "",
    ...mathText(hasKnots, needsHermite),
    ...(routines.length > 0 || poses.length > 0 ? easingText(used) : []),
    gateText,
    ...(routines.length > 0 || poses.length > 0 ? playerText(machine, hasKeys, isSmooth) : []),
    faceText(machine, lines),
  ].join("\n");
}

const jointTypes = (hasKnots: boolean): readonly string[] => [
  ...(hasKnots ? ["typedef struct { double at; double set_point; } Knot;"] : []),
  "typedef struct {",
  "  uint8_t board, channel;",
  "  bool is_limp_at_rest;     /* no signal at a spin of 0 */",
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

const knotsOf = ({ name, label, curve }: MachineJoint): readonly string[] =>
  curve.kind === "piecewise"
    ? [
        `/* ${comment(label)}: the servo's own angle (or spin), and the pulse in us that was measured there. */`,
        `static const Knot ${name}_knots[] = {`,
        ...curve.knots.map(({ angleDeg, setPoint }) => `  { ${num(angleDeg)}, ${num(setPoint)} },`),
        "};",
        "",
      ]
    : [];

function jointTable(joints: readonly MachineJoint[], hasKnots: boolean): readonly string[] {
  const rows = joints.flatMap((joint) => [
    `  [JOINT_${upper(joint.name)}] = { /* ${comment(`${joint.label}: ${joint.servo}, channel ${joint.channel} of ${joint.board}`)} */`,
    `    .board = ${joint.boardAt}, .channel = ${joint.channel}, .is_limp_at_rest = ${joint.isLimpAtRest},`,
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

function poseTable({ joints, poses }: Machine): readonly string[] {
  const rows = poses.map(({ name, targets }) => [
    `  [POSE_${upper(name)}] = {`,
    ...targets.map((target, at) => `${target === null ? "KEEP" : num(target)}${at < targets.length - 1 ? "," : ""}`),
    "},",
  ]);
  return [
    "/* ---- The poses: a target for each joint, in their order. ---- */",
    "",
    "#define KEEP 1e9 /* the pose says nothing of this joint */",
    `/* ${joints.map(({ name }) => name).join(", ")} */`,
    `static const double poses[${poses.length > 0 ? "POSE_COUNT" : "1"}][JOINT_COUNT] = {`,
    ...(poses.length > 0 ? columns(rows) : ["  { 0 }"]),
    "};",
    "",
  ];
}

const shapeNames = { line: "LINE", smooth: "SMOOTH", step: "STAY" } as const;

function routineTables(machine: Machine, used: readonly UsedEasing[], hasKeys: boolean): readonly string[] {
  const { routines } = machine;
  let waits = 0;
  const tables = routines.flatMap((routine) => {
    const text = routineTable(machine, routine, used, waits);
    waits += routine.steps.filter(({ kind }) => kind === "wait").length;
    return text;
  });
  const row = (routine: MachineRoutine) => {
    const { name, steps, tracks, leastMs, isThereAndBack, rounds, releases } = routine;
    return [
      `  [ROUTINE_${upper(name)}] = {`,
      `    .steps = ${steps.length > 0 ? `${name}_steps` : "NULL"}, .step_count = ${steps.length},`,
      `    .tracks = ${tracks.length > 0 ? `${name}_tracks` : "NULL"}, .track_count = ${tracks.length},`,
      `    .least_ms = ${num(leastMs)}, .goes_there_and_back = ${isThereAndBack},`,
      `    .rounds = ${rounds ?? 0}, .releases = ${releases},`,
      "  },",
    ];
  };
  return [
    "/* ---- The routines: steps one after the other. ---- */",
    "",
    `enum { ${used.map(({ name }) => upper(name)).join(", ")} };`,
    `static const double peak_rates[] = { ${used.map(({ peakRate }) => num(peakRate)).join(", ")} }; /* the fastest of each, in its mean speeds */`,
    "",
    "enum { MOVE, HOLD, WAIT };",
    "typedef struct {",
    "  uint8_t kind;",
    "  int16_t pose;             /* of a move; the wait's number of a wait */",
    "  double move_ms, hold_ms;  /* of a wait: hold_ms is how long it waits at most, 0 for as long as it takes */",
    "  double stagger_ms;        /* each joint starts so much after the one before it */",
    "  uint8_t easing;           /* of a wait: 1 ends the routine when its time is over */",
    "  const double *delays;     /* what each joint waits besides; NULL for nothing */",
    "} Step;",
    ...(hasKeys
      ? ["enum { LINE, SMOOTH, STAY };", "typedef struct { double at_ms, target, slope; uint8_t shape; } Key;"]
      : []),
    "typedef struct {",
    "  uint8_t joint;",
    "  int32_t taken_up_at;      /* the step at which a routine within takes it up; -1: it is first brought to where its first move can be made from */",
    ...(hasKeys
      ? [
          "  const Key *keys;          /* over its moves */",
          "  uint16_t key_count;",
          "  bool adds;                /* added to the moves, not in their place */",
        ]
      : []),
    "} Track;",
    "typedef struct {",
    "  const Step *steps;",
    "  uint16_t step_count;",
    "  const Track *tracks;",
    "  uint8_t track_count;",
    "  double least_ms;          /* it lasts at least so long */",
    "  bool goes_there_and_back;",
    "  uint32_t rounds;          /* 0 for without end */",
    "  bool releases;            /* its joints are let go when it is over */",
    "} Routine;",
    "",
    ...tables,
    "static const Routine routines[ROUTINE_COUNT] = {",
    ...routines.flatMap(row),
    "};",
    "",
  ];
}

function routineTable(
  machine: Machine,
  routine: MachineRoutine,
  used: readonly UsedEasing[],
  firstWait: number,
): readonly string[] {
  const { name, label, steps, tracks } = routine;
  const hasKeys = machine.routines.some((one) => one.tracks.some(({ keys }) => keys.length > 0));
  const delays = steps.flatMap((step, at) =>
    step.kind === "move" && Object.keys(step.delaysMs).length > 0
      ? [
          `static const double ${name}_delays_${at}[JOINT_COUNT] = {`,
          ...Object.entries(step.delaysMs).flatMap(([id, ms]) => {
            const joint = machine.joints.find((one) => one.id === id);
            return joint ? [`  [JOINT_${upper(joint.name)}] = ${num(ms)},`] : [];
          }),
          "};",
        ]
      : [],
  );
  let wait = firstWait;
  const rows = steps.map((step, at) => {
    if (step.kind === "hold") return ["  { HOLD,", "0,", "0,", `${num(step.holdMs)},`, "0,", "0,", "NULL },"];
    if (step.kind === "wait") {
      wait += 1;
      return [
        "  { WAIT,",
        `${wait - 1},`,
        "0,",
        `${num(step.timeoutMs ?? 0)},`,
        "0,",
        `${step.stops ? 1 : 0},`,
        `NULL }, /* ${comment(step.words)} */`,
      ];
    }
    return [
      "  { MOVE,",
      `POSE_${upper(machine.poses[step.pose]?.name ?? "")},`,
      `${num(step.moveMs)},`,
      `${num(step.holdMs)},`,
      `${num(step.staggerMs)},`,
      `${upper(used[placeOfEasing(used, step.easing)]?.name ?? "")},`,
      Object.keys(step.delaysMs).length > 0 ? `${name}_delays_${at} },` : "NULL },",
    ];
  });
  const keyTables = tracks.flatMap(({ joint, keys, error }) => {
    const of = machine.joints[joint];
    if (keys.length === 0 || !of) return [];
    const bound =
      error > 0
        ? `, reduced from what was recorded: off by no more than ${num(Number(error.toPrecision(2)))} where it was looked at`
        : "";
    return [
      `/* ${comment(of.label)}: ms, target, slope, and how it goes on${bound}. */`,
      `static const Key ${name}_${of.name}_keys[] = {`,
      ...keys.map(
        (key: MachineKey) => `  { ${num(key.atMs)}, ${num(key.target)}, ${num(key.slope)}, ${shapeNames[key.shape]} },`,
      ),
      "};",
    ];
  });
  const trackRows = tracks.map(({ joint, keys, adds, takenUpAt }) => {
    const of = machine.joints[joint];
    const own = keys.length > 0 ? `${name}_${of?.name}_keys, ${keys.length}, ${adds}` : "NULL, 0, false";
    return `  { JOINT_${upper(of?.name ?? "")}, ${takenUpAt ?? -1}${hasKeys ? `, ${own}` : ""} },`;
  });
  return [
    `/* ${comment(label)} */`,
    ...delays,
    ...(steps.length > 0
      ? [
          `static const Step ${name}_steps[] = {`,
          ...columns([["  /* kind,", "pose,", "move ms,", "hold ms,", "stagger ms,", "easing,", "delays */"], ...rows]),
          "};",
        ]
      : []),
    ...keyTables,
    ...(tracks.length > 0 ? [`static const Track ${name}_tracks[] = {`, ...trackRows, "};"] : []),
    "",
  ];
}

function ownFunctions(joints: readonly MachineJoint[], { set, off }: OwnLines): readonly string[] {
  const isTyped = joints.some(({ counts }) => counts.perCount !== 1);
  const expressions: Readonly<Record<Place, string>> = {
    board: "joint->board",
    channel: "joint->channel",
    count: "count",
    value: isTyped ? "(count * joint->per_count)" : "count",
    pulse_us: "(joint->offset + joint->gain * count)",
    target: "target",
    fraction: "((target - joint->low) / (joint->high - joint->low))",
    duty: "((joint->offset + joint->gain * count) / joint->period_us)",
  };
  const names = placesIn(set);
  const usesCount = names.some(
    (name) => name === "count" || name === "value" || name === "pulse_us" || name === "duty",
  );
  const usesTarget = names.some((name) => name === "target" || name === "fraction");
  const offLine = off.trim() || "/* nothing that takes it off was written */";
  return [
    "static void set_pin(const Joint *joint, int32_t count, double target)",
    "{",
    ...(usesCount ? [] : ["  (void)count;"]),
    ...(usesTarget ? [] : ["  (void)target;"]),
    ...filled(set.trim(), expressions)
      .split("\n")
      .map((line) => `  ${line}`),
    "}",
    "",
    "static void let_go(const Joint *joint)",
    "{",
    ...(placesIn(offLine).some((name) => name === "board" || name === "channel") ? [] : ["  (void)joint;"]),
    ...filled(offLine, { ...expressions, count: "0", value: "0", pulse_us: "0", target: "0", fraction: "0", duty: "0" })
      .split("\n")
      .map((line) => `  ${line}`),
    "}",
    "",
  ];
}

const mathText = (hasKnots: boolean, needsHermite: boolean): readonly string[] => [
  ...(hasKnots
    ? [
        `static double through(const Knot *knots, uint8_t count, double at)
{
  uint8_t next = 1;
  while (next < count - 1 && !(knots[next].at >= at)) next++;
  const Knot *a = &knots[next - 1], *b = &knots[next];
  return a->set_point + ((at - a->at) * (b->set_point - a->set_point)) / (b->at - a->at);
}

static double back_through(const Knot *knots, uint8_t count, double set_point)
{
  const bool is_rising = knots[count - 1].set_point > knots[0].set_point;
  uint8_t next = 1;
  while (next < count - 1 && !(is_rising ? knots[next].set_point >= set_point : knots[next].set_point <= set_point)) next++;
  const Knot *a = &knots[next - 1], *b = &knots[next];
  return a->at + ((set_point - a->set_point) * (b->at - a->at)) / (b->set_point - a->set_point);
}
`,
      ]
    : []),
  `/* The pulse in us for a target. */
static double set_point_of(const Joint *joint, double target)
{
  const double angle = joint->zero + joint->direction * target;${
    hasKnots ? "\n  if (joint->knots) return through(joint->knots, joint->knot_count, angle);" : ""
  }
  return joint->slope * angle + joint->intercept;
}

/* The target at a pulse. */
static double target_at(const Joint *joint, double set_point)
{
  double angle;
  ${
    hasKnots
      ? "if (joint->knots) angle = back_through(joint->knots, joint->knot_count, set_point);\n  else angle = (set_point - joint->intercept) / joint->slope;"
      : "angle = (set_point - joint->intercept) / joint->slope;"
  }
  return joint->direction * (angle - joint->zero);
}

/* What follows from the numbers above; worked out once, at the start. */
typedef struct {
  double at_window_low, at_window_high; /* the targets at the ends of the hard window */
  double inner_low, inner_high;         /* what is left of the window by the travel */
  double turns_per_s;                   /* the fastest that it turns; 0 where nobody knows */
  double bring_per_s;                   /* it is brought to a beginning no faster than this */
} Bounds;
static Bounds bounds[JOINT_COUNT];

static void find_bounds(uint8_t at)
{
  const Joint *joint = &joints[at];
  const double a = set_point_of(joint, joint->low), b = set_point_of(joint, joint->high);
  const double low = (a < b ? a : b) - 1e-6, high = (a < b ? b : a) + 1e-6;
  bounds[at].at_window_low = target_at(joint, joint->window_low);
  bounds[at].at_window_high = target_at(joint, joint->window_high);
  bounds[at].inner_low = low > joint->window_low ? low : joint->window_low;
  bounds[at].inner_high = high < joint->window_high ? high : joint->window_high;
  const double rated = joint->rated_per_s;
  const double turns = joint->per_s > 0 && joint->per_s < rated ? joint->per_s : rated;
  bounds[at].turns_per_s = turns;
  bounds[at].bring_per_s = rated == 0 ? ${calmSpinPerS} : turns / 2 < ${calmDegPerS} ? turns / 2 : ${calmDegPerS};
}

static double pulse_of(const Joint *joint, int32_t count) { return joint->offset + joint->gain * count; }

/* The largest whole number that is not above x. */
static int32_t floor_of(double x)
{
  const int32_t whole = (int32_t)x;
  return whole > x ? whole - 1 : whole;
}

/* The count that the board would take for a pulse, kept within its range. */
static int32_t count_near(const Joint *joint, double set_point)
{
  const double exact = (set_point - joint->offset) / joint->gain;
  if (!(exact > joint->lowest_count)) return joint->lowest_count;
  if (exact >= joint->highest_count) return joint->highest_count;
  int32_t count = floor_of(joint->truncates ? exact + 1e-9 : exact);
  if (!joint->truncates && exact - count >= 0.5) count++;
  return count > joint->highest_count ? joint->highest_count : count;
}

/* The same, inside a window; -1 where no count lies in it. */
static int32_t count_within(const Joint *joint, double set_point, double low, double high)
{
  const int32_t upward = joint->gain > 0 ? 1 : -1;
  int32_t count = count_near(joint, set_point);
  if (pulse_of(joint, count) > high) count -= upward;
  else if (pulse_of(joint, count) < low) count += upward;
  const double made = pulse_of(joint, count);
  const bool is_inside = made >= low && made <= high && count >= joint->lowest_count && count <= joint->highest_count;
  return is_inside ? count : -1;
}
`,
  ...(needsHermite
    ? [
        `/* The cubic between two points with these slopes, at a share of the width between them. */
static double hermite(double y0, double slope0, double y1, double slope1, double width, double share)
{
  const double s2 = share * share;
  const double s3 = s2 * share;
  return y0 * (2 * s3 - 3 * s2 + 1) + slope0 * width * (s3 - 2 * s2 + share) + y1 * (3 * s2 - 2 * s3) + slope1 * width * (s3 - s2);
}
`,
      ]
    : []),
];

const easingText = (used: readonly UsedEasing[]): readonly string[] => [
  ...used.map(({ name, formula }) => {
    const body = formula.map(({ until, is }) =>
      until === null ? `  return ${is};` : `  if (s < ${num(until)}) return ${is};`,
    );
    return `static double ${name}(double s)\n{\n${body.join("\n")}\n}\n`;
  }),
];

const gateText = `/* ---- The gate: every target passes it, whoever asks. ---- */

typedef struct {
  bool is_held;
  double wish;    /* what is asked for */
  double target;  /* what was let through */
  int32_t count;  /* what the board was told last; -1 for no signal */
} Live;
static Live live[JOINT_COUNT];

/* The count for a target within the travel; the target is drawn in where the window ends before it. */
static int32_t count_for(uint8_t at, double *target)
{
  const Joint *joint = &joints[at];
  const Bounds *own = &bounds[at];
  double set_point = set_point_of(joint, *target);
  if (set_point < joint->window_low) { set_point = joint->window_low; *target = own->at_window_low; }
  else if (set_point > joint->window_high) { set_point = joint->window_high; *target = own->at_window_high; }
  const bool is_inside = *target >= joint->low && *target <= joint->high;
  return count_within(joint, set_point, is_inside ? own->inner_low : joint->window_low,
                      is_inside ? own->inner_high : joint->window_high);
}

static void pass_gate(uint8_t at, double dt_ms)
{
  const Joint *joint = &joints[at];
  Live *now = &live[at];
  double target = now->wish;
  if (!(target - target == 0)) target = now->target; /* not a number, or without end */
  if (target < joint->low) target = joint->low;
  else if (target > joint->high) target = joint->high;
  if (joint->per_s > 0) {
    const double most = (joint->per_s * dt_ms) / 1000;
    const double step = target - now->target;
    if (step > most) target = now->target + most;
    else if (step < -most) target = now->target - most;
  }
  const int32_t count = count_for(at, &target);
  if (count >= 0) now->target = target;
  const bool is_limp = count < 0 || (joint->is_limp_at_rest && now->target == 0);
  if (is_limp) {
    if (now->count >= 0) let_go(joint);
    now->count = -1;
  } else {
    if (now->count != count) set_pin(joint, count, target);
    now->count = count;
  }
}
`;

/** What brings joints somewhere: to a pose, to the beginning of a routine, and along it. */
function playerText(machine: Machine, hasKeys: boolean, isSmooth: boolean): readonly string[] {
  const hasRoutines = machine.routines.length > 0;
  const mostSteps = Math.max(1, ...machine.routines.map(({ steps }) => steps.length));
  const mostTracks = Math.max(1, ...machine.routines.map(({ tracks }) => tracks.length));
  const lead = `/* ---- What moves by itself. ---- */

static double way_of(double a, double b) { return a > b ? a - b : b - a; }
`;
  const gliding = `/* On the way to a pose. */
static bool is_gliding[JOINT_COUNT];
static double glide_from[JOINT_COUNT], glide_to[JOINT_COUNT];
static double glide_ms, glided_ms;

static void glide(double dt_ms)
{
  bool is_any = false;
  glided_ms += dt_ms;
  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    if (!is_gliding[at]) continue;
    const double from = glide_from[at], to = glide_to[at];
    live[at].wish = glided_ms >= glide_ms ? to : from + (to - from) * least_jerk(glided_ms / glide_ms);
    is_any = true;
  }
  if (!is_any || glided_ms >= glide_ms)
    for (uint8_t at = 0; at < JOINT_COUNT; at++) is_gliding[at] = false;
}
`;
  return [
    lead,
    ...(machine.poses.length > 0 ? [gliding] : []),
    ...(hasRoutines ? [routineText(machine, mostSteps, mostTracks, hasKeys, isSmooth)] : []),
  ];
}

const keysText = (
  isSmooth: boolean,
) => `/* What a track's keys make of a value at a moment; outside them they change nothing. */
static double over(const Track *track, double value, double at_ms)
{
  const Key *keys = track->keys;
  const uint16_t last = (uint16_t)(track->key_count - 1);
  if (!track->key_count || at_ms < keys[0].at_ms || at_ms > keys[last].at_ms) return value;
  uint16_t low = 0, high = track->key_count;
  while (high - low > 1) {
    const uint16_t middle = (uint16_t)((low + high) / 2);
    if (keys[middle].at_ms <= at_ms) low = middle;
    else high = middle;
  }
  const Key *key = &keys[low];
  double own = key->target;
  if (low != last && key->shape != STAY) {
    const Key *next = key + 1;
    const double width_ms = next->at_ms - key->at_ms;
    const double share = (at_ms - key->at_ms) / width_ms;
    ${
      isSmooth
        ? `own = key->shape == LINE ? key->target + (next->target - key->target) * share
                            : hermite(key->target, key->slope, next->target, next->slope, width_ms, share);`
        : "own = key->target + (next->target - key->target) * share;"
    }
  }
  return track->adds ? value + own : own;
}
`;

const routineText = (machine: Machine, mostSteps: number, mostTracks: number, hasKeys: boolean, isSmooth: boolean) => {
  const isMet = hasWaits(machine) ? `${machine.name}_is_met((uint8_t)step->pose)` : "true";
  return `typedef enum { IDLE, LEADING_IN, PLAYING, WAITING } Phase;
static Phase phase;
static const Routine *routine;
static double begins_ms[${mostSteps + 1}]; /* when each step of what plays begins */
static double length_ms, at_ms;
static bool is_returning;
static uint32_t rounds_done;
static uint16_t step_now, next_wait;
static bool is_mine[JOINT_COUNT];       /* what plays has the joint */
static double starts[${mostTracks}];             /* where each track's joint stands when the round begins */
static double lead_from[${mostTracks}], lead_in_ms, lead_left_ms, waited_ms;

static double target_in(const Step *step, uint8_t joint) { return poses[step->pose][joint]; }

static bool moves(const Step *step, uint8_t joint) { return step->kind == MOVE && target_in(step, joint) != KEEP; }

/* When a joint begins to move in a step: joints may start one after the other. */
static double from_ms_of(uint16_t number, uint8_t joint)
{
  const Step *step = &routine->steps[number];
  int order = 0;
  for (uint8_t before = 0; before < joint; before++) order += moves(step, before);
  return begins_ms[number] + order * step->stagger_ms + (step->delays ? step->delays[joint] : 0);
}

/* Works out when each step begins, and how long the routine is. */
static void lay_steps(void)
{
  double now_ms = 0;
  for (uint16_t number = 0; number < routine->step_count; number++) {
    const Step *step = &routine->steps[number];
    begins_ms[number] = now_ms;
    if (step->kind == WAIT) continue;
    double arrive_ms = step->kind == MOVE ? now_ms + step->move_ms : now_ms;
    for (uint8_t joint = 0; joint < JOINT_COUNT; joint++) {
      if (!moves(step, joint)) continue;
      const double to_ms = from_ms_of(number, joint) + step->move_ms;
      if (to_ms > arrive_ms) arrive_ms = to_ms;
    }
    now_ms = arrive_ms + step->hold_ms;
  }
  begins_ms[routine->step_count] = now_ms;
  length_ms = now_ms > routine->least_ms ? now_ms : routine->least_ms;
}

/* The last step before \`number\` that moves a joint; -1 for none. */
static int32_t move_before(int32_t number, uint8_t joint)
{
  while (--number >= 0 && !moves(&routine->steps[number], joint)) {}
  return number;
}

/* Where a joint rests while no move has said anything of it. */
static double rest_of(const Track *track, double ms, double start)
{
${
  hasKeys
    ? `  if (!track->key_count || track->adds) return start;
  const Key *keys = track->keys;
  uint16_t number = 0;
  while (number < routine->step_count && !moves(&routine->steps[number], track->joint)) number++;
  bool is_first = true; /* the keys come before any move */
  if (track->taken_up_at >= 0) {
    const double begins = begins_ms[track->taken_up_at];
    if (ms > begins) ms = begins;
    is_first = keys[0].at_ms <= begins;
  } else if (number < routine->step_count)
    is_first = keys[0].at_ms <= from_ms_of(number, track->joint);
  if (keys[track->key_count - 1].at_ms <= ms) return keys[track->key_count - 1].target;
  return is_first ? keys[0].target : start;`
    : `  (void)track;
  (void)ms;
  return start;`
}
}

/* The target as the moves alone have it. */
static double base_at(const Track *track, double ms, double start)
{
  while (step_now > 0 && begins_ms[step_now] > ms) step_now--;
  while (step_now + 1 < routine->step_count && begins_ms[step_now + 1] <= ms) step_now++;
  int32_t number = move_before(routine->step_count ? step_now + 1 : 0, track->joint);
  while (number >= 0 && from_ms_of((uint16_t)number, track->joint) > ms) number = move_before(number, track->joint);
  if (number < 0) return rest_of(track, ms, start);
  const Step *step = &routine->steps[number];
  const double from_ms = from_ms_of((uint16_t)number, track->joint);
  const double to_ms = from_ms + step->move_ms;
  const double to = target_in(step, track->joint);
  if (ms >= to_ms) return to;
  const int32_t before = move_before(number, track->joint);
  const double from = before < 0 ? rest_of(track, from_ms, start) : target_in(&routine->steps[before], track->joint);
  const double share = (ms - from_ms) / (to_ms - from_ms);
  switch (step->easing) {
${easingsUsed(machine)
  .map(({ name }) => `    case ${upper(name)}: return from + (to - from) * ${name}(share);`)
  .join("\n")}
    default: return to;
  }
}
${hasKeys ? `\n${keysText(isSmooth)}` : ""}
static double value_of(uint8_t place)
{
  const Track *track = &routine->tracks[place];
  const double ms = at_ms < length_ms ? at_ms : length_ms;
  ${hasKeys ? "return over(track, base_at(track, ms, starts[place]), ms);" : "return base_at(track, ms, starts[place]);"}
}

/* Where a joint is to begin: where it stands, if its first move can be made from there in its time. */
static double near_start(const Track *track)
{
  const double stands = live[track->joint].wish;
  const double turns = bounds[track->joint].turns_per_s;
  if (track->taken_up_at >= 0 || turns == 0) return stands;
  for (uint16_t number = 0; number < routine->step_count; number++) {
    const Step *step = &routine->steps[number];
    if (!moves(step, track->joint)) continue;${
      hasKeys
        ? "\n    if (track->key_count && !track->adds && track->keys[0].at_ms <= from_ms_of(number, track->joint)) return stands;"
        : ""
    }
    const double from_ms = from_ms_of(number, track->joint);
    const double reach = ((from_ms + step->move_ms - from_ms) / 1000) * (turns / peak_rates[step->easing]);
    const double to = target_in(step, track->joint);
    const double near = stands < to + reach ? stands : to + reach;
    return near > to - reach ? near : to - reach;
  }
  return stands;
}

/* Stands at a moment; waits before it are behind. */
static void place(double ms)
{
  at_ms = ms;
  is_returning = false;
  next_wait = 0;
  while (next_wait < routine->step_count && !(routine->steps[next_wait].kind == WAIT && begins_ms[next_wait] >= ms)) next_wait++;
}

/* Begins the way to where the routine is now; nothing to do where its joints are there. */
static void lead_in(void)
{
  lead_in_ms = 0;
  for (uint8_t at = 0; at < routine->track_count; at++) {
    const uint8_t joint = routine->tracks[at].joint;
    lead_from[at] = live[joint].wish;
    const double way = way_of(value_of(at), lead_from[at]);
    const double ms = way > 0.05 ? (way * 1.875 * 1000) / bounds[joint].bring_per_s : 0;
    if (is_mine[joint] && ms > lead_in_ms) lead_in_ms = ms;
  }
  lead_left_ms = lead_in_ms;
  phase = lead_in_ms > 0 ? LEADING_IN : PLAYING;
}

static void lead_on(double dt_ms)
{
  lead_left_ms = lead_left_ms > dt_ms ? lead_left_ms - dt_ms : 0;
  const double share = least_jerk(1 - lead_left_ms / lead_in_ms);
  for (uint8_t at = 0; at < routine->track_count; at++) {
    const uint8_t joint = routine->tracks[at].joint;
    if (!is_mine[joint]) continue;
    const double to = value_of(at);
    live[joint].wish = share == 1 ? to : lead_from[at] + (to - lead_from[at]) * share;
  }
  if (lead_left_ms == 0) phase = PLAYING;
}

static void write_wishes(void)
{
  for (uint8_t at = 0; at < routine->track_count; at++) {
    const uint8_t joint = routine->tracks[at].joint;
    if (is_mine[joint]) live[joint].wish = value_of(at);
  }
}

static void end_routine(void)
{
  if (routine->releases)
    for (uint8_t at = 0; at < routine->track_count; at++) {
      Live *now = &live[routine->tracks[at].joint];
      if (!is_mine[routine->tracks[at].joint]) continue;
      now->is_held = false;
      if (now->count >= 0) let_go(&joints[routine->tracks[at].joint]);
      now->count = -1;
    }
  phase = IDLE;
}

static void end_round(void)
{
  write_wishes();
  rounds_done++;
  if (routine->rounds && rounds_done >= routine->rounds) {
    end_routine();
    return;
  }
  const double end_ms = is_returning ? 0 : length_ms;
  for (uint8_t at = 0; at < routine->track_count; at++) starts[at] = base_at(&routine->tracks[at], end_ms, starts[at]);
  place(0);
  if (length_ms > 0) lead_in();
}

/* Runs to the next wait, the end of the way, or as far as time goes. Gives the time that is left. */
static double run_on(double dt_ms)
{
  if (is_returning) {
    at_ms -= dt_ms;
    if (at_ms > 0) return 0;
    const double over_ms = -at_ms;
    at_ms = 0;
    end_round();
    return over_ms;
  }
  const double to_ms = at_ms + dt_ms;
  const bool is_wait = next_wait < routine->step_count;
  if (is_wait && begins_ms[next_wait] <= (to_ms < length_ms ? to_ms : length_ms)) {
    at_ms = begins_ms[next_wait];
    phase = WAITING;
    waited_ms = 0;
    return 0;
  }
  if (to_ms < length_ms) {
    at_ms = to_ms;
    return 0;
  }
  at_ms = length_ms;
  if (routine->goes_there_and_back) is_returning = true;
  else end_round();
  return to_ms - length_ms;
}

static void play_on(double dt_ms)
{
  double left_ms = dt_ms;
  for (uint8_t passed = 0; passed < 50 && phase == PLAYING; passed++) {
    left_ms = run_on(left_ms);
    if (left_ms <= 0) break;
  }
  if (phase == PLAYING || phase == WAITING) write_wishes();
}

static void wait_on(double dt_ms)
{
  const Step *step = &routine->steps[next_wait];
  waited_ms += dt_ms;
  write_wishes();
  const bool is_met = ${isMet};
  const bool is_over = step->hold_ms > 0 && waited_ms >= step->hold_ms;
  if (!is_met && !is_over) return;
  if (!is_met && step->easing) {
    end_routine();
    return;
  }
  while (++next_wait < routine->step_count && routine->steps[next_wait].kind != WAIT) {}
  phase = PLAYING;
}
`;
};

function faceText(machine: Machine, { start }: OwnLines): string {
  const { name, poses, routines } = machine;
  const hasPlayer = routines.length > 0;
  const hasPoses = poses.length > 0;
  const stopped = [
    ...(hasPlayer ? ["  phase = IDLE;"] : []),
    ...(hasPoses
      ? ["  for (uint8_t at = 0; at < JOINT_COUNT; at++) is_gliding[at] = false;", "  glide_ms = glided_ms = 0;"]
      : []),
  ];
  const moving = [...(hasPlayer ? ["phase != IDLE"] : []), ...(hasPoses ? ["glided_ms < glide_ms"] : [])].join(" || ");
  return `/* ---- What is called. ---- */

static bool has_ticked;
static uint32_t last_ms;

void ${name}_begin(void)
{
${start
  .trim()
  .split("\n")
  .filter((line) => line !== "")
  .map((line) => `  ${line}\n`)
  .join("")}  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    find_bounds(at);
    live[at].is_held = false;
    live[at].wish = live[at].target = joints[at].home;
    live[at].count = -1;
  }
${stopped.map((line) => `${line}\n`).join("")}  has_ticked = false;
}

void ${name}_stands(uint8_t joint, double target)
{
  if (joint >= JOINT_COUNT || live[joint].is_held || !(target - target == 0)) return;
  if (target < joints[joint].low) target = joints[joint].low;
  if (target > joints[joint].high) target = joints[joint].high;
  live[joint].wish = live[joint].target = target;
}

void ${name}_hold(void)
{
  for (uint8_t at = 0; at < JOINT_COUNT; at++) live[at].is_held = true;
}

void ${name}_stop(void)
{
${stopped.length > 0 ? stopped.join("\n") : "  /* nothing moves by itself here */"}
  for (uint8_t at = 0; at < JOINT_COUNT; at++) live[at].wish = live[at].target;
}

void ${name}_release(void)
{
  ${name}_stop();
  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    live[at].is_held = false;
    live[at].count = -1;
    let_go(&joints[at]);
  }
}

void ${name}_go(uint8_t joint, double target)
{
  if (joint >= JOINT_COUNT || !live[joint].is_held) return;
${hasPlayer ? "  is_mine[joint] = false;\n" : ""}${hasPoses ? "  is_gliding[joint] = false;\n" : ""}  live[joint].wish = target;
}
${
  hasPoses
    ? `
void ${name}_pose(uint8_t pose, double in_ms)
{
  if (pose >= POSE_COUNT || !(in_ms >= 0)) return;
  ${name}_stop();
  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    if (!live[at].is_held || poses[pose][at] == KEEP) continue;
    is_gliding[at] = true;
    glide_from[at] = live[at].wish;
    glide_to[at] = poses[pose][at];
  }
  glide_ms = in_ms;
  glided_ms = 0;
}
`
    : ""
}${
  hasPlayer
    ? `
bool ${name}_play(uint8_t which)
{
  if (which >= ROUTINE_COUNT) return false;
  ${name}_stop();
  routine = &routines[which];
  bool is_any = false;
  for (uint8_t at = 0; at < JOINT_COUNT; at++) is_mine[at] = false;
  for (uint8_t at = 0; at < routine->track_count; at++) {
    const uint8_t joint = routine->tracks[at].joint;
    is_mine[joint] = live[joint].is_held;
    is_any = is_any || is_mine[joint];
  }
  if (!is_any) return false;
  step_now = 0;
  rounds_done = 0;
  lay_steps();
  for (uint8_t at = 0; at < routine->track_count; at++) starts[at] = near_start(&routine->tracks[at]);
  place(0);
  lead_in();
  return true;
}
`
    : ""
}
bool ${name}_is_moving(void) { return ${moving || "false"}; }

void ${name}_tick(uint32_t now_ms)
{
  const uint32_t since_ms = now_ms - last_ms;
  if (has_ticked && since_ms < FRAME_MS) return;
  /* However late: time moves on by no more than this. */
  const double dt_ms = !has_ticked ? 0 : since_ms > 50 ? 50 : since_ms;
  has_ticked = true;
  last_ms = now_ms;
${hasPoses ? "  glide(dt_ms);\n" : ""}${
  hasPlayer
    ? `  if (phase == LEADING_IN) lead_on(dt_ms);
  else if (phase == PLAYING) play_on(dt_ms);
  else if (phase == WAITING) wait_on(dt_ms);
`
    : ""
}  for (uint8_t at = 0; at < JOINT_COUNT; at++)
    if (live[at].is_held) pass_gate(at, dt_ms);
}

double ${name}_target(uint8_t joint) { return joint < JOINT_COUNT ? live[joint].target : 0; }

int32_t ${name}_count_of(uint8_t at, double target)
{
  if (at >= JOINT_COUNT || !(target - target == 0)) return -1;
  const Joint *joint = &joints[at];
  if (target < joint->low) target = joint->low;
  if (target > joint->high) target = joint->high;
  return count_for(at, &target);
}

double ${name}_target_of(uint8_t at, int32_t count)
{
  return at < JOINT_COUNT ? target_at(&joints[at], pulse_of(&joints[at], count)) : 0;
}
`;
}
