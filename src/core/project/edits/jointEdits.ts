import { ok, problem, type Result } from "@core/result";
import type { AngleAxis, Axis, Side, SpinAxis } from "../joint";
import { byId, type Project } from "../project";
import { changeItem, type Edit } from "./edit";

function changeAngleAxis(
  project: Project,
  jointId: string,
  change: (axis: AngleAxis) => Result<AngleAxis>,
): Result<Project> {
  const joint = byId(project.joints, jointId);
  if (joint.axis.kind !== "angle") return problem(`${joint.label} spins; it has no angles to set.`);
  const axis = change(joint.axis);
  return axis.ok ? changeItem(project, "joints", jointId, (before) => ({ ...before, axis: axis.value })) : axis;
}

/** Moves one or both travel limits; home follows so that it stays inside. Degrees of the joint. */
export const setTravel = (jointId: string, lowDeg: number, highDeg: number): Edit => ({
  name: "Set travel limits",
  mergeKey: `travel:${jointId}`,
  apply: (project) =>
    changeAngleAxis(project, jointId, (axis) =>
      lowDeg < highDeg
        ? {
            ok: true,
            value: {
              ...axis,
              travel: { low: lowDeg, high: highDeg },
              homeDeg: Math.min(Math.max(axis.homeDeg, lowDeg), highDeg),
            },
          }
        : problem(`The low limit (${lowDeg}°) must be below the high limit (${highDeg}°).`),
    ),
});

/** Sets the angle the joint goes to when sent home. Refused outside the travel limits. */
export const setHome = (jointId: string, homeDeg: number): Edit => ({
  name: "Set home",
  mergeKey: `home:${jointId}`,
  apply: (project) =>
    changeAngleAxis(project, jointId, (axis) =>
      homeDeg >= axis.travel.low && homeDeg <= axis.travel.high
        ? { ok: true, value: { ...axis, homeDeg } }
        : problem(`Home must lie within the travel limits, ${axis.travel.low}° to ${axis.travel.high}°.`),
    ),
});

/** Sets the fastest the gate lets this joint turn; null leaves it to the servo. */
export const setSpeedLimit = (jointId: string, speedLimitDegPerS: number | null): Edit => ({
  name: "Set speed limit",
  mergeKey: `speed:${jointId}`,
  apply: (project) =>
    changeAngleAxis(project, jointId, (axis) =>
      speedLimitDegPerS === null || speedLimitDegPerS > 0
        ? { ok: true, value: { ...axis, speedLimitDegPerS } }
        : problem("A speed limit is more than 0 °/s."),
    ),
});

/** The other way round, without a zero that has a sign. */
const mirrored = (target: number) => 0 - target;

function flipped(axis: Axis): Axis {
  const direction = axis.direction === 1 ? -1 : 1;
  if (axis.kind === "spin") return { ...axis, direction };
  const { travel, homeDeg } = axis;
  return {
    ...axis,
    direction,
    travel: { low: mirrored(travel.high), high: mirrored(travel.low) },
    homeDeg: mirrored(homeDeg),
  };
}

/**
 * Turns the joint's positive direction round. Its limits, its home and what it must not meet stay where they are on the machine, so that their numbers
 * change sign: kept as they were, they would let it go where nobody has looked.
 */
export const flipDirection = (jointId: string): Edit => ({
  name: "Reverse direction",
  apply: (project) => {
    const sideOf = (side: Side): Side =>
      side.jointId === jointId
        ? { ...side, side: side.side === "above" ? "below" : "above", target: mirrored(side.target) }
        : side;
    const turned = changeItem(project, "joints", jointId, (joint) => ({ ...joint, axis: flipped(joint.axis) }));
    const isKeptApart = project.conditions.some((one) => [one.while.jointId, one.stays.jointId].includes(jointId));
    if (!turned.ok || !isKeptApart) return turned;
    const conditions = project.conditions.map((one) => ({
      ...one,
      while: sideOf(one.while),
      stays: sideOf(one.stays),
    }));
    return ok({ ...turned.value, conditions });
  },
});

function changeSpinAxis(project: Project, jointId: string, change: Partial<SpinAxis>): Result<Project> {
  const { label, axis } = byId(project.joints, jointId);
  if (axis.kind !== "spin") return problem(`${label} has angles; it does not turn on.`);
  return changeItem(project, "joints", jointId, (joint) => ({ ...joint, axis: { ...axis, ...change } }));
}

/** Sets the largest share of full speed that may be asked for, either way: more than 0, at most 1. */
export const setSpinLimit = (jointId: string, limit: number): Edit => ({
  name: "Set the fastest spin",
  mergeKey: `spin:${jointId}`,
  apply: (project) =>
    limit > 0 && limit <= 1
      ? changeSpinAxis(project, jointId, { limit })
      : problem("It is more than 0 % of full speed, and at most 100 %."),
});

/** Sets in how many seconds a spinning joint may go from rest to full speed; 0 leaves it to the servo. */
export const setSpinUpS = (jointId: string, seconds: number): Edit => ({
  name: "Set how gently it starts",
  mergeKey: `spinUp:${jointId}`,
  apply: (project) =>
    seconds === 0 || (seconds >= 0.01 && seconds <= 60)
      ? changeSpinAxis(project, jointId, { rampPerS: seconds === 0 ? null : 1 / seconds })
      : problem("From 0.01 s to 60 s; 0 s leaves it to the servo."),
});

/** What a spinning joint gets at a spin of 0: its neutral pulse, or no signal at all. */
export const setAtRest = (jointId: string, atRest: "neutral" | "release"): Edit => ({
  name: "Set what it gets at rest",
  apply: (project) =>
    changeItem(project, "joints", jointId, (joint) =>
      joint.axis.kind === "spin" ? { ...joint, axis: { ...joint.axis, atRest } } : joint,
    ),
});
