export * from "./asks";
export * from "./compareBoards";
export * from "./equations";
export * from "./positionRows";
export * from "./unitGuess";
export * from "./working";
