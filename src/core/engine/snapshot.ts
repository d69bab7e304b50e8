import type { Project } from "@core/project";

/**
 * The live state of the bench as one flat array of numbers, so that it crosses from the worker to the views
 * without a copy and is read without an allocation: a head, then a stride per joint, two numbers per source, and one per lead.
 * Joints, sources and leads stand in the order of the project; `revision` says of which project.
 */
export const head = {
  /** Counts the documents handed to the engine; a snapshot of another document must not be read. */
  revision: 0,
  /** Frames of all boards that were due so far. */
  frames: 1,
  /** How much later than planned the last tick came, in ms. */
  lateMs: 2,
  /** How late 99 of 100 of the last 500 ticks stayed under, in ms. */
  late99Ms: 3,
  /** Frames that were left out because the bench was held up; they are never sent afterwards. */
  missedFrames: 4,
  /** Place of the playing routine in the project; see `noRoutine` and `poseMove`. */
  routineIndex: 5,
  /** What the player is at; see `phase`. */
  phase: 6,
  /** Where it is on the time of the score, in ms. */
  scoreMs: 7,
  /** Rounds that were completed. */
  rounds: 8,
  /** From the moment a source was moved to the moment its pulse left, in ms: the middle of the last ones, and what 99 of 100 stay under. */
  inputLagMs: 9,
  inputLag99Ms: 10,
  /** What is left of the lead-in or of the count-in, or how long it has waited, in ms. */
  phaseMs: 11,
  /** 1 on the way back of a there-and-back. */
  isReturning: 12,
  playSpeed: 13,
  /** Whether a take is being recorded; see `recordingStages`. */
  recording: 14,
  /** How long it is so far; NaN while none is. */
  recordedMs: 15,
} as const;
const headLength = 16;

export const perJoint = {
  /** 1 while the joint is held, 0 while it is released. */
  isHeld: 0,
  /** Who has the joint; see `owner`. */
  owner: 1,
  /** What was last asked for. */
  wish: 2,
  /** The target that left the gate. */
  target: 3,
  count: 4,
  /** The set point the board makes of the count; NaN is no signal. */
  setPoint: 5,
  /** Where the joint really stands, as seen on the simulated servo; NaN where nobody can tell. */
  actual: 6,
  heldBack: 7,
  /** 1 while the servo pushes against an end stop. */
  isStalled: 8,
  /** What the board reads of the servo: a tick or a converter's count; NaN for one that cannot be read. */
  reading: 9,
  /** What the board says the servo draws, in mA; NaN where it cannot tell. */
  currentMa: 10,
  /** While a stop is looked for: 1 it stands ready, 2 it presses, 3 the step is over and it stood back; else 0. */
  pressing: 11,
} as const;
const jointStride = 12;

/** See `perJoint.pressing`. */
export const pressing = { none: 0, standing: 1, pressing: 2, back: 3 } as const;

/** Who has a joint. A lead is `owner.lead` plus its place in the project. */
export const owner = { nobody: 0, hand: 1, routine: 2, lead: 3 } as const;

export type HeadField = keyof typeof head;
export type JointField = keyof typeof perJoint;

const sourceStride = 2;

/** How many of each the snapshot of a project holds. */
export interface SnapshotShape {
  readonly joints: number;
  readonly sources: number;
  readonly leads: number;
}

export const shapeOf = (project: Project): SnapshotShape => ({
  joints: project.joints.length,
  sources: project.sources.length,
  leads: project.leads.length,
});

export const snapshotLength = ({ joints, sources, leads }: SnapshotShape): number =>
  headLength + joints * jointStride + sources * sourceStride + leads;
export const headOf = (snapshot: Float64Array, field: HeadField): number => snapshot[head[field]] as number;
export const jointOf = (snapshot: Float64Array, joint: number, field: JointField): number =>
  snapshot[headLength + joint * jointStride + perJoint[field]] as number;
export const setJoint = (snapshot: Float64Array, joint: number, field: JointField, value: number): void => {
  snapshot[headLength + joint * jointStride + perJoint[field]] = value;
};
/** The value of a source; NaN until it has been touched. */
export const sourceOf = (snapshot: Float64Array, joints: number, source: number): number =>
  snapshot[headLength + joints * jointStride + source * sourceStride] as number;
/** 1 while a source has vanished. */
export const lostOf = (snapshot: Float64Array, joints: number, source: number): number =>
  snapshot[headLength + joints * jointStride + source * sourceStride + 1] as number;
export const setSource = (
  snapshot: Float64Array,
  joints: number,
  source: number,
  value: number,
  lost: number,
): void => {
  snapshot[headLength + joints * jointStride + source * sourceStride] = value;
  snapshot[headLength + joints * jointStride + source * sourceStride + 1] = lost;
};
/** What comes out of a lead; NaN until its source has given something. */
export const leadOf = (snapshot: Float64Array, { joints, sources }: SnapshotShape, lead: number): number =>
  snapshot[headLength + joints * jointStride + sources * sourceStride + lead] as number;
export const setLead = (
  snapshot: Float64Array,
  { joints, sources }: SnapshotShape,
  lead: number,
  value: number,
): void => {
  snapshot[headLength + joints * jointStride + sources * sourceStride + lead] = value;
};
