export * from "./gate";
export * from "./lastStage";
export { registerLimits } from "./registerLimits";
