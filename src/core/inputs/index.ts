export { Chain, outcomesOf, settledShape } from "./chain";
export { fromTemplate, plainLead, type Template, templateNames } from "./newLeads";
export { converterRanges, newSources } from "./newSource";
export { tipLead } from "./tipLead";
