export { Chain, type FreeJoint, freeJoints } from "./chain";
export { distanceOf, type Nearness, nearness } from "./distance";
export { type Frames, frameOfPlace, frameSize, inverseFrame, joinFrames, placeOfFrame, pointIn, unit } from "./frames";
export { type Aim, Inverse, type Reached } from "./inverse";
export { linkageJoins } from "./linkage";
export { type Meeting, Meetings, type Met, meetingKey, metWords, partWords, usualNearMm } from "./meeting";
export { figuresOnBench, plainFigure } from "./plainFigure";
export {
  type Assembly,
  assemble,
  assemblyOf,
  figureOfRig,
  partFrame,
  partOf,
  placeOf,
  type Standing,
  setTargets,
  stand,
  standing,
} from "./stand";
export {
  type Bearing,
  bearingOf,
  bearings,
  inertiaOf,
  type Load,
  nmmPerKgCm,
  printedMassG,
  stallTorqueNmm,
  torqueLeft,
  Weights,
} from "./weight";
