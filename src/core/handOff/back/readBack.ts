import {
  allOf,
  changeStep,
  type Edit,
  type Joint,
  type Project,
  setHome,
  setKeys,
  setPoseTarget,
  setRoutine,
  setSpeedLimit,
  setTravel,
  setWindow,
  type TakeLibrary,
} from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { easingsUsed } from "../easingsUsed";
import { chosenMachine } from "../handOff";
import type { Machine, MachineJoint } from "../machine";
import type { MachineRoutine } from "../routines";
import { inC, inPython } from "./found";
import { written } from "./written";

/** One number that is another in the code than on the bench. */
export interface Difference {
  readonly key: string;
  /** What it is of: “Neck turn, upper limit”. */
  readonly what: string;
  readonly before: string;
  readonly now: string;
  /** Why it cannot be taken over; null where it can. */
  readonly why: string | null;
}

export interface ReadBack {
  readonly differences: readonly Difference[];
  /** What the bench would have written and the text has no more. */
  readonly missing: number;
}

const numberPattern = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/;
const nothing = new Set(["KEEP", "None"]);
/** No file that was handed off is longer. */
const longestText = 20_000_000;

/**
 * Reads code that was handed off and changed at the machine: what in it differs from the project, number by number. The text is only looked through for what Vantel itself writes; whatever
 * else is in it is left alone. Fails in words where it is none of ours, or where a number of it cannot be read.
 */
export function readBack(project: Project, takes: TakeLibrary, given: string): Result<ReadBack> {
  if (given.length > longestText) return problem("That is longer than any file Vantel writes.");
  const text = given.replace(/\r\n?/g, "\n");
  const language = /\[(?:JOINT|POSE)_\w+\]\s*=\s*\{|_steps\[\]/.test(text) ? "c" : "python";
  const made = chosenMachine(project, takes);
  if (!made.ok) return made;
  const machine = made.value.machine;
  const isWhole = wholePattern.test(text);
  const found = language === "c" ? inC(plain(text)) : inPython(plain(text));
  if (found.size === 0)
    return problem("No joints, poses or steps as Vantel writes them were found in it. Take the whole .c or .py file.");
  const differences: Difference[] = [];
  let missing = 0;
  const counts = rowCounts(machine);
  // Steps and keys are known by their order: where the text has more or fewer of them, none is known for sure.
  const otherRows = (key: string) => {
    const [kind, name = ""] = key.split("/");
    const rows = `${kind}s/${name}`;
    return (kind === "step" || kind === "key") && found.get(rows) !== counts.get(rows) ? `${kind}s` : null;
  };
  for (const { key, what, value, why: own, words } of written(machine)) {
    if (isWhole && onlyReal.test(key)) continue;
    const now = found.get(key);
    if (now === undefined) {
      missing += 1;
      continue;
    }
    if (!words && !nothing.has(now) && !numberPattern.test(now))
      return problem(`${what}: “${now.slice(0, 40)}” is no number.`);
    const isSame = words
      ? now === value
      : nothing.has(now)
        ? value === null
        : value !== null && (isWhole ? isAsNear(Number(now), Number(value)) : Number(now) === Number(value));
    if (isSame) continue;
    const rows = otherRows(key);
    const why =
      own ??
      (rows ? `the text has another number of ${rows} than the bench` : null) ??
      (words && !words.includes(now) ? "the bench has nothing of that name here" : null);
    differences.push({ key, what, before: value ?? "as it is", now: nothing.has(now) ? "as it is" : now, why });
  }
  return ok({ differences, missing });
}

/** How many steps and keys the bench has, under the names that a text's own have. */
const rowCounts = ({ routines, joints }: Machine): ReadonlyMap<string, string> =>
  new Map(
    routines.flatMap(({ name, steps, tracks }): [string, string][] => [
      [`steps/${name}`, String(steps.length)],
      ...tracks.map(({ joint, keys }): [string, string] => [
        `keys/${name}__${joints[joint]?.name}`,
        String(keys.length),
      ]),
    ]),
  );

/** Only code in whole numbers has these. */
const wholePattern = /^#define DEG_PER_S\(x\)|^def deg\(n, over=1\):/m;

/** What code in whole numbers has in another form: window and curve in counts. */
const onlyReal = /\/(?:window_low|window_high|zero|slope|intercept)$/;

/** The same number in whole ones. The coarsest of them have 16 bits behind the point. */
const isAsNear = (a: number, b: number) => Math.abs(a - b) <= 2 ** -17;

/** Numbers as they stand in floating point, where the text makes whole ones of them: `DEG(-45.5)` and `deg(-455, 10)` are -45.5. */
const plain = (text: string) =>
  text
    .replace(/\b(?:DEG|SPIN|MS|DEG_PER_S|SPIN_PER_S)\(([^()\n]{1,40})\)/g, "$1")
    .replace(/\b(?:deg|spin|ms|deg_per_s|spin_per_s)\((-?\d{1,20})(?:, (\d{1,20}))?\)/g, (_, n: string, over = "1") =>
      String(Number(n) / Number(over)),
    );

/** Takes chosen differences over, as one edit. */
export function takeOver(project: Project, takes: TakeLibrary, chosen: readonly Difference[]): Edit {
  const name = "Take numbers back from code";
  const made = chosenMachine(project, takes);
  if (!made.ok) return { name, apply: () => made };
  const { machine } = made.value;
  const values = new Map(chosen.filter(({ why }) => why === null).map(({ key, now }) => [key, now]));
  const edits = [
    ...machine.joints.flatMap((joint) => jointEdits(project.joints, joint, values)),
    ...machine.poses.flatMap((pose) =>
      machine.joints.flatMap((joint) => {
        const now = values.get(`pose/${pose.name}/${joint.name}`);
        return now === undefined ? [] : [setPoseTarget(pose.id, joint.id, now === "as it is" ? null : Number(now))];
      }),
    ),
    ...machine.routines.flatMap((routine) => [
      ...routineEdits(routine, values),
      ...stepEdits(machine, routine, values),
      ...keyEdits(project, machine, routine, values),
    ]),
  ];
  return allOf(name, edits);
}

function jointEdits(
  joints: readonly Joint[],
  joint: MachineJoint,
  values: ReadonlyMap<string, string>,
): readonly Edit[] {
  const of = (field: string) => {
    const now = values.get(`joint/${joint.name}/${field}`);
    return now === undefined ? null : Number(now);
  };
  const [low, high, home, perS] = [of("low"), of("high"), of("home"), of("per_s")];
  const [windowLow, windowHigh] = [of("window_low"), of("window_high")];
  const cardId = joints.find(({ id }) => id === joint.id)?.cardId ?? "";
  return [
    // Both ends at once: between one and the other they might be the wrong way round.
    ...(low !== null || high !== null ? [setTravel(joint.id, low ?? joint.low, high ?? joint.high)] : []),
    ...(home !== null ? [setHome(joint.id, home)] : []),
    ...(perS !== null ? [setSpeedLimit(joint.id, perS === 0 ? null : perS)] : []),
    ...(windowLow !== null || windowHigh !== null
      ? [setWindow(cardId, windowLow ?? joint.window.low, windowHigh ?? joint.window.high)]
      : []),
  ];
}

function routineEdits({ id, name }: MachineRoutine, values: ReadonlyMap<string, string>): readonly Edit[] {
  const of = (field: string) => values.get(`routine/${name}/${field}`);
  const [rounds, isThereAndBack, releases] = [of("rounds"), of("goes_there_and_back"), of("releases")];
  if (rounds === undefined && isThereAndBack === undefined && releases === undefined) return [];
  const repeat = rounds === "0" ? ({ kind: "forever" } as const) : ({ kind: "times", times: Number(rounds) } as const);
  return [
    setRoutine(id, "routine", {
      ...(rounds !== undefined && { repeat }),
      ...(isThereAndBack !== undefined && { isThereAndBack: isThereAndBack === "true" }),
      ...(releases !== undefined && { atEnd: releases === "true" ? "release" : "hold" }),
    }),
  ];
}

/** Keys of lanes, each where it stands in the text. */
function keyEdits(
  project: Project,
  { joints }: Machine,
  routine: MachineRoutine,
  values: ReadonlyMap<string, string>,
): readonly Edit[] {
  const lanes = project.routines.find(({ id }) => id === routine.id)?.lanes ?? [];
  return routine.tracks.flatMap(({ jointId, joint }) => {
    const lane = lanes.find((one) => one.jointId === jointId);
    const of = (at: number, field: string) => values.get(`key/${routine.name}__${joints[joint]?.name}/${at}/${field}`);
    const keys = lane?.keys.map((key, at) => ({
      ...key,
      atMs: Number(of(at, "ms") ?? key.atMs),
      target: Number(of(at, "target") ?? key.target),
    }));
    const isChanged = lane?.keys.some((_, at) => of(at, "ms") !== undefined || of(at, "target") !== undefined);
    return keys && isChanged ? [setKeys(routine.id, jointId, keys)] : [];
  });
}

function stepEdits(machine: Machine, routine: MachineRoutine, values: ReadonlyMap<string, string>): readonly Edit[] {
  const { poses } = machine;
  const used = easingsUsed(machine);
  return routine.steps.flatMap((step, at) => {
    const of = (field: string) => values.get(`step/${routine.name}/${at}/${field}`);
    const [pose, moveMs, holdMs, staggerMs] = [of("pose"), of("move_ms"), of("hold_ms"), of("stagger_ms")];
    const easing = used.find(({ name }) => name === of("easing"))?.easing;
    if (step.kind === "wait" || [pose, moveMs, holdMs, staggerMs, easing].every((one) => one === undefined)) return [];
    const poseId = poses.find((one) => one.name === pose)?.id;
    return [
      changeStep(routine.id, step.stepId, "step", (before) => {
        if (before.kind === "hold") return holdMs === undefined ? before : { ...before, holdMs: Number(holdMs) };
        if (before.kind !== "move") return before;
        return {
          ...before,
          ...(poseId !== undefined && { poseId }),
          ...(easing !== undefined && { easing }),
          ...(moveMs !== undefined && { pace: { kind: "time" as const, moveMs: Number(moveMs) } }),
          ...(holdMs !== undefined && { holdMs: Number(holdMs) }),
          ...(staggerMs !== undefined && { staggerMs: Number(staggerMs) }),
        };
      }),
    ];
  });
}
