export * from "./jointMap";
