import type { Project } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import type { JointMap } from "@core/rig";
import { type Plan, planPose, planRoutine } from "@core/routine";
import type { Command } from "./commands";

type MotionCommand = Extract<Command, { kind: "home" | "target" | "setPoint" | "jog" }>;
type PlayCommand = Extract<Command, { kind: "play" | "goToPose" }>;

/** The target that a command of motion asks for, from the wish that stands now. */
export function wishOf(command: MotionCommand, map: JointMap, wish: number): number {
  switch (command.kind) {
    case "home":
      return map.homeTarget;
    case "target":
      return command.target;
    case "setPoint":
      return map.toTarget(command.setPoint);
    case "jog": {
      const to = command.in === "target" ? wish + command.by : map.toTarget(map.toSetPoint(wish) + command.by);
      return Math.max(map.lowTarget, Math.min(map.highTarget, to));
    }
  }
}

/** What is to be played; refused in words when it is gone or empty. */
export function planOf(project: Project | null, command: PlayCommand): Result<Plan> {
  if (command.kind === "goToPose") {
    const pose = project?.poses.find((candidate) => candidate.id === command.poseId);
    if (!project || !pose) return problem("That pose is no longer on the bench.");
    if (!(command.moveMs >= 0)) return problem("A move takes 0 s or longer.");
    return ok(planPose(project, pose, command.moveMs));
  }
  const routine = project?.routines.find((candidate) => candidate.id === command.routineId);
  if (!project || !routine) return problem("That routine is no longer on the bench.");
  if (routine.steps.length === 0) return problem(`${routine.name} has no moves yet. Add one first.`);
  return ok(planRoutine(project, routine));
}
