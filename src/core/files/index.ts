export { readCardFile, writeCardFile } from "./cardFile";
export { cardsFromTable, cardTable } from "./cardTable";
export {
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
