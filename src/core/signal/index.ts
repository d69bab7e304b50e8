export * from "./frame";
export * from "./quantity";
export * from "./signalMaker";
export * from "./spin";
