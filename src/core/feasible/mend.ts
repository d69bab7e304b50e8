import { changeClip, changeStep, type Edit, type Routine, setKeys, setPoseTarget } from "@core/project";
import type { Step, StepOf } from "@core/steps";
import type { Mend } from "./finding";

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
      return changeClip(routine.id, mend.clipId, "fades", (clip) => {
        const fadeInMs = Math.max(clip.fadeInMs, mend.fadeInMs);
        const fadeOutMs = Math.max(clip.fadeOutMs, mend.fadeOutMs);
        // Together they are no longer than the clip.
        const fits = Math.min(
          1,
          ((clip.toMs - clip.fromMs) * clip.stretch * 0.999) / Math.max(fadeInMs + fadeOutMs, 1),
        );
        return { ...clip, fadeInMs: fadeInMs * fits, fadeOutMs: fadeOutMs * fits };
      });
    default:
      return laneEdit(routine, mend);
  }
}

function laneEdit(
  routine: Routine,
  mend: Extract<Mend, { kind: "lane" | "laneSoft" | "laneWithin" | "laneKey" }>,
): Edit {
  const keys = routine.lanes.find((lane) => lane.jointId === mend.jointId)?.keys ?? [];
  switch (mend.kind) {
    case "lane":
      return setKeys(
        routine.id,
        mend.jointId,
        keys.map((key) => ({ ...key, atMs: later(key.atMs, mend) })),
        "Give keys more time",
      );
    case "laneSoft":
      return setKeys(
        routine.id,
        mend.jointId,
        keys.map((key) => (key.shape === "line" ? { ...key, shape: "smooth" } : key)),
        "Go through keys smoothly",
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
        [...keys, { atMs: mend.atMs, target: mend.target, shape: mend.shape }],
        "Add key",
      );
  }
}

/** Where a moment comes to lie when a stretch of time takes so many times as long. */
function later(atMs: number, { fromMs, toMs, factor }: { fromMs: number; toMs: number; factor: number }): number {
  const withinMs = Math.min(Math.max(atMs - fromMs, 0), toMs - fromMs);
  return atMs + withinMs * (factor - 1);
}
