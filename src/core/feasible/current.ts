import { isTurning, jointsFedBy, netOf, startMs } from "@core/power";
import type { Project, Supply } from "@core/project";
import type { Motor } from "./motors";

/** What a supply gives over the time of a routine, in mA. */
export interface SupplyCurrent {
  readonly supply: Supply;
  /** The joints that it feeds, by id. */
  readonly fed: ReadonlySet<string>;
  readonly stepMs: number;
  readonly totalMa: Float32Array;
  readonly highestMa: number;
}

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
  const net = netOf(project);
  return project.supplies.map((supply) => {
    const fed = new Set(jointsFedBy(net, supply.id));
    const totalMa = new Float32Array(length);
    for (const [place, motor] of motors.entries()) {
      if (!fed.has(motor.joint.id)) continue;
      const targets = asked.get(place);
      if (targets) addMoving(totalMa, targets, motor, stepMs);
      else for (let at = 0; at < length; at += 1) totalMa[at] = (totalMa[at] as number) + motor.idleMa;
    }
    return { supply, fed, stepMs, totalMa, highestMa: totalMa.reduce((most, ma) => Math.max(most, ma), 0) };
  });
}

function addMoving(totalMa: Float32Array, targets: Float32Array, motor: Motor, stepMs: number): void {
  const isSpin = motor.joint.axis.kind === "spin";
  let turningMs = 0;
  for (let at = 0; at < totalMa.length; at += 1) {
    const target = targets[at] as number;
    const turns = isTurning(target, targets[at + 1] ?? target, isSpin);
    turningMs = turns ? turningMs + stepMs : 0;
    const drawnMa = !turns ? motor.idleMa : turningMs <= startMs ? motor.startingMa : motor.movingMa;
    totalMa[at] = (totalMa[at] as number) + drawnMa;
  }
}
