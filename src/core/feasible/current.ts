import type { Project, Supply } from "@core/project";
import type { Motor } from "./motors";

/** What a supply gives over the time of a routine, in mA. */
export interface SupplyCurrent {
  readonly supply: Supply;
  readonly stepMs: number;
  readonly totalMa: Float32Array;
  readonly highestMa: number;
}

/** So long a servo that begins to turn draws what it draws when it is held fast. */
export const startMs = 60;
/** Slower than this, in targets per second, a servo counts as standing. */
const standing = 1;

/**
 * Adds up what all servos of a supply draw: those that stand, those that turn, and those that have just begun to. `asked` has the targets of
 * the joints that the routine moves, by their place; all others hold.
 */
export function supplyCurrents(
  project: Project,
  motors: readonly Motor[],
  asked: ReadonlyMap<number, Float32Array>,
  stepMs: number,
  length: number,
): SupplyCurrent[] {
  return project.supplies.map((supply) => {
    const totalMa = new Float32Array(length);
    for (const [place, motor] of motors.entries()) {
      if (!supply.boardIds.includes(motor.joint.boardId)) continue;
      const targets = asked.get(place);
      if (targets) addMoving(totalMa, targets, motor, stepMs);
      else for (let at = 0; at < length; at += 1) totalMa[at] = (totalMa[at] as number) + motor.idleMa;
    }
    return { supply, stepMs, totalMa, highestMa: totalMa.reduce((most, ma) => Math.max(most, ma), 0) };
  });
}

function addMoving(totalMa: Float32Array, targets: Float32Array, motor: Motor, stepMs: number): void {
  const isSpin = motor.joint.axis.kind === "spin";
  const slow = (standing * stepMs) / 1000;
  let turningMs = 0;
  for (let at = 0; at < totalMa.length; at += 1) {
    const target = targets[at] as number;
    const isTurning = isSpin ? target !== 0 : Math.abs((targets[at + 1] ?? target) - target) > slow;
    turningMs = isTurning ? turningMs + stepMs : 0;
    const drawnMa = !isTurning ? motor.idleMa : turningMs <= startMs ? motor.startingMa : motor.movingMa;
    totalMa[at] = (totalMa[at] as number) + drawnMa;
  }
}
