import { ok, problem, type Result } from "@core/result";
import type { Lead, LeadTarget, Shaper } from "./lead";
import type { Project } from "./project";
import { isSwitch, type Source } from "./source";

/** What runs through a lead at some place: an amount between two ends, or a switch that is off or on. */
export type Flow =
  | { readonly kind: "amount"; readonly low: number; readonly high: number }
  | { readonly kind: "switch" };

/** What a source gives. */
export const flowFrom = (source: Source): Flow =>
  isSwitch(source) ? { kind: "switch" } : { kind: "amount", ...source.range };

const sorted = (a: number, b: number): Flow => ({ kind: "amount", low: Math.min(a, b), high: Math.max(a, b) });
/** A switch counts as 0…1 wherever an amount is wanted. */
const amountOf = (flow: Flow) => (flow.kind === "switch" ? { low: 0, high: 1 } : flow);

/** What leaves a shaper when this comes in; or why it cannot stand here. */
export function flowThrough(shaper: Shaper, flow: Flow, sources: readonly Source[]): Result<Flow> {
  const { low, high } = amountOf(flow);
  switch (shaper.kind) {
    case "rangeMap":
      return ok(sorted(shaper.to.low, shaper.to.high));
    case "limit":
    case "curve":
      return ok({ kind: "amount", ...shaper.range });
    case "threshold":
      return ok({ kind: "switch" });
    case "toggle":
    case "latch":
    case "press":
      return flow.kind === "switch"
        ? ok(flow)
        : problem(`${shaperNames[shaper.kind]} needs something that switches off and on: put a threshold before it.`);
    case "detents":
      return ok(sorted(Math.floor(low / shaper.stepsPerDetent), Math.floor(high / shaper.stepsPerDetent)));
    case "add":
      return ok(sorted(low + shaper.by, high + shaper.by));
    case "scale":
      return ok(sorted(low * shaper.by, high * shaper.by));
    case "combine":
      return ok(combined(shaper, low, high));
    case "select": {
      if (!isSwitchById(sources, shaper.switchId)) return problem("What selects must be a switch, a button or a key.");
      return ok(sorted(Math.min(low, shaper.to.low, shaper.to.high), Math.max(high, shaper.to.low, shaper.to.high)));
    }
    case "sample":
      return isSwitchById(sources, shaper.whenSourceId)
        ? ok(flow)
        : problem("What says when to take the value must be a switch, a button or a key.");
    default:
      return ok(flow);
  }
}

const isSwitchById = (sources: readonly Source[], id: string) => {
  const source = sources.find((one) => one.id === id);
  return source !== undefined && isSwitch(source);
};

function combined({ how, to, share }: Extract<Shaper, { kind: "combine" }>, low: number, high: number): Flow {
  const [a, b] = [Math.min(to.low, to.high), Math.max(to.low, to.high)];
  if (how === "sum") return sorted(low + a, high + b);
  if (how === "larger") return sorted(Math.max(low, a), Math.max(high, b));
  if (how === "mix") return sorted((1 - share) * low + share * a, (1 - share) * high + share * b);
  const products = [low * a, low * b, high * a, high * b];
  return sorted(Math.min(...products), Math.max(...products));
}

/** What each kind of shaper is called, at the beginning of a sentence or on a button. */
export const shaperNames: Readonly<Record<Shaper["kind"], string>> = {
  rangeMap: "Range map",
  limit: "Clamp or wrap",
  deadband: "Centre deadband",
  curve: "Curve",
  smooth: "Smoothing",
  change: "Change threshold",
  rate: "Rate limit",
  detents: "Steps per detent",
  threshold: "Threshold",
  toggle: "Toggle",
  latch: "Latch",
  press: "Press",
  sample: "Sample and hold",
  add: "Add",
  scale: "Scale",
  combine: "Combine",
  select: "Select",
};

/** What runs into each shaper of a lead, and, last, into its target; or why the chain cannot be. */
export function flowsOf(lead: Pick<Lead, "sourceId" | "shapers">, sources: readonly Source[]): Result<readonly Flow[]> {
  const source = sources.find((one) => one.id === lead.sourceId);
  if (!source) return problem("Its source is gone.");
  const flows: Flow[] = [flowFrom(source)];
  for (const shaper of lead.shapers) {
    const next = flowThrough(shaper, flows.at(-1) as Flow, sources);
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
  const { low, high } = amountOf(flow);
  const ends = `${short(low)} to ${short(high)}`;
  if (target.kind === "action")
    return flow.kind === "switch"
      ? ok(null)
      : problem(`An amount (${ends}) does not say when to act: put a threshold before it, or use a button.`);
  if (target.kind === "blend")
    return low >= -0.001 && high <= 1.001
      ? ok(null)
      : problem(`A blend takes 0 to 1, and this gives ${ends}: end with a range map onto 0 to 1.`);
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
  const { low, high } = amountOf(flows.value.at(-1) as Flow);
  const { travel } = joint.axis;
  const ends = `${short(low)} to ${short(high)}`;
  return high >= travel.low && low <= travel.high
    ? ok(null)
    : problem(
        `${joint.label} turns between ${short(travel.low)}° and ${short(travel.high)}°; this gives ${ends}, all of it outside.`,
      );
}

const short = (value: number) => String(Math.round(value * 100) / 100).replace("-", "−");
