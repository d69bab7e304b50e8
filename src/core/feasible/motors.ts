import { byId, type Joint, type Project, type ServoCard } from "@core/project";
import { type JointMap, jointMapOf } from "@core/rig";
import { ratedSpeedDegPerS } from "@core/servo";

/** What a joint's servo can do, as its card and its limits say. */
export interface Motor {
  readonly joint: Joint;
  readonly card: ServoCard;
  readonly map: JointMap;
  /** The fastest it may turn, in targets per second, and who says so. */
  readonly fastest: number;
  readonly saidBy: "limit" | "rating";
  /** How fast the score is played that this holds for; 1 is as written. */
  readonly playedAt: number;
  /** How fast it gathers speed, in targets per second squared; infinite where nobody knows. */
  readonly acceleration: number;
}

/** Played at another `speed`, the same movement of the score asks for so many times as much of a servo: it can do so much less of it. */
export function motorOf(project: Project, joint: Joint, speed = 1): Motor {
  const card = byId(project.cards, joint.cardId);
  const { axis } = joint;
  const rated = ratedSpeedDegPerS(card);
  const limit = axis.kind === "angle" ? axis.speedLimitDegPerS : axis.rampPerS;
  const possible = axis.kind === "angle" ? rated : Number.POSITIVE_INFINITY;
  return {
    joint,
    card,
    map: jointMapOf(joint, card),
    fastest: Math.min(limit ?? Number.POSITIVE_INFINITY, possible) / speed,
    playedAt: speed,
    saidBy: limit !== null && limit < possible ? "limit" : "rating",
    acceleration: ((axis.kind === "angle" && card.rating.accelDegPerS2) || Number.POSITIVE_INFINITY) / speed ** 2,
  };
}
