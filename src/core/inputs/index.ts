export { Chain, settledShape } from "./chain";
export { lagMsAt } from "./quickSmoothing";
export type { Surroundings } from "./shapers";
export { sensorAt, waveAt } from "./signals";
