export * from "./boardEdits";
export * from "./cardEdits";
export { allOf, type Edit } from "./edit";
export * from "./jointEdits";
export * from "./leadEdits";
export * from "./poseEdits";
export * from "./rename";
export * from "./routineEdits";
export * from "./wiringEdits";
