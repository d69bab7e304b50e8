import type { AngleAxis, ServoCard } from "@core/project";
import type { JointMap } from "./jointMap";
import { jointDegOf } from "./jointMap";

/** What the travel limits leave of what the servo itself can do; degrees of the joint. */
export interface TravelLeft {
  /** Where the servo itself ends: found on the bench, or by its sheet. */
  readonly lowStopDeg: number;
  readonly highStopDeg: number;
  readonly isMeasured: boolean;
  /** 0…1 of the servo's travel. */
  readonly share: number;
  /** From each limit to the stop beyond it; negative where a limit lies past its stop. */
  readonly lowRoomDeg: number;
  readonly highRoomDeg: number;
}

export function travelLeft(axis: AngleAxis, card: ServoCard, map: JointMap): TravelLeft | null {
  if (card.kind === "continuous") return null;
  const { low, high } = card.endStops;
  const ends = [
    low === null ? jointDegOf(axis, 0) : map.toTarget(low),
    high === null ? jointDegOf(axis, card.travelDeg) : map.toTarget(high),
  ];
  const lowStopDeg = Math.min(...ends);
  const highStopDeg = Math.max(...ends);
  const usedDeg = Math.min(axis.travel.high, highStopDeg) - Math.max(axis.travel.low, lowStopDeg);
  return {
    lowStopDeg,
    highStopDeg,
    isMeasured: low !== null && high !== null,
    share: Math.max(0, usedDeg) / (highStopDeg - lowStopDeg),
    lowRoomDeg: axis.travel.low - lowStopDeg,
    highRoomDeg: highStopDeg - axis.travel.high,
  };
}
