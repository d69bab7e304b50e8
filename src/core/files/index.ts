export { readCardFile, writeCardFile } from "./cardFile";
export { cardsFromTable, cardTable } from "./cardTable";
export { type DeviceMemories, type DeviceMemory, readMemories } from "./deviceMemories";
export {
  evenFrameMs,
  guessMotion,
  type Motion,
  type MotionColumn,
  type MotionGuess,
  type MotionUnit,
  motionFrom,
  writeMotionJson,
  writeMotionTable,
} from "./motionTable";
export { projectFormat, readProject, readProjectFile, writeProjectFile } from "./projectFile";
