import { byId, type Easing, type Pose, type Project, type Routine } from "@core/project";

/** One move of a plan: where which joints go, in how long, and the rest afterwards. Joints by their place in the project. */
export interface PlannedMove {
  readonly stepId: string;
  readonly joints: readonly number[];
  readonly targets: readonly number[];
  readonly moveMs: number;
  readonly holdMs: number;
  readonly easing: Easing;
}

/** A routine made ready to be played: ids looked up once, nothing left to find while it runs. */
export interface Plan {
  /** The routine's place in the project, or `poseMove` for a single move to a pose. */
  readonly routineIndex: number;
  readonly isLooped: boolean;
  readonly moves: readonly PlannedMove[];
}

/** Stands in place of a routine's index while the bench only goes to one pose. */
export const poseMove = -2;
/** Stands in place of a routine's index while nothing plays. */
export const noRoutine = -1;

export function planRoutine(project: Project, routine: Routine): Plan {
  return {
    routineIndex: project.routines.indexOf(routine),
    isLooped: routine.loop,
    moves: routine.steps.map((step) => ({
      stepId: step.id,
      ...aimsOf(project, byId(project.poses, step.poseId)),
      moveMs: step.moveMs,
      holdMs: step.holdMs,
      easing: step.easing,
    })),
  };
}

export function planPose(project: Project, pose: Pose, moveMs: number): Plan {
  return {
    routineIndex: poseMove,
    isLooped: false,
    moves: [{ stepId: pose.id, ...aimsOf(project, pose), moveMs, holdMs: 0, easing: "soft" }],
  };
}

function aimsOf(project: Project, pose: Pose) {
  const aims = project.joints.flatMap((joint, index) => {
    const target = pose.targets[joint.id];
    return target === undefined ? [] : [{ index, target }];
  });
  return { joints: aims.map((aim) => aim.index), targets: aims.map((aim) => aim.target) };
}

/** How long one round lasts, in ms. */
export const roundMs = (routine: Routine): number =>
  routine.steps.reduce((sum, step) => sum + step.moveMs + step.holdMs, 0);
