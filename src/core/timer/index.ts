export * from "./timerPlan";
