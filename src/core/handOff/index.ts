export { cFiles, type HandedFile, titleOf, waitsOf } from "./cSource";
export { type Choice, type Machine, type MachineJoint, machineOf } from "./machine";
export { checkLines, type OwnLines, type Place, places } from "./ownLines";
