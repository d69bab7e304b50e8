export { projectFormat, readProject, readProjectFile, writeProjectFile } from "./projectFile";
