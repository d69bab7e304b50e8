export { labelOf, padBookOf } from "./padBook";
export { type BookedControl, type BookedPad, type PadBook, padBookSchema } from "./padBookSchema";
export { reachOf } from "./reach";
export { type Readied, type ReadyPad, readyPad, readyPadNames } from "./readyPads";
