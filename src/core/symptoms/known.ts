import { figure } from "@core/numbers";
import { netOf, placeIn, type RuleKind, review } from "@core/power";
import { flowsOf, jointOfLead, type Lead, type Project, setPointUnit } from "@core/project";
import type { JointBench } from "@core/rig";
import { amountIn } from "@core/shapers";
import { type Clue, type SymptomLook, so } from "./symptom";

/** A range in the unit of the card's set points: "1000 to 2000 µs". */
export const setPoints = ({ card }: JointBench, low: number, high: number): string =>
  `${figure(low, 1)} to ${figure(high, 1)} ${setPointUnit(card)}`;

/** How far one count of its board turns it, in degrees of the joint, about its home; NaN for what spins. */
export function degPerCount({ joint, map, maker }: JointBench): number {
  if (joint.axis.kind !== "angle") return Number.NaN;
  const { homeDeg } = joint.axis;
  return Math.abs(maker.step / (map.toSetPoint(homeDeg + 0.5) - map.toSetPoint(homeDeg - 0.5)));
}

/** A board that sends frames at a rate that the servo does not take. */
export function frameClues({ board, card, maker, joint }: JointBench): readonly Clue[] {
  if (board.encoding.kind === "bus") return [];
  const sentHz = 1e6 / maker.periodUs;
  const { low, high } = card.frameHz;
  // A prescaler or a gap that is a little off is no other rate.
  if (sentHz >= low * 0.97 && sentHz <= high * 1.03) return [];
  return [
    so(
      "board",
      `${board.label} sends ${figure(sentHz, 1)} frames a second on channel ${joint.channel}; by its card the servo takes ${figure(low, 1)} to ${figure(high, 1)}.`,
    ),
  ];
}

/** All that a joint and its board hang on, each as its kind and id: themselves, the wires, and what feeds them, up to the supplies. */
function feedersOf({ project, bench: { joint, board } }: SymptomLook): ReadonlySet<string> {
  const net = netOf(project);
  const found = new Set<string>();
  for (const start of [placeIn(net, "joint", joint.id), placeIn(net, "board", board.id)])
    for (let at = start; at >= 0; at = net.parents[at] ?? -1) {
      const [place, run] = [net.places[at], net.runs[at]];
      if (place) found.add(`${place.kind} ${place.id}`);
      if (run) found.add(`run ${run.id}`);
    }
  return found;
}

/** What the review of the power says, by these of its rules, of a joint, its board, and what either hangs on; at most three. */
export function powerClues(look: SymptomLook, rules: readonly RuleKind[]): readonly Clue[] {
  const near = feedersOf(look);
  return review(look.project)
    .filter(({ rule, about }) => rules.includes(rule) && near.has(`${about.kind} ${about.id}`))
    .slice(0, 3)
    .map(({ sentence }) => so("wiring", sentence));
}

/** The rules about too little: what lets a servo turn slowly, tremble, or go limp. */
export const tooLittle = ["voltage", "thinWire", "weak", "headroom", "ground"] as const satisfies readonly RuleKind[];

/** The leads that move this joint alone and are not muted. */
export const leadsTo = (project: Project, jointId: string): readonly Lead[] =>
  project.leads.filter((lead) => !lead.isMuted && jointOfLead(lead) === jointId);

/** What a lead is called: by its source. */
export const leadLabel = (project: Project, lead: Lead): string =>
  project.sources.find(({ id }) => id === lead.sourceId)?.label ?? "A source that is gone";

/** What a lead asks of its target at most; null where its chain cannot be. */
export function reachOf(project: Project, lead: Lead): { readonly low: number; readonly high: number } | null {
  const flows = flowsOf(lead, project.sources);
  const last = flows.ok ? flows.value.at(-1) : undefined;
  return last ? amountIn(last) : null;
}
