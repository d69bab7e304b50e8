export * from "./gate";
export * from "./lastStage";
