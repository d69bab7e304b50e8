import { startMs } from "@core/power";
import type { Project, Side } from "@core/project";
import type { Score } from "@core/routine";
import type { SupplyCurrent } from "./current";
import type { Finding } from "./finding";
import type { Mend } from "./mend";
import type { Motor } from "./motors";
import { stepMs, stepUnder, stretchesOf } from "./sampling";

const isPast = (side: Side, target: number) => (side.side === "above" ? target > side.target : target < side.target);

/** Where joints that are to be kept apart would meet. */
export function meetings(
  project: Project,
  score: Score,
  motors: readonly Motor[],
  asked: ReadonlyMap<number, Float32Array>,
  length: number,
): Finding[] {
  const placeOf = (id: string) => motors.findIndex((motor) => motor.joint.id === id);
  const homeOf = (place: number) => motors[place]?.map.homeTarget ?? 0;
  return project.conditions.flatMap((condition) => {
    const [a, b] = [placeOf(condition.while.jointId), placeOf(condition.stays.jointId)];
    if (!asked.has(a) && !asked.has(b)) return [];
    const targetOf = (place: number, at: number) => asked.get(place)?.[at] ?? homeOf(place);
    const isBroken = (at: number) =>
      isPast(condition.while, targetOf(a, at)) &&
      !isPast(condition.stays, targetOf(b, at)) &&
      targetOf(b, at) !== condition.stays.target;
    return stretchesOf(length, isBroken).map(([from, to]): Finding => {
      const span = stepUnder(score, from * stepMs);
      const [one, other] = [motors[a]?.joint.label, motors[b]?.joint.label];
      const { side, target } = condition.stays;
      const mends: Mend[] = [];
      if (span?.step.kind === "move") {
        const { poseId, id } = span.step;
        const aim = project.poses.find((pose) => pose.id === poseId)?.targets[condition.stays.jointId];
        if (aim !== undefined && !isPast(condition.stays, aim))
          mends.push({ kind: "poseTarget", poseId, jointId: condition.stays.jointId, target });
        // It is only on the way that they meet: what comes into the other's way waits until that has gone.
        else
          mends.push({
            kind: "delay",
            stepId: id,
            jointId: condition.while.jointId,
            delayMs: span.arriveMs - span.fromMs,
          });
      }
      const while_ = `${condition.while.side} ${condition.while.target}°`;
      return {
        kind: "meeting",
        jointId: condition.stays.jointId,
        stepId: span?.step.id ?? null,
        fromMs: from * stepMs,
        toMs: to * stepMs,
        asked: targetOf(b, from),
        possible: target,
        sentence: `${one} is ${while_} while ${other} is not ${side} ${target}°: they would meet.`,
        mends,
      };
    });
  });
}

/** So far apart one has gathered speed before the next begins. */
const apartMs = startMs + stepMs;

/** Where a supply is asked for more than it can give. */
export function overloads(
  score: Score,
  motors: readonly Motor[],
  asked: ReadonlyMap<number, Float32Array>,
  currents: readonly SupplyCurrent[],
): Finding[] {
  return currents.flatMap(({ supply, fed: fedIds, totalMa, stepMs }) =>
    stretchesOf(totalMa.length, (at) => (totalMa[at] as number) > supply.limitMa, stepMs).map(([from, to]): Finding => {
      let worst = from;
      for (let at = from; at <= to; at += 1) if ((totalMa[at] as number) > (totalMa[worst] as number)) worst = at;
      const step = stepUnder(score, worst * stepMs)?.step;
      const highest = totalMa[worst] as number;
      const fed = [...asked.keys()].filter((place) => fedIds.has(motors[place]?.joint.id ?? ""));
      // One after another: each begins once the one before it has gathered speed.
      const mends: Mend[] =
        step?.kind === "move" && fed.length > 1 && step.staggerMs < apartMs
          ? [{ kind: "stagger", stepId: step.id, staggerMs: apartMs }]
          : [];
      return {
        kind: "current",
        jointId: null,
        stepId: step?.id ?? null,
        fromMs: from * stepMs,
        toMs: (to + 1) * stepMs,
        asked: highest,
        possible: supply.limitMa,
        sentence: `${supply.label} is asked for ${(highest / 1000).toFixed(1)} A, and can give ${(supply.limitMa / 1000).toFixed(1)} A.`,
        mends,
      };
    }),
  );
}
