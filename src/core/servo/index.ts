export * from "./cardState";
export * from "./feedbackCurve";
export * from "./knownPlay";
export * from "./newCard";
export * from "./servoCurve";
export * from "./spinCurve";
