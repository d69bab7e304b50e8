import { placeOfEasing, type UsedEasing } from "../easingsUsed";
import type { Machine } from "../machine";
import { columns, num } from "../numbers";
import type { MachineRoutine } from "../routines";
import { wholeSlopes } from "../whole/wholeKeys";
import type { Spelling } from "./spelling";
import { comment, upper } from "./words";

const shapeNames = { line: "LINE", smooth: "SMOOTH", step: "STAY" } as const;

export function routineTables(
  machine: Machine,
  used: readonly UsedEasing[],
  spelling: Spelling,
  hasKeys: boolean,
): readonly string[] {
  const { routines } = machine;
  let waits = 0;
  const tables = routines.flatMap((routine) => {
    const text = routineTable(machine, routine, used, spelling, waits);
    waits += routine.steps.filter(({ kind }) => kind === "wait").length;
    return text;
  });
  const row = (routine: MachineRoutine) => {
    const { name, steps, tracks, leastMs, isThereAndBack, rounds, releases } = routine;
    return [
      `  [ROUTINE_${upper(name)}] = {`,
      `    .steps = ${steps.length > 0 ? `${name}_steps` : "NULL"}, .step_count = ${steps.length},`,
      `    .tracks = ${tracks.length > 0 ? `${name}_tracks` : "NULL"}, .track_count = ${tracks.length},`,
      `    .least_ms = ${spelling.ms(leastMs)}, .goes_there_and_back = ${isThereAndBack},`,
      `    .rounds = ${rounds ?? 0}, .releases = ${releases},`,
      "  },",
    ];
  };
  return [
    "/* ---- The routines: steps one after the other. ---- */",
    "",
    "enum { MOVE, HOLD, WAIT };",
    "typedef struct {",
    "  uint8_t kind;",
    "  int16_t pose;             /* of a move; the wait's number of a wait */",
    "  Ms move_ms, hold_ms;      /* of a wait: hold_ms is how long it waits at most, 0 for as long as it takes */",
    "  Ms stagger_ms;            /* each joint starts so much after the one before it */",
    "  uint8_t easing;           /* of a wait: 1 ends the routine when its time is over */",
    "  const Ms *delays;         /* what each joint waits besides; NULL for nothing */",
    "} Step;",
    ...(hasKeys
      ? [
          "enum { LINE, SMOOTH, STAY };",
          spelling.isWhole
            ? "typedef struct { Ms at_ms; Target target; int32_t leaves, arrives; uint8_t shape; } Key; /* how far its slope would go, here and at the next */"
            : "typedef struct { Ms at_ms; Target target; double slope; uint8_t shape; } Key;",
        ]
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
    "  Ms least_ms;              /* it lasts at least so long */",
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
  spelling: Spelling,
  firstWait: number,
): readonly string[] {
  const { name, label, steps, tracks } = routine;
  const hasKeys = machine.routines.some((one) => one.tracks.some(({ keys }) => keys.length > 0));
  const delays = steps.flatMap((step, at) =>
    step.kind === "move" && Object.keys(step.delaysMs).length > 0
      ? [
          `static const Ms ${name}_delays_${at}[JOINT_COUNT] = {`,
          ...Object.entries(step.delaysMs).flatMap(([id, ms]) => {
            const joint = machine.joints.find((one) => one.id === id);
            return joint ? [`  [JOINT_${upper(joint.name)}] = ${spelling.ms(ms)},`] : [];
          }),
          "};",
        ]
      : [],
  );
  let wait = firstWait;
  const rows = steps.map((step, at) => {
    if (step.kind === "hold") return ["  { HOLD,", "0,", "0,", `${spelling.ms(step.holdMs)},`, "0,", "0,", "NULL },"];
    if (step.kind === "wait") {
      wait += 1;
      return [
        "  { WAIT,",
        `${wait - 1},`,
        "0,",
        `${spelling.ms(step.timeoutMs ?? 0)},`,
        "0,",
        `${step.stops ? 1 : 0},`,
        `NULL }, /* ${comment(step.words)} */`,
      ];
    }
    return [
      "  { MOVE,",
      `POSE_${upper(machine.poses[step.pose]?.name ?? "")},`,
      `${spelling.ms(step.moveMs)},`,
      `${spelling.ms(step.holdMs)},`,
      `${spelling.ms(step.staggerMs)},`,
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
      `/* ${comment(of.label)}: ms, target, ${spelling.isWhole ? "slopes over the way to the next" : "slope"}, and how it goes on${bound}. */`,
      `static const Key ${name}__${of.name}_keys[] = {`,
      ...keys.map((key, at) => {
        const slopes = spelling.isWhole ? wholeSlopes(of, key, keys[at + 1]) : num(key.slope);
        return `  { ${spelling.ms(key.atMs)}, ${spelling.target(key.target, of.unit)}, ${slopes}, ${shapeNames[key.shape]} },`;
      }),
      "};",
    ];
  });
  const trackRows = tracks.map(({ joint, keys, adds, takenUpAt }) => {
    const of = machine.joints[joint];
    const own = keys.length > 0 ? `${name}__${of?.name}_keys, ${keys.length}, ${adds}` : "NULL, 0, false";
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
