export * from "./boardEdits";
export type { Edit } from "./edit";
export * from "./jointEdits";
export * from "./leadEdits";
export * from "./poseEdits";
export * from "./rename";
export * from "./routineEdits";
