export type { Aim } from "./aim";
export { isAstray, type Led, led, type Pointing } from "./along";
export { type Beginning, beginnings, begun } from "./beginnings";
export { Chain, type FreeJoint, freeJoints } from "./chain";
export { type Fault, faultsOf } from "./faults";
export {
  type Frames,
  frameOfPlace,
  frameSize,
  isElsewhere,
  joinFrames,
  movedMm,
  placeOfFrame,
  pointIn,
  unit,
} from "./frames";
export { withFreshIds } from "./freshIds";
export { Inverse, type Reached } from "./inverse";
export { type Gaze, lookAt } from "./lookAt";
export { type Meeting, Meetings, type Met, meetingKey, meetingWords } from "./meeting";
export { readMesh } from "./mesh/readMesh";
export { mirroredParts } from "./mirror";
export { assembleBench, figuresOnBench } from "./plainFigure";
export { carriesG, type ReachCloud, reachCloud } from "./reachCloud";
export {
  type Assembly,
  assemble,
  assemblyOf,
  partFrame,
  placeOf,
  type Standing,
  setTargets,
  stand,
  standing,
} from "./stand";
export { figureOfUrdf, matchedByName, readUrdf, type UrdfJoint, type UrdfMachine } from "./urdf/read";
export { baseName } from "./urdf/reader";
export { type UrdfFiles, urdfOf } from "./urdf/write";
export {
  type Bearing,
  bearingOf,
  type Load,
  loadAt,
  mayHoldNmm,
  nmmPerKgCm,
  printedMassG,
  stallTorqueNmm,
  torqueLeft,
  Weights,
} from "./weight";
export { type Worst, worstOf } from "./worst";
