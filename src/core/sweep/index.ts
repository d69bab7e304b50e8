export * from "./simulateSweep";
export * from "./sweep";
