import {
  allOf,
  changeStep,
  type Edit,
  type Joint,
  type Project,
  setHome,
  setPoseTarget,
  setSpeedLimit,
  setTravel,
  setWindow,
  type TakeLibrary,
} from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { chosenMachine } from "./handOff";
import type { Machine, MachineJoint } from "./machine";
import type { MachineRoutine, MachineStep } from "./routines";

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
  // Steps are known by their order: where the text has more or fewer of them, none is known for sure.
  const isOtherRow = (key: string) => {
    const [kind, name] = key.split("/");
    const row = kind === "step" ? machine.routines.find((one) => one.name === name) : undefined;
    return row !== undefined && found.get(`steps/${name}`) !== String(row.steps.length);
  };
  for (const { key, what, value, why: own } of written(machine)) {
    if (isWhole && onlyReal.test(key)) continue;
    const why = own ?? (isOtherRow(key) ? "the text has another number of steps than the bench" : null);
    const now = found.get(key);
    if (now === undefined) {
      missing += 1;
      continue;
    }
    const isName = key.endsWith("/pose");
    if (!isName && !nothing.has(now) && !numberPattern.test(now))
      return problem(`${what}: “${now.slice(0, 40)}” is no number.`);
    const isSame = isName
      ? now === value
      : nothing.has(now)
        ? value === null
        : value !== null && (isWhole ? isAsNear(Number(now), Number(value)) : Number(now) === Number(value));
    if (!isSame)
      differences.push({ key, what, before: value ?? "as it is", now: nothing.has(now) ? "as it is" : now, why });
  }
  return ok({ differences, missing });
}

/** Only code in whole numbers has these. */
const wholePattern = /^#define DEG\(x\)|^def deg\(n, over=1\):/m;

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
    ...machine.routines.flatMap((routine) => stepEdits(machine, routine, values)),
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

function stepEdits({ poses }: Machine, routine: MachineRoutine, values: ReadonlyMap<string, string>): readonly Edit[] {
  return routine.steps.flatMap((step, at) => {
    const of = (field: string) => values.get(`step/${routine.name}/${at}/${field}`);
    const [pose, moveMs, holdMs, staggerMs] = [of("pose"), of("move_ms"), of("hold_ms"), of("stagger_ms")];
    if (step.kind === "wait" || [pose, moveMs, holdMs, staggerMs].every((one) => one === undefined)) return [];
    const poseId = poses.find((one) => one.name === pose)?.id;
    return [
      changeStep(routine.id, step.stepId, "step", (before) => {
        if (before.kind === "hold") return holdMs === undefined ? before : { ...before, holdMs: Number(holdMs) };
        if (before.kind !== "move") return before;
        return {
          ...before,
          ...(poseId !== undefined && { poseId }),
          ...(moveMs !== undefined && { pace: { kind: "time" as const, moveMs: Number(moveMs) } }),
          ...(holdMs !== undefined && { holdMs: Number(holdMs) }),
          ...(staggerMs !== undefined && { staggerMs: Number(staggerMs) }),
        };
      }),
    ];
  });
}

interface Written {
  readonly key: string;
  readonly what: string;
  readonly value: string | null;
  readonly why: string | null;
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
function written(machine: Machine): readonly Written[] {
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
      };
    });
  });
  const poses = machine.poses.flatMap((pose) =>
    machine.joints.map((joint, at) => ({
      key: `pose/${pose.name}/${joint.name}`,
      what: `Pose ${pose.label}, ${joint.label}`,
      value: pose.targets[at] === null || pose.targets[at] === undefined ? null : String(pose.targets[at]),
      why: null,
    })),
  );
  return [...joints, ...poses, ...machine.routines.flatMap((routine) => writtenSteps(machine, routine))];
}

function writtenSteps(machine: Machine, { name, label, steps }: MachineRoutine): readonly Written[] {
  return steps.flatMap((step, at) => {
    const isOwn = (step.kind === "move" || step.kind === "hold") && !step.isWithin;
    const why = isOwn ? null : "it is of a routine within, or a wait: change it at station Routine";
    const row = rowOf(machine, step);
    return Object.entries(row).map(([field, value]) => ({
      key: `step/${name}/${at}/${field}`,
      what: `${label}, step ${at + 1}, ${field.replace("_ms", " ms").replace("_", " ")}`,
      value,
      why,
    }));
  });
}

const rowOf = ({ poses }: Machine, step: MachineStep): Readonly<Record<string, string>> =>
  step.kind === "move"
    ? {
        pose: poses[step.pose]?.name ?? "",
        move_ms: String(step.moveMs),
        hold_ms: String(step.holdMs),
        stagger_ms: String(step.staggerMs),
      }
    : { hold_ms: String(step.kind === "hold" ? step.holdMs : (step.timeoutMs ?? 0)) };

type Found = Map<string, string>;

/** The values in C, under the names that `written` gives them. What has no name of its own is known by the order of the text's own joints: the choice may have changed since. */
function inC(text: string): Found {
  const found: Found = new Map();
  const bare = text.replace(/\/\*[\s\S]*?\*\/|\/\/[^\n]*/g, " ");
  const joints: string[] = [];
  for (const [, name = "", body = ""] of bare.matchAll(/\[JOINT_(\w+)\]\s*=\s*\{([^{}]*)\}/g)) {
    // Other tables have rows for joints, too.
    if (!/\.\w+\s*=/.test(body)) continue;
    joints.push(name.toLowerCase());
    for (const [, field = "", value = ""] of body.matchAll(/\.(\w+)\s*=\s*([^,\n]+)/g))
      found.set(`joint/${name.toLowerCase()}/${field}`, value.trim());
  }
  for (const [, name = "", body = ""] of bare.matchAll(/\[POSE_(\w+)\]\s*=\s*\{([^{}]*)\}/g))
    poseRow(found, joints, name.toLowerCase(), body);
  for (const [, name = "", body = ""] of bare.matchAll(/\bStep (\w+)_steps\[\]\s*=\s*\{([\s\S]*?)\n\s*\};/g))
    stepRows(found, name, body, /\{([^{}]*)\}/g);
  return found;
}

/** The values in Python; its joints, poses and routines are called as the text's own constants number them. */
function inPython(text: string): Found {
  const found: Found = new Map();
  const bare = text.replace(/#[^\n]*/g, " ");
  const listOf = (name: string) => new RegExp(`^${name} = \\[\\n([\\s\\S]*?)^\\]`, "m").exec(bare)?.[1] ?? "";
  const namesOf = (prefix: string) => {
    const names: string[] = [];
    for (const [, name = "", at = ""] of bare.matchAll(new RegExp(`^${prefix}_(\\w+) *= *(\\d{1,4})\\s*$`, "gm")))
      names[Number(at)] = name.toLowerCase();
    return names;
  };
  const joints = namesOf("JOINT");
  for (const [at, body] of listOf("joints").split("Joint(").slice(1).entries()) {
    const name = joints[at];
    if (name === undefined) continue;
    for (const [, field = "", value = ""] of body.matchAll(/(\w+)=([^,()\n]+|\([^()\n]*\))/g)) {
      const [low = "", high = ""] = value
        .replace(/[()]/g, "")
        .split(",")
        .map((one) => one.trim());
      if (field !== "window") found.set(`joint/${name}/${field}`, value.trim());
      else found.set(`joint/${name}/window_low`, low).set(`joint/${name}/window_high`, high);
    }
  }
  const poses = namesOf("POSE");
  for (const [at, [, body = ""]] of [...listOf("poses").matchAll(/\(([^()]*)\)/g)].entries())
    if (poses[at] !== undefined) poseRow(found, joints, poses[at], body);
  const routines = namesOf("ROUTINE");
  for (const [at, body] of listOf("routines")
    .split(/\bRoutine\(/)
    .slice(1)
    .entries())
    if (routines[at] !== undefined) stepRows(found, routines[at], body, /\(((?:MOVE|HOLD|WAIT)[^()]*)\)/g);
  return found;
}

/** A pose's cells stand in the order of the joints of the same text; without those nobody knows whose they are. */
function poseRow(found: Found, joints: readonly string[], pose: string, body: string): void {
  const cells = body
    .replace(/,\s*$/, "")
    .split(",")
    .map((cell) => cell.trim());
  if (cells.length !== joints.length) return;
  for (const [at, joint] of joints.entries()) found.set(`pose/${pose}/${joint}`, cells[at] as string);
}

function stepRows(found: Found, routine: string, body: string, pattern: RegExp): void {
  const rows = [...body.matchAll(pattern)];
  found.set(`steps/${routine}`, String(rows.length));
  for (const [at, [, row = ""]] of rows.entries()) {
    const [kind, pose = "", moveMs = "", holdMs = "", staggerMs = ""] = row.split(",").map((cell) => cell.trim());
    const key = `step/${routine}/${at}`;
    found.set(`${key}/hold_ms`, holdMs);
    if (kind !== "MOVE") continue;
    found.set(`${key}/pose`, pose.replace(/^POSE_/, "").toLowerCase());
    found.set(`${key}/move_ms`, moveMs).set(`${key}/stagger_ms`, staggerMs);
  }
}
