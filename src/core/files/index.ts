export { readCardFile, writeCardFile } from "./cardFile";
export { cardsFromTable, cardTable } from "./cardTable";
export { projectFormat, readProject, readProjectFile, writeProjectFile } from "./projectFile";
