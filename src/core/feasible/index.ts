export type { SupplyCurrent } from "./current";
export { type Examination, examine } from "./examine";
export { type Finding, type FindingKind, type Mend, mendWords } from "./finding";
export { mendEdit } from "./mend";
export { stretchToFeasible } from "./stretch";
