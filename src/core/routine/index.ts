export { eased } from "./easing";
export { noRoutine, type Plan, type PlannedMove, planPose, planRoutine, poseMove, roundMs } from "./plan";
export { RoutinePlayer } from "./player";
