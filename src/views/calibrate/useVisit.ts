import type { CheckStep } from "@core/calibrate";
import { ratedSpeedDegPerS } from "@core/servo";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint } from "@stores/live";
import { useEffect, useState } from "react";

/** Time for a horn to come to rest after it has arrived. */
const restMs = 350;

/** Sends a joint to a place from the side it is to be come from; says when it should have got there. */
export function useVisit({ joint, card, map }: JointBench, step: CheckStep | null): "on its way" | "there" {
  // Kept with the step it belongs to: the next step is not there because the one before it was.
  const [arrived, setArrived] = useState<CheckStep | null>(null);
  useEffect(() => {
    setArrived(null);
    if (!step) return;
    const speed = Math.min(map.fastestPerS, ratedSpeedDegPerS(card));
    const msFor = (deg: number) => (1200 * Math.abs(deg)) / speed + restMs;
    const go = (target: number) => command({ kind: "target", jointId: joint.id, target });
    const standsAt = liveJoint(joint.id, "target");
    const approachMs = standsAt === step.approachDeg ? 0 : msFor(step.approachDeg - standsAt);
    go(step.approachDeg);
    const second = setTimeout(() => go(step.targetDeg), approachMs);
    const arrival = setTimeout(() => setArrived(step), approachMs + msFor(step.targetDeg - step.approachDeg));
    return () => {
      clearTimeout(second);
      clearTimeout(arrival);
    };
  }, [joint.id, card, map, step]);
  return step !== null && arrived === step ? "there" : "on its way";
}
