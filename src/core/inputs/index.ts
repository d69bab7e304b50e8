export * from "./shape";
