import { ok, problem, type Result } from "@core/result";
import { amountIn, type Flow, flowThrough } from "@core/shapers";
import type { Lead, LeadTarget } from "./lead";
import type { Project } from "./project";
import { isSwitch, type Source } from "./source";
import { tipOf } from "./tips";

/** What a source gives. */
export const flowFrom = (source: Source): Flow =>
  isSwitch(source) ? { kind: "switch" } : { kind: "amount", ...source.range };

/** Sources as a shaper looks at them. */
export const asOthers = (sources: readonly Source[]) => sources.map((one) => ({ id: one.id, isSwitch: isSwitch(one) }));

/** What runs into each shaper of a lead, and, last, into its target; or why the chain cannot be. */
export function flowsOf(lead: Pick<Lead, "sourceId" | "shapers">, sources: readonly Source[]): Result<readonly Flow[]> {
  const source = sources.find((one) => one.id === lead.sourceId);
  if (!source) return problem("Its source is gone.");
  const flows: Flow[] = [flowFrom(source)];
  const others = asOthers(sources);
  for (const shaper of lead.shapers) {
    const next = flowThrough(shaper, flows.at(-1) as Flow, others);
    if (!next.ok) return next;
    flows.push(next.value);
  }
  return ok(flows);
}

/** Whether what comes out of a lead's chain is what its target takes: an amount in its own unit, or a switch. Refused in words. */
export function checkLead(lead: Pick<Lead, "sourceId" | "shapers" | "target">, project: Project): Result<null> {
  const flows = flowsOf(lead, project.sources);
  if (!flows.ok) return flows;
  return checkEnd(flows.value.at(-1) as Flow, lead.target, project);
}

function checkEnd(flow: Flow, target: LeadTarget, project: Project): Result<null> {
  const { low, high } = amountIn(flow);
  const ends = `${short(low)} to ${short(high)}`;
  if (target.kind === "action")
    return flow.kind === "switch"
      ? ok(null)
      : problem(`An amount (${ends}) does not say when to act: put a threshold before it, or use a button.`);
  if (target.kind === "blend")
    return low >= -0.001 && high <= 1.001
      ? ok(null)
      : problem(`A blend takes 0 to 1, and this gives ${ends}: end with a range map onto 0 to 1.`);
  if (target.kind === "tip")
    return tipOf(project, target.tipId) ? ok(null) : problem("That tip is no longer on the bench.");
  const joint = project.joints.find((one) => one.id === target.jointId);
  if (!joint) return problem("That joint is no longer on the bench.");
  if (joint.axis.kind === "spin")
    return low >= -1.001 && high <= 1.001
      ? ok(null)
      : problem(`${joint.label} spins and takes −1 to 1; this gives ${ends}. End with a range map onto −1 to 1.`);
  return ok(null);
}

/**
 * Whether a lead to a joint's angle can be seen at all: some of what it gives must lie within the travel. Asked when it is wired; limits that
 * are drawn in later make no lead wrong, the gate holds it back.
 */
export function checkReach(lead: Pick<Lead, "sourceId" | "shapers" | "target">, project: Project): Result<null> {
  const flows = flowsOf(lead, project.sources);
  const { target } = lead;
  const joint = target.kind === "joint" ? project.joints.find((one) => one.id === target.jointId) : undefined;
  if (!flows.ok || joint?.axis.kind !== "angle") return ok(null);
  const { low, high } = amountIn(flows.value.at(-1) as Flow);
  const { travel } = joint.axis;
  const ends = `${short(low)} to ${short(high)}`;
  return high >= travel.low && low <= travel.high
    ? ok(null)
    : problem(
        `${joint.label} turns between ${short(travel.low)}° and ${short(travel.high)}°; this gives ${ends}, all of it outside.`,
      );
}

const short = (value: number) => String(Math.round(value * 100) / 100).replace("-", "−");
