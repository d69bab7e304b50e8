import {
  allOf,
  changeClip,
  changeStep,
  type Edit,
  type Project,
  type Routine,
  type Step,
  type StepOf,
  setKeys,
  setPoseTarget,
  type TakeLibrary,
} from "@core/project";
import { readyScore } from "@core/routine";
import { examine } from "./examine";
import type { Finding, Mend } from "./finding";

/** The edit that a mend stands for. */
export function mendEdit(routine: Routine, mend: Mend): Edit {
  const move = (stepId: string, what: string, change: (step: StepOf<"move">) => Step) =>
    changeStep(routine.id, stepId, what, (step) => (step.kind === "move" ? change(step) : step));
  switch (mend.kind) {
    case "moveMs":
      return move(mend.stepId, "time", (step) => ({ ...step, pace: { kind: "time", moveMs: mend.moveMs } }));
    case "speed":
      return move(mend.stepId, "speed", (step) => ({ ...step, pace: { kind: "speed", degPerS: mend.degPerS } }));
    case "soft":
      return move(mend.stepId, "easing", (step) => ({
        ...step,
        pace: { kind: "time", moveMs: mend.moveMs },
        easing: { kind: "leastJerk" },
      }));
    case "holdMs":
      return move(mend.stepId, "hold", (step) => ({ ...step, holdMs: mend.holdMs }));
    case "stagger":
      return move(mend.stepId, "stagger", (step) => ({ ...step, staggerMs: mend.staggerMs }));
    case "delay":
      return move(mend.stepId, "delay", (step) => ({
        ...step,
        delaysMs: { ...step.delaysMs, [mend.jointId]: mend.delayMs },
      }));
    case "poseTarget":
      return setPoseTarget(mend.poseId, mend.jointId, mend.target);
    case "clip":
      return changeClip(routine.id, mend.clipId, "stretch", (clip) => ({ ...clip, stretch: mend.stretch }));
    case "fade":
      return changeClip(routine.id, mend.clipId, "fades", (clip) => ({
        ...clip,
        fadeInMs: Math.max(clip.fadeInMs, mend.fadeInMs),
        fadeOutMs: Math.max(clip.fadeOutMs, mend.fadeOutMs),
      }));
    default:
      return laneEdit(routine, mend);
  }
}

function laneEdit(routine: Routine, mend: Extract<Mend, { kind: "lane" | "laneWithin" | "laneKey" }>): Edit {
  const keys = routine.lanes.find((lane) => lane.jointId === mend.jointId)?.keys ?? [];
  switch (mend.kind) {
    case "lane":
      return setKeys(
        routine.id,
        mend.jointId,
        keys.map((key) => ({ ...key, atMs: later(key.atMs, mend) })),
        "Give keys more time",
      );
    case "laneWithin":
      return setKeys(
        routine.id,
        mend.jointId,
        keys.map((key) => ({ ...key, target: Math.min(mend.high, Math.max(mend.low, key.target)) })),
        "Draw keys in",
      );
    case "laneKey":
      return setKeys(
        routine.id,
        mend.jointId,
        [...keys, { atMs: mend.atMs, target: mend.target, shape: "smooth" }],
        "Add key",
      );
  }
}

/** Where a moment comes to lie when a stretch of time takes so many times as long. */
function later(atMs: number, { fromMs, toMs, factor }: { fromMs: number; toMs: number; factor: number }): number {
  const withinMs = Math.min(Math.max(atMs - fromMs, 0), toMs - fromMs);
  return atMs + withinMs * (factor - 1);
}

/** The mends that give something more time. */
const stretches = new Set<Mend["kind"]>(["moveMs", "clip", "lane", "soft", "speed"]);
const tooFast = new Set<Finding["kind"]>(["speed", "acceleration", "jump"]);

/**
 * Gives all that is too fast as much time as it needs, in one step to undo. Each round mends the worst of every step, clip
 * and lane; stretching one thing may show another, so it is looked at again, at most twenty times.
 */
export const stretchToFeasible = (routineId: string, takes: TakeLibrary): Edit => ({
  name: "Stretch to feasible",
  apply: (project) => {
    let now: Project = project;
    for (let round = 0; round < 20; round += 1) {
      const routine = now.routines.find((one) => one.id === routineId);
      const score = routine && readyScore(now, routine, takes);
      if (!routine || !score?.ok) break;
      const { findings } = examine(now, score.value, { hasGhost: false });
      const chosen = new Map<string, Mend>();
      for (const finding of findings.filter((one) => tooFast.has(one.kind)))
        for (const mend of finding.mends.filter((one) => stretches.has(one.kind)).slice(0, 1)) {
          const place = "stepId" in mend ? mend.stepId : "clipId" in mend ? mend.clipId : `${finding.jointId}`;
          const before = chosen.get(place);
          if (!before || moreTime(mend, before)) chosen.set(place, mend);
        }
      if (chosen.size === 0) break;
      const mended = allOf(
        "",
        [...chosen.values()].map((mend) => mendEdit(routine, mend)),
      ).apply(now);
      if (!mended.ok) return mended;
      now = mended.value;
    }
    return { ok: true, value: now };
  },
});

const moreTime = (a: Mend, b: Mend): boolean => timeOf(a) > timeOf(b);

const timeOf = (mend: Mend): number =>
  mend.kind === "moveMs" || mend.kind === "soft"
    ? mend.moveMs
    : mend.kind === "clip"
      ? mend.stretch
      : mend.kind === "lane"
        ? mend.factor
        : mend.kind === "speed"
          ? -mend.degPerS
          : 0;
