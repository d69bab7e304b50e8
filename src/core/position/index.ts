export * from "./asks";
export * from "./compareBoards";
export * from "./encodingDefaults";
export * from "./positionRows";
export * from "./unitGuess";
export * from "./working";
