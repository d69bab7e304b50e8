export { betweenRoundsMs } from "./between";
export {
  alsoChosen,
  type ChosenKey,
  type CopiedKey,
  copiedKeys,
  isSameKey,
  keysWith,
  keysWithin,
  keysWithout,
  type ShiftedKeys,
  shiftedKeys,
} from "./keys";
export { lastAtMost } from "./lastAtMost";
export { middlesOf, over, overTheMiddle, wholeMm } from "./middles";
export { type Company, type LoopRange, nearStart, type Phase, type PlayFrom, phase, RoutinePlayer } from "./player";
export {
  endOfClip,
  type Halt,
  jointsOf,
  readyScore,
  roundMs,
  type Score,
  type Span,
  type Stray,
  sampleTrack,
  scoreOfPose,
  stepAt,
} from "./score";
export { nextStartMs } from "./timetable";
export type { Shares, Track } from "./track";

/** Stands in place of a routine's index while the bench only goes to one pose. */
export const poseMove = -2;
/** Stands in place of a routine's index while nothing plays. */
export const noRoutine = -1;
