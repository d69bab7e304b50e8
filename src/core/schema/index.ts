export * from "./kinds";
export * from "./parts";
