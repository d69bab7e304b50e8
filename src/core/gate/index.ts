export { countLimits } from "./countLimits";
export * from "./gate";
export * from "./lastStage";
