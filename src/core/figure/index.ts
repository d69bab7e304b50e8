export { type Led, led } from "./along";
export { type Beginning, beginnings, begun } from "./beginnings";
export { Chain, type FreeJoint, freeJoints } from "./chain";
export { distanceOf, type Nearness, nearness } from "./distance";
export { type Fault, faultsOf } from "./faults";
export { type Frames, frameOfPlace, frameSize, inverseFrame, joinFrames, placeOfFrame, pointIn, unit } from "./frames";
export { type Aim, Inverse, type Reached } from "./inverse";
export { linkageJoins } from "./linkage";
export { type Gaze, lookAt } from "./lookAt";
export { type Meeting, Meetings, type Met, meetingKey, metWords, partWords, usualNearMm } from "./meeting";
export { largestMeshBytes, readMesh } from "./mesh/readMesh";
export { mirroredParts } from "./mirror";
export { assembleBench, figuresOnBench, plainFigure } from "./plainFigure";
export { carriesG, type ReachCloud, reachCloud } from "./reachCloud";
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
export { baseName, figureOfUrdf, matchedByName, readUrdf, type UrdfJoint, type UrdfMachine } from "./urdf/read";
export { type UrdfFiles, urdfOf } from "./urdf/write";
export {
  type Bearing,
  bearingOf,
  bearings,
  inertiaOf,
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
