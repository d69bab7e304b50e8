export * from "./gate";
