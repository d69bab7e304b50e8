import { changeStep, type Edit, type Pose, type Routine, setPoseTarget, setPoseTargets } from "@core/project";
import type { Vector } from "@core/shapes";
import type { StepOf } from "@core/steps";
import { mendKind, seconds } from "./mendKind";

interface OfStep {
  readonly stepId: string;
}

const ofMove = (
  routine: Routine,
  { stepId }: OfStep,
  what: string,
  change: (step: StepOf<"move">) => StepOf<"move">,
): Edit => changeStep(routine.id, stepId, what, (step) => (step.kind === "move" ? change(step) : step));

/** Mends of a move, and of the pose that it goes to. */
export const moveMends = {
  /** Gives a move so much time. */
  moveMs: mendKind<OfStep & { readonly moveMs: number }>({
    words: ({ moveMs }) => `Give it ${seconds(moveMs)}`,
    edit: (routine, mend) =>
      ofMove(routine, mend, "time", (step) => ({
        ...step,
        pace: { kind: "time", moveMs: mend.moveMs },
        ...(step.path && { path: { ...step.path, mmPerS: null } }),
      })),
  }),
  /** Lets a move take its time from a mean speed. */
  speed: mendKind<OfStep & { readonly degPerS: number }>({
    words: ({ degPerS }) => `Let it go at ${Math.floor(degPerS)} °/s`,
    edit: (routine, mend) =>
      ofMove(routine, mend, "speed", (step) => ({ ...step, pace: { kind: "speed", degPerS: mend.degPerS } })),
  }),
  soft: mendKind<OfStep & { readonly moveMs: number }>({
    words: ({ moveMs }) => `Start and end softly, in ${seconds(moveMs)}`,
    edit: (routine, mend) =>
      ofMove(routine, mend, "easing", (step) => ({
        ...step,
        pace: { kind: "time", moveMs: mend.moveMs },
        easing: { kind: "leastJerk" },
      })),
  }),
  holdMs: mendKind<OfStep & { readonly holdMs: number }>({
    words: ({ holdMs }) => `Hold for ${seconds(holdMs)}`,
    edit: (routine, mend) => ofMove(routine, mend, "hold", (step) => ({ ...step, holdMs: mend.holdMs })),
  }),
  stagger: mendKind<OfStep & { readonly staggerMs: number }>({
    words: ({ staggerMs }) => `Start one after another, ${Math.round(staggerMs)} ms apart`,
    edit: (routine, mend) => ofMove(routine, mend, "stagger", (step) => ({ ...step, staggerMs: mend.staggerMs })),
  }),
  delay: mendKind<OfStep & { readonly jointId: string; readonly delayMs: number }>({
    words: ({ delayMs }) => `Let it wait ${seconds(delayMs)}`,
    edit: (routine, mend) =>
      ofMove(routine, mend, "delay", (step) => ({
        ...step,
        delaysMs: { ...step.delaysMs, [mend.jointId]: mend.delayMs },
      })),
  }),
  /** Leads a tip at another speed. */
  waySpeed: mendKind<OfStep & { readonly mmPerS: number }>({
    words: ({ mmPerS }) => `Lead it at ${mmPerS} mm/s`,
    edit: (routine, mend) =>
      ofMove(routine, mend, "way", (step) =>
        step.path ? { ...step, path: { ...step.path, mmPerS: mend.mmPerS } } : step,
      ),
  }),
  /** All others of a move wait until this one has arrived. */
  goesFirst: mendKind<
    OfStep & { readonly label: string; readonly others: readonly string[]; readonly delayMs: number }
  >({
    words: ({ label }) => `Let ${label} go first`,
    edit: (routine, mend) =>
      ofMove(routine, mend, "delays", (step) => ({
        ...step,
        delaysMs: { ...step.delaysMs, ...Object.fromEntries(mend.others.map((id) => [id, mend.delayMs])) },
      })),
  }),
  goesLast: mendKind<OfStep & { readonly jointId: string; readonly label: string; readonly delayMs: number }>({
    words: ({ label }) => `Let ${label} go last`,
    edit: (routine, mend) =>
      ofMove(routine, mend, "delay", (step) => ({
        ...step,
        delaysMs: { ...step.delaysMs, [mend.jointId]: mend.delayMs },
      })),
  }),
  /** Leads a tip round through a place. */
  roundBy: mendKind<OfStep & { readonly tipId: string; readonly viaMm: Vector }>({
    words: ({ viaMm }) => `Lead it round by ${viaMm.map((value) => Math.round(value)).join(", ")} mm`,
    edit: (routine, mend) =>
      ofMove(routine, mend, "way", (step) => ({
        ...step,
        path: { mmPerS: null, ...step.path, tipId: mend.tipId, viaMm: mend.viaMm },
      })),
  }),
  /** Keeps only to how a tip rises over the level on its way. */
  keepsTilt: mendKind<OfStep>({
    words: () => "Let it keep its tilt alone",
    edit: (routine, mend) =>
      ofMove(routine, mend, "way", (step) =>
        step.path ? { ...step, path: { ...step.path, pointing: "tilt" } } : step,
      ),
  }),
  /** Leaves open how a tip points on its way. */
  pointsFreely: mendKind<OfStep>({
    words: () => "Let it point as it comes",
    edit: (routine, mend) =>
      ofMove(routine, mend, "way", ({ path, ...step }) => {
        if (!path) return step;
        const { pointing: _, ...way } = path;
        return { ...step, path: way };
      }),
  }),
  anyWay: mendKind<OfStep>({
    words: () => "Let it go any way",
    edit: (routine, mend) => ofMove(routine, mend, "way", ({ path: _, ...step }) => step),
  }),
  /** Gives a pose the stance in which a led tip comes to the same place. */
  arrivesAs: mendKind<{ readonly poseId: string; readonly poseName: string; readonly targets: Pose["targets"] }>({
    words: ({ poseName }) => `Let ${poseName} have the stance in which it arrives`,
    edit: (_, { poseId, targets }) => setPoseTargets("Edit pose", new Map([[poseId, targets]])),
  }),
  /** Changes where a pose has a joint. */
  poseTarget: mendKind<{ readonly poseId: string; readonly jointId: string; readonly target: number }>({
    words: ({ target }) => `Make it ${target.toFixed(1)}° in the pose`,
    edit: (_, { poseId, jointId, target }) => setPoseTarget(poseId, jointId, target),
  }),
};
