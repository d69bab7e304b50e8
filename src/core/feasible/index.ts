export type { SupplyCurrent } from "./current";
export { type Examination, examine } from "./examine";
export { type Finding, type FindingKind, findingTraits } from "./finding";
export { type Mend, mendEdit, mendWords } from "./mend";
export { stretchToFeasible } from "./stretch";
