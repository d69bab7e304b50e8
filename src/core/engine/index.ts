export type { BoardOutput } from "./boardOutput";
export type { Asked, Command } from "./commands";
export { Engine } from "./engine";
export {
  type HeadField,
  head,
  headOf,
  type JointField,
  jointOf,
  leadOf,
  lostOf,
  owner,
  pressing,
  type SnapshotShape,
  setJoint,
  shapeOf,
  snapshotLength,
  sourceOf,
} from "./snapshot";
export { recordingStages } from "./taking";
