export type { Range } from "@core/schema";
export {
  type Board,
  boardSchema,
  frameHzOf,
  groupOf,
  groupSizeOf,
  longestFrameLine,
} from "./board";
export { checkProject } from "./checkProject";
export * from "./edits";
export { emptyProject } from "./emptyProject";
export {
  type Body,
  type Drive,
  type Figure,
  figureSchema,
  here,
  type Motion,
  type Part,
  type Place,
  type Spring,
  type Thing,
  type Tip,
} from "./figure";
export { type HandOff, type OwnLines, usualHandOff } from "./handOff";
export {
  type AngleAxis,
  type Axis,
  type Claimant,
  type Condition,
  homeTargetOf,
  type Joint,
  type JointControl,
  type Mirror,
  type Rig,
  type Side,
  type SpinAxis,
  usualControl,
} from "./joint";
export {
  type ByteOrder,
  type CheckRule,
  type CrcRule,
  checkRuleSchema,
  type Field,
  fieldSchema,
  type Layout,
  layoutSchema,
  type Mode,
  type Operation,
  type OperationKind,
  operationKindSchema,
  type Piece,
  type Register,
  type RegisterRole,
  registerRoleSchema,
  type Stuffing,
  type Trouble,
  type TroubleCause,
  troubleCauseSchema,
} from "./layout";
export { jointOfLead, type Lead, type LeadTarget, type TableAxis } from "./lead";
export { asOthers, checkLead, checkReach, flowFrom, flowsOf } from "./leadFlow";
export { placeOfEnd, ringOfRuns } from "./lostRuns";
export { type Outside, type Pad, usualOutside } from "./pad";
export type { Pose } from "./pose";
export {
  type Battery,
  type BoardPower,
  type CardPower,
  type Chemistry,
  type ConnectorKind,
  chemistries,
  connectorKinds,
  type Fuse,
  type Gives,
  type PlugOrder,
  plugOrders,
  type Rail,
  type Run,
  type Supply,
  servoCable,
  type Ticked,
  usualBoardPower,
  usualCable,
  usualCardPower,
} from "./power";
export { byId, type Project, projectSchema, schemaVersion } from "./project";
export { ringIn, routinesWithin } from "./ring";
export {
  type Clip,
  emptyRoutine,
  type Key,
  type Lane,
  type Routine,
  routineSchema,
  type Timetable,
} from "./routine";
export { routineOfText, textOfRoutine } from "./routineText";
export {
  type Alarms,
  type Calibration,
  type Check,
  type CheckReading,
  type Feedback,
  type MeasuredCalibration,
  noAlarms,
  type ServoCard,
  type SetPointUnit,
  type SmartCard,
  type SpinCalibration,
  servoCardSchema,
  setPointUnit,
} from "./servoCard";
export type { PositionalTruth, ServoTruth, SimulatedDevice } from "./servoTruth";
export { isSteady, isSwitch, type Source, withPartners } from "./source";
export { lengthOfTake, longestTakeFrames, type Take, type TakeData, type TakeLibrary } from "./take";
export { jointsMovingTip, tipOf } from "./tips";
