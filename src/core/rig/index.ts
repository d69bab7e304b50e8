export * from "./jog";
export * from "./jointMap";
export * from "./jointScale";
