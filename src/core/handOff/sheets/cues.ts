import { easingNames } from "@core/easings";
import { byId, type Project, type Routine, type TakeLibrary } from "@core/project";
import { jointMapOf } from "@core/rig";
import { readyScore, roundMs, type Score, sampleTrack } from "@core/routine";
import { type Names, type Step, stepWords } from "@core/steps";
import { paginate } from "./paginate";

/** One step of a routine as a person behind the stage follows it. */
export interface CueRow {
  readonly number: number;
  readonly atMs: number;
  readonly words: string;
  readonly moveMs: number | null;
  readonly holdMs: number | null;
  readonly how: string;
  /** The pose that it goes to, for its picture. */
  readonly poseId: string | null;
}

/** What each joint does over the whole routine: shares of its travel, evenly over the time. */
export interface CueStrip {
  readonly lengthMs: number;
  readonly joints: readonly { readonly label: string; readonly shares: readonly number[] }[];
}

export interface CuePage {
  readonly kind: "cues";
  readonly routine: string;
  readonly about: string;
  /** On the first page of a routine. */
  readonly strip: CueStrip | null;
  readonly rows: readonly CueRow[];
  /** Why it cannot be drawn; null where it can. */
  readonly problem: string | null;
}

export const cueRowMm = 9;
export const cueHeadMm = 20;
export const stripMm = (joints: number): number => 12 + joints * 8;
/** So many joints have a line of their own in the strip. */
const mostStrips = 14;
const looks = 240;

export function cuePages(project: Project, takes: TakeLibrary, room: number): readonly CuePage[] {
  return project.routines.flatMap((routine) => pagesOf(project, routine, takes, room));
}

function pagesOf(project: Project, routine: Routine, takes: TakeLibrary, room: number): readonly CuePage[] {
  const ready = readyScore(project, routine, takes);
  const bare = { kind: "cues", routine: routine.name } as const;
  if (!ready.ok) return [{ ...bare, about: "", strip: null, rows: [], problem: ready.problem }];
  const score = ready.value;
  const strip = stripOf(project, score);
  const rows = rowsOf(project, score);
  const first = { isStrip: true } as const;
  const height = (item: CueRow | typeof first) =>
    "isStrip" in item ? cueHeadMm + stripMm(strip.joints.length) + cueRowMm : cueRowMm;
  const pages = paginate<CueRow | typeof first>([first, ...rows], height, room - cueHeadMm);
  return pages.map((items) => ({
    ...bare,
    about: aboutOf(score),
    strip: items.includes(first) ? strip : null,
    rows: items.filter((item): item is CueRow => !("isStrip" in item)),
    problem: null,
  }));
}

function aboutOf(score: Score): string {
  const { repeat, isThereAndBack, atEnd } = score.routine;
  return [
    `${secondsOf(roundMs(score))} s a round`,
    isThereAndBack ? "there and back" : "",
    repeat.kind === "forever" ? "without end" : repeat.times > 1 ? `${repeat.times} times` : "once",
    atEnd === "release" ? "joints are released at the end" : "joints are held at the end",
  ]
    .filter(Boolean)
    .join(", ");
}

const secondsOf = (ms: number) => String(Number((ms / 1000).toFixed(2)));

function rowsOf(project: Project, score: Score): readonly CueRow[] {
  const nameOf = (items: readonly { readonly id: string; readonly name: string }[], id: string) =>
    items.find((one) => one.id === id)?.name ?? "?";
  const names: Names = {
    pose: (id) => nameOf(project.poses, id),
    routine: (id) => nameOf(project.routines, id),
    source: (id) => project.sources.find((one) => one.id === id)?.label ?? "?",
  };
  return score.spans.map(({ step, fromMs, arriveMs, toMs }: Score["spans"][number], at) => ({
    number: at + 1,
    atMs: fromMs,
    words: stepWords(step, names),
    moveMs: step.kind === "move" ? arriveMs - fromMs : null,
    holdMs: step.kind === "move" ? toMs - arriveMs : step.kind === "hold" ? toMs - fromMs : null,
    how: howOf(step),
    poseId: step.kind === "move" ? step.poseId : null,
  }));
}

function howOf(step: Step): string {
  if (step.kind === "wait")
    return step.timeoutMs === null ? "for as long as it takes" : `${secondsOf(step.timeoutMs)} s at most`;
  if (step.kind !== "move") return "";
  const stagger = step.staggerMs > 0 ? `, each ${secondsOf(step.staggerMs)} s later` : "";
  return `${easingNames[step.easing.kind]}${stagger}`;
}

function stripOf(project: Project, score: Score): CueStrip {
  const stepMs = score.lengthMs / (looks - 1);
  const joints = score.tracks.slice(0, mostStrips).map((track, at) => {
    const joint = project.joints[track.joint] as Project["joints"][number];
    const map = jointMapOf(joint, byId(project.cards, joint.cardId));
    const samples = new Float32Array(looks);
    sampleTrack(track, score.starts[at] as number, 0, stepMs, samples);
    const shares = Array.from(samples, (target) =>
      Math.min(Math.max((target - map.lowTarget) / (map.highTarget - map.lowTarget), 0), 1),
    );
    return { label: joint.label, shares };
  });
  return { lengthMs: score.lengthMs, joints };
}
