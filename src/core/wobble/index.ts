export { simulateWobble, type WobbleAsk, type WobbleRun } from "./simulate";
export { reportOf, verdictOf, type WobbleReport } from "./verdict";
