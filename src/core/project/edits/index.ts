export { applyEdit } from "./applyEdit";
export * from "./boardEdits";
export * from "./busEdits";
export * from "./cardEdits";
export { allOf, type Edit } from "./edit";
export * from "./figureEdits";
export * from "./handOffEdits";
export * from "./jointEdits";
export * from "./leadEdits";
export * from "./padEdits";
export * from "./poseEdits";
export * from "./powerEdits";
export * from "./rename";
export * from "./rigEdits";
export {
  addClip,
  addRoutine,
  changeClip,
  changeStep,
  insertSteps,
  layClip,
  placeSteps,
  removeClips,
  removeRoutine,
  removeSteps,
  replaceRoutines,
  setKeys,
  setLaneMode,
  setRoutine,
} from "./routineEdits";
export * from "./takeEdits";
export * from "./wiringEdits";
