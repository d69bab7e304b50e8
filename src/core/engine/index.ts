export type { BoardOutput } from "./boardOutput";
export type { Command } from "./commands";
export { Engine } from "./engine";
export {
  type HeadField,
  head,
  headOf,
  type JointField,
  jointOf,
  owner,
  pressing,
  setJoint,
  snapshotLength,
  sourceOf,
} from "./snapshot";
