import { problem } from "@core/result";
import type { Lead, Source } from "../lead";
import type { Range } from "../parts";
import { addItem, changeItem, type Edit, removeItem } from "./edit";

export const addSource = (source: Source): Edit => ({
  name: "Add source",
  apply: (project) => addItem(project, "sources", source),
});

/** Changes what a source counts from and to. Leads keep their own input ranges and are stretched with it. */
export const setSourceRange = (sourceId: string, range: Range): Edit => ({
  name: "Set source range",
  mergeKey: `range:${sourceId}`,
  apply: (project) => {
    if (range.low >= range.high) return problem("The low end must be below the high end.");
    const ranged = changeItem(project, "sources", sourceId, (source) => ({ ...source, range }));
    if (!ranged.ok) return ranged;
    return {
      ok: true,
      value: {
        ...ranged.value,
        leads: ranged.value.leads.map((lead) =>
          lead.sourceId === sourceId
            ? { ...lead, shapers: lead.shapers.map((shaper, at) => (at === 0 ? { ...shaper, from: range } : shaper)) }
            : lead,
        ),
      },
    };
  },
});

/** Joins a source to a joint. A joint has at most one lead from the same source. */
export const addLead = (lead: Lead): Edit => ({
  name: "Add lead",
  apply: (project) =>
    project.leads.some((other) => other.sourceId === lead.sourceId && other.jointId === lead.jointId)
      ? problem("That source already leads to this joint.")
      : addItem(project, "leads", lead),
});

/** Sets where the two ends of a lead's range map come out, in the joint's target unit. */
export const setLeadOutput = (leadId: string, low: number, high: number): Edit => ({
  name: "Set mapping",
  mergeKey: `lead:${leadId}`,
  apply: (project) =>
    low === high
      ? problem("Both ends come out at the same place; the joint would never move.")
      : changeItem(project, "leads", leadId, (lead) => ({
          ...lead,
          shapers: lead.shapers.map((shaper) =>
            shaper.kind === "rangeMap" ? { ...shaper, to: { low, high } } : shaper,
          ),
        })),
});

export const removeLead = (leadId: string): Edit => ({
  name: "Remove lead",
  apply: (project) => removeItem(project, "leads", leadId),
});
