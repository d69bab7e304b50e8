import type { JointMap } from "@core/rig";
import type { Command } from "./commands";

type MotionCommand = Extract<Command, { kind: "home" | "target" | "setPoint" | "jog" }>;

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
