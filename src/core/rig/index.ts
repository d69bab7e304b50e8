export * from "./bringing";
export * from "./jog";
export * from "./jointBench";
export * from "./jointMap";
export * from "./jointScale";
export * from "./newJoint";
export * from "./travelLeft";
