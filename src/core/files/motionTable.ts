import { type Convention, conventionOf, numberIn } from "@core/numbers";
import type { Joint, Project } from "@core/project";
import { byId } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { jointMapOf } from "@core/rig";

/** In what the columns of a motion file are written. */
export type MotionUnit = "deg" | "setPoint" | "percent" | "spin";

/** Movement over time, ready to be a file or a take: one row of targets for each joint, in even frames. */
export interface Motion {
  readonly jointIds: readonly string[];
  readonly frameMs: number;
  readonly channels: readonly Float32Array[];
}

/** Movement as rows of cells: a column of time in seconds, and one for each joint, in degrees (or spin) or in what is sent. */
export function writeMotionTable(project: Project, motion: Motion, unit: "deg" | "setPoint"): string[][] {
  const joints = motion.jointIds.map((id) => byId(project.joints, id));
  const converters = joints.map((joint) => converterOf(project, joint, unit === "deg" ? "deg" : "setPoint"));
  const head = joints.map((joint) => `${joint.label} (${unitWord(project, joint, unit)})`);
  const frames = motion.channels[0]?.length ?? 0;
  const decimals = Math.max(3, Math.ceil(-Math.log10(motion.frameMs / 1000)) + 2);
  const rows: string[][] = [["time (s)", ...head]];
  for (let frame = 0; frame < frames; frame += 1)
    rows.push([
      ((frame * motion.frameMs) / 1000).toFixed(decimals),
      ...motion.channels.map((channel, at) => (converters[at]?.from(channel[frame] as number) ?? 0).toFixed(3)),
    ]);
  return rows;
}

/** Movement as JSON, for programs of one's own: the same numbers, with ids. */
export const writeMotionJson = (project: Project, name: string, motion: Motion): string =>
  `${JSON.stringify({
    format: "vantel-motion",
    version: 1,
    name,
    frameMs: motion.frameMs,
    joints: motion.jointIds.map((id, at) => {
      const joint = byId(project.joints, id);
      return {
        id,
        label: joint.label,
        unit: joint.axis.kind === "angle" ? "degrees" : "spin",
        targets: Array.from(motion.channels[at] ?? [], (target) => Math.round(target * 1000) / 1000),
      };
    }),
  })}\n`;

function unitWord(project: Project, joint: Joint, unit: "deg" | "setPoint"): string {
  if (unit === "deg") return joint.axis.kind === "angle" ? "deg" : "spin";
  return byId(project.cards, joint.cardId).kind === "smart" ? "ticks" : "us";
}

/** How one column of a file from elsewhere is to be read. */
export interface MotionColumn {
  /** Its place in the rows. */
  readonly at: number;
  readonly head: string;
  /** The joint it is for; null to leave it out. */
  readonly jointId: string | null;
  readonly unit: MotionUnit;
  readonly low: number;
  readonly high: number;
}

/** What a file from elsewhere seems to hold: nothing of it is taken before a person has agreed. */
export interface MotionGuess {
  /** Whether its numbers have decimal points or commas, and one that would be another number in the other way, if that is not clear. */
  readonly convention: Convention;
  readonly doubtful: string | null;
  /** NaN where a cell of a column is no number: the movement goes straight on over it. */
  readonly rows: readonly (readonly number[])[];
  /** The place of the column that counts time; −1 where there is none, and rows are frames. */
  readonly timeAt: number;
  readonly timeUnit: "s" | "ms" | "frames";
  readonly columns: readonly MotionColumn[];
  /** Rows that were left out since their time is no number, or none of their cells is. */
  readonly skipped: number;
  /** The heads of columns that hold no numbers: remarks, or nothing. */
  readonly wordy: readonly string[];
}

const plain = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim();
/** A column of which fewer of the cells that say something are numbers is one of remarks. */
const leastNumbers = 0.5;

/**
 * Looks at the rows of a file: how its numbers are written (or as they are said to be), which column is time and in what, which is which joint, and in
 * what unit each seems to be. Columns without numbers are left out, and said.
 */
export function guessMotion(
  project: Project,
  rows: readonly (readonly string[])[],
  said: Convention | null = null,
): Result<MotionGuess> {
  const first = rows[0];
  if (!first) return problem("The file is empty.");
  const found = conventionOf(rows.flat());
  const convention = said ?? found.convention;
  const read = (cell: string | undefined) => numberIn(cell ?? "", convention);
  const hasHead = first.some((cell) => cell.trim() !== "" && Number.isNaN(read(cell)));
  const head = hasHead ? [...first] : first.map((_, at) => `column ${at + 1}`);
  const lines = hasHead ? rows.slice(1) : rows;
  const body = lines.map((row) => head.map((_, at) => read(row[at])));
  const isNumeric = head.map((_, at) => {
    const filled = lines.filter((row) => (row[at] ?? "").trim() !== "").length;
    const numbers = body.filter((row) => Number.isFinite(row[at])).length;
    return numbers >= 2 && numbers >= leastNumbers * filled;
  });
  const usable = body.filter((row) => row.some((value, at) => isNumeric[at] && Number.isFinite(value)));
  if (usable.length < 2) return problem("There are not two rows of numbers in it.");
  const rises = (at: number) => {
    const times = usable.map((row) => row[at] as number).filter(Number.isFinite);
    const isUp = times.every((time, place) => place === 0 || time >= (times[place - 1] as number));
    return isNumeric[at] === true && isUp && (times.at(-1) as number) > (times[0] as number);
  };
  const named = head.findIndex((name) => /^(time|t|timestamp|ms|s|sec|seconds|frame|frames)\b/.test(plain(name)));
  const timeAt = named >= 0 && rises(named) ? named : isNumeric.filter(Boolean).length > 1 && rises(0) ? 0 : -1;
  const whole = timeAt < 0 ? usable : usable.filter((row) => Number.isFinite(row[timeAt]));
  const steps = whole.slice(1).map((row, at) => (row[timeAt] ?? 0) - (whole[at]?.[timeAt] ?? 0));
  const usual = steps.toSorted((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 1;
  const columns = head.flatMap((name, at): MotionColumn[] => {
    if (at === timeAt || !isNumeric[at]) return [];
    const values = whole.map((row) => row[at] as number).filter(Number.isFinite);
    const low = values.reduce((least, value) => Math.min(least, value), Number.POSITIVE_INFINITY);
    const high = values.reduce((most, value) => Math.max(most, value), Number.NEGATIVE_INFINITY);
    const joint = jointNamed(project, name);
    return [
      {
        at,
        head: name.trim(),
        jointId: joint?.id ?? null,
        unit: guessUnit(project, joint, name, low, high),
        low,
        high,
      },
    ];
  });
  return ok({
    rows: whole,
    timeAt,
    timeUnit: timeAt < 0 ? "frames" : guessTimeUnit(head[timeAt] ?? "", usual),
    columns,
    skipped: body.length - whole.length,
    convention,
    doubtful: found.doubtful,
    // One without a name and without a number is the comma at every row's end.
    wordy: head.filter((name, at) => !isNumeric[at] && name.trim() !== ""),
  });
}

function jointNamed(project: Project, head: string): Joint | undefined {
  const name = plain(head.replace(/\(.*\)|\[.*\]/g, ""));
  const isIt = (joint: Joint) => plain(joint.label) === name || plain(joint.id) === name;
  return project.joints.find(isIt) ?? project.joints.find((joint) => name.startsWith(plain(joint.label)));
}

function guessTimeUnit(head: string, usualStep: number): MotionGuess["timeUnit"] {
  const name = plain(head);
  if (/\bms\b|milli/.test(name)) return "ms";
  if (/frame/.test(name)) return "frames";
  if (/\bs\b|sec/.test(name)) return "s";
  if (usualStep === 1) return "frames";
  return usualStep > 1 ? "ms" : "s";
}

function guessUnit(project: Project, joint: Joint | undefined, head: string, low: number, high: number): MotionUnit {
  const name = plain(head);
  if (/\b(us|µs|pulse|ticks?)\b/.test(name)) return "setPoint";
  if (/percent|\bpct\b|%/.test(head.toLowerCase())) return "percent";
  if (/\bdeg\b|degrees|°/.test(head.toLowerCase())) return "deg";
  if (joint?.axis.kind === "spin") return low >= -1 && high <= 1 ? "spin" : "setPoint";
  if (!joint) return low >= 400 && high <= 2600 && high > 700 ? "setPoint" : "deg";
  const { window } = byId(project.cards, joint.cardId);
  return high > 360 && low >= window.low * 0.9 && high <= window.high * 1.1 ? "setPoint" : "deg";
}

interface Converter {
  readonly to: (value: number) => number;
  readonly from: (target: number) => number;
}

function converterOf(project: Project, joint: Joint, unit: MotionUnit): Converter {
  if (unit === "deg" || unit === "spin") return { to: (value) => value, from: (target) => target };
  const map = jointMapOf(joint, byId(project.cards, joint.cardId));
  if (unit === "setPoint") return { to: map.toTarget, from: map.toSetPoint };
  const span = map.highTarget - map.lowTarget;
  return {
    to: (value) => map.lowTarget + (value / 100) * span,
    from: (target) => ((target - map.lowTarget) / span) * 100,
  };
}

/**
 * Takes a file in as a person has agreed: columns to joints, units, and time. The rows may be uneven; the movement is laid on even frames
 * of `frameMs`, on the straight lines between rows. `rowMs` is how long a frame of the file is, where it counts frames.
 */
export function motionFrom(
  project: Project,
  guess: MotionGuess,
  { rowMs, frameMs }: { readonly rowMs: number; readonly frameMs: number },
): Result<Motion> {
  const chosen = guess.columns.filter((column) => column.jointId !== null);
  if (chosen.length === 0) return problem("Choose a joint for at least one column.");
  const twice = chosen.find((one, at) => chosen.findIndex((other) => other.jointId === one.jointId) !== at);
  if (twice)
    return problem(`${byId(project.joints, twice.jointId ?? "").label} has two columns. Leave one of them out.`);
  const factor = guess.timeUnit === "s" ? 1000 : guess.timeUnit === "ms" ? 1 : rowMs;
  const firstTime = guess.rows[0]?.[guess.timeAt] ?? 0;
  const times = guess.rows.map(
    (row, at) => (guess.timeAt < 0 ? at : (row[guess.timeAt] as number) - firstTime) * factor,
  );
  const lengthMs = times.at(-1) ?? 0;
  // A time that was rounded when it was written loses no frame, and what ends between two frames ends on the next.
  const frames = Math.ceil(lengthMs / frameMs - 1e-3) + 1;
  if (frames > 200_000)
    return problem(`It is ${(lengthMs / 3_600_000).toFixed(1)} hours long: see to the unit of its time.`);
  const channels = chosen.map((column) => {
    const { to } = converterOf(project, byId(project.joints, column.jointId ?? ""), column.unit);
    const channel = new Float32Array(frames);
    const known = guess.rows.flatMap((row, at) => {
      const value = row[column.at] as number;
      return Number.isFinite(value) ? [{ ms: times[at] as number, value }] : [];
    });
    let at = 0;
    for (let frame = 0; frame < frames; frame += 1) {
      const ms = frame * frameMs;
      while (at < known.length - 2 && (known[at + 1]?.ms as number) <= ms) at += 1;
      const from = known[at] as (typeof known)[number];
      const till = known[at + 1] ?? from;
      // Of two rows at the same moment the later counts from there on.
      const share = till.ms > from.ms ? Math.min(1, Math.max(0, (ms - from.ms) / (till.ms - from.ms))) : 1;
      channel[frame] = to(from.value + (till.value - from.value) * share);
    }
    return channel;
  });
  return ok({ jointIds: chosen.map((column) => column.jointId ?? ""), frameMs, channels });
}

/** How long the frames of a file are, in ms, where they are even and of a length that a take may have; else null. `rowMs` as above. */
export function evenFrameMs(guess: MotionGuess, rowMs: number): number | null {
  const factor = guess.timeUnit === "s" ? 1000 : guess.timeUnit === "ms" ? 1 : rowMs;
  const times = guess.rows.map((row, at) => (guess.timeAt < 0 ? at : (row[guess.timeAt] as number)) * factor);
  const meanMs = ((times.at(-1) ?? 0) - (times[0] ?? 0)) / Math.max(1, times.length - 1);
  const isEven = times.every((ms, at) => Math.abs(ms - (times[0] as number) - at * meanMs) <= 0.02 * meanMs);
  return isEven && meanMs >= 5 && meanMs <= 100 ? meanMs : null;
}
