export { Chain, settledShape } from "./chain";
export { fromTemplate, newShaper, plainLead, type Template, templateNames } from "./newLeads";
export { converterRanges, newSources } from "./newSource";
export { lagMsAt } from "./quickSmoothing";
export type { Surroundings } from "./shapers";
export { sensorAt, waveAt } from "./signals";
