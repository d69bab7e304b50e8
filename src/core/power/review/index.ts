import type { Project } from "@core/project";
import { boardVolts } from "./boardVolts";
import { busEnd } from "./busEnd";
import { fuse } from "./fuse";
import { ground } from "./ground";
import { headroom } from "./headroom";
import { joined } from "./joined";
import { level } from "./level";
import { lookAt } from "./look";
import { noMotorSupply } from "./noMotorSupply";
import { polarity } from "./polarity";
import { type Concern, type Rule, weights } from "./rule";
import { thinWire } from "./thinWire";
import { unfed } from "./unfed";
import { voltage } from "./voltage";
import { weak } from "./weak";

/** All rules of the review, by their kinds. A channel that is used twice needs none: the document has no room for it. */
export const rules = {
  polarity,
  voltage,
  noMotorSupply,
  joined,
  ground,
  fuse,
  thinWire,
  weak,
  headroom,
  boardVolts,
  level,
  unfed,
  busEnd,
} as const satisfies Readonly<Record<string, Rule>>;
export type RuleKind = keyof typeof rules;

export type Found = Concern & { readonly rule: RuleKind };

/** All that the rules have to say of a bench, worst first. */
export function review(project: Project): readonly Found[] {
  if (project.supplies.length === 0 && project.runs.length === 0) return [];
  const look = lookAt(project);
  const kinds = Object.keys(rules) as RuleKind[];
  const found = kinds.flatMap((rule) => rules[rule].find(look).map((concern): Found => ({ ...concern, rule })));
  return found.sort((a, b) => weights.indexOf(a.weight) - weights.indexOf(b.weight));
}

export { lookAt, type State, siemensOf } from "./look";
export { plugRoles, plugTraps, plugWords } from "./polarity";
export { amps, type Concern, volts, type WayOut, type Weight } from "./rule";
