export { type BookedControl, type BookedPad, labelOf, type PadBook, padBookOf, padBookSchema } from "./padBook";
export { reachOf } from "./reach";
export { type Readied, type ReadyPad, readyPad, readyPadNames } from "./readyPads";
