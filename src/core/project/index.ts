export {
  type Board,
  boardSchema,
  type Encoding,
  type EncodingKind,
  type EncodingOf,
  encodingSchema,
  frameHzOf,
  groupOf,
  groupSizeOf,
  type Lateness,
} from "./board";
export { checkProject } from "./checkProject";
export { demoProject } from "./demo";
export * from "./edits";
export type { AngleAxis, Axis, Joint, Rig } from "./joint";
export type { Lead, Shaper, Source } from "./lead";
export type { Range } from "./parts";
export { byId, type Project, projectSchema, schemaVersion } from "./project";
export type { Easing, Pose, Routine, Step } from "./routine";
export {
  type Calibration,
  type Check,
  type CheckReading,
  type Feedback,
  type MeasuredCalibration,
  type ServoCard,
  type SetPointUnit,
  type SpinCalibration,
  servoCardSchema,
  setPointUnit,
} from "./servoCard";
export type { PositionalTruth, ServoTruth } from "./servoTruth";
