export { blended } from "./blend";
export { mirrored, mirrorOf, unmirrored } from "./mirror";
export { measureOf, type PoseTable, type PoseUnit, readPoseTable, writePoseTable } from "./table";
