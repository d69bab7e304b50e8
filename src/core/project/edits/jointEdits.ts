import { problem, type Result } from "@core/result";
import type { AngleAxis } from "../joint";
import { byId, type Project } from "../project";
import type { Calibration } from "../servoCard";
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

/** Turns the joint's positive direction round. */
export const flipDirection = (jointId: string): Edit => ({
  name: "Reverse direction",
  apply: (project) =>
    changeItem(project, "joints", jointId, (joint) => ({
      ...joint,
      axis: { ...joint.axis, direction: joint.axis.direction === 1 ? -1 : 1 },
    })),
});

/** Puts a calibration on the card as the one in force. The earlier ones stay. */
export const addCalibration = (cardId: string, calibration: Calibration): Edit => ({
  name: "Save calibration",
  apply: (project) => {
    const card = byId(project.cards, cardId);
    if ((calibration.kind === "spin") !== (card.kind === "continuous"))
      return problem(`A ${calibration.kind} calibration does not fit a ${card.kind} servo.`);
    return changeItem(project, "cards", cardId, (before) => ({
      ...before,
      calibrations: [...before.calibrations, calibration],
    }));
  },
});

/** Writes down where the servo itself stops turning, in set points; null where it was not found. */
export const setEndStops = (cardId: string, low: number | null, high: number | null): Edit => ({
  name: "Save end stops",
  apply: (project) =>
    low !== null && high !== null && low >= high
      ? problem("The lower end stop must be below the higher one.")
      : changeItem(project, "cards", cardId, (card) => ({ ...card, endStops: { low, high } })),
});

/** Sets the hard window: no set point outside it ever leaves the gate. */
export const setWindow = (cardId: string, low: number, high: number): Edit => ({
  name: "Set hard window",
  mergeKey: `window:${cardId}`,
  apply: (project) =>
    low < high
      ? changeItem(project, "cards", cardId, (card) => ({ ...card, window: { low, high } }))
      : problem("The low end of the window must be below the high end."),
});

/** Takes one calibration off the card; the one before it is in force again. */
export const removeCalibration = (cardId: string, calibrationId: string): Edit => ({
  name: "Remove calibration",
  apply: (project) =>
    changeItem(project, "cards", cardId, (card) => ({
      ...card,
      calibrations: card.calibrations.filter((made) => made.id !== calibrationId),
    })),
});
