export * from "./servoCurve";
