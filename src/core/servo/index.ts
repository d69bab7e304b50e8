export * from "./cardState";
export * from "./feedbackCurve";
export * from "./newCard";
export * from "./servoCurve";
export * from "./spinCurve";
