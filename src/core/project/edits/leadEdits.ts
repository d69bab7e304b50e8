import { partnersKey } from "@core/origins";
import { ok, problem, type Result } from "@core/result";
import type { Range } from "@core/schema";
import { othersOf, type Shaper } from "@core/shapers";
import { namedBy } from "@core/steps";
import { checkProject } from "../checkProject";
import type { JointControl } from "../joint";
import { controlSchema } from "../joint";
import type { Lead } from "../lead";
import { leadSchema } from "../lead";
import { checkLead, checkReach } from "../leadFlow";
import { byId, type Project } from "../project";
import type { Source } from "../source";
import { sourceSchema } from "../source";
import { changeItem, type Edit, readName, removeItem } from "./edit";
import { limitSentence } from "./limits";
import { withoutSteps } from "./withoutSteps";

/** Takes a changed project if its parts agree and these leads fit their targets. What a lead cannot be is said without its place in a file. */
function agreed(project: Project, leads: readonly Lead[]): Result<Project> {
  const checked = checkProject(project);
  if (!checked.ok) return problem(checked.problem.replace(/^leads → \d+: /, ""));
  for (const lead of leads) {
    const fits = checkLead(lead, project);
    if (!fits.ok) return fits;
  }
  return checked;
}

/** The leads that listen to a source. */
const listening = (project: Project, sourceId: string): readonly Lead[] =>
  project.leads.filter((lead) => lead.sourceId === sourceId || othersOf(lead.shapers).includes(sourceId));

export const addSources = (sources: readonly Source[]): Edit => ({
  name: "Add source",
  apply: (project) => agreed({ ...project, sources: [...project.sources, ...sources] }, []),
});

/** Changes one thing of a source; `what` names it for undo. */
export const editSource = (sourceId: string, what: string, change: (source: Source) => Source): Edit => ({
  name: `Change ${what}`,
  mergeKey: `source:${sourceId}:${what}`,
  apply: (project) => {
    const read = sourceSchema.safeParse(change(byId(project.sources, sourceId)));
    if (!read.success) return problem(limitSentence(read.error.issues[0]));
    const changed = changeItem(project, "sources", sourceId, () => read.data);
    return changed.ok ? agreed(changed.value, listening(changed.value, sourceId)) : changed;
  },
});

export const renameSource = (sourceId: string, text: string): Edit => ({
  name: "Rename source",
  apply: (project) => {
    const name = readName(text);
    return name.ok ? changeItem(project, "sources", sourceId, (one) => ({ ...one, label: name.value })) : name;
  },
});

/** Changes what a source counts from and to. A lead that begins with a range map from the old range follows. */
export const setSourceRange = (sourceId: string, range: Range): Edit => ({
  name: "Set source range",
  mergeKey: `range:${sourceId}`,
  apply: (project) => {
    if (range.low >= range.high) return problem("The low end must be below the high end.");
    const ranged = changeItem(project, "sources", sourceId, (source) => ({ ...source, range }));
    if (!ranged.ok) return ranged;
    const follow = (lead: Lead): Lead =>
      lead.sourceId === sourceId && lead.shapers[0]?.kind === "rangeMap"
        ? { ...lead, shapers: lead.shapers.with(0, { ...lead.shapers[0], from: range }) }
        : lead;
    const followed = { ...ranged.value, leads: ranged.value.leads.map(follow) };
    return agreed(followed, listening(followed, sourceId));
  },
});

/** Takes a source away, and with it every lead that listens to it; both axes of a stick go together. */
export const removeSource = (sourceId: string): Edit => ({
  name: "Remove source",
  apply: (project) => {
    const key = partnersKey(byId(project.sources, sourceId).origin);
    const goes = (source: Source) => source.id === sourceId || (key !== null && partnersKey(source.origin) === key);
    const gone = new Set(project.sources.filter(goes).map((source) => source.id));
    const listens = (lead: Lead) => [lead.sourceId, ...othersOf(lead.shapers)].some((id) => gone.has(id));
    return ok({
      ...project,
      sources: project.sources.filter((source) => !goes(source)),
      leads: project.leads.filter((lead) => !listens(lead)),
      routines: project.routines.map((routine) =>
        withoutSteps(routine, (step) => gone.has(namedBy(step).sourceId ?? "")),
      ),
    });
  },
});

/** Adds leads, with the sources they come from where those are new. What does not fit its target is refused in words. */
export const addLeads = (leads: readonly Lead[], sources: readonly Source[] = []): Edit => ({
  name: leads.length === 1 ? "Add lead" : "Add leads",
  apply: (project) => {
    const wired = { ...project, sources: [...project.sources, ...sources], leads: [...project.leads, ...leads] };
    const refused = leads.map((lead) => checkReach(lead, wired)).find((reach) => !reach.ok);
    return refused && !refused.ok ? refused : agreed(wired, leads);
  },
});

/** Changes one thing of a lead; `what` names it for undo. */
export const editLead = (leadId: string, what: string, change: (lead: Lead) => Lead): Edit => ({
  name: `Change ${what}`,
  mergeKey: `lead:${leadId}:${what}`,
  apply: (project) => {
    const read = leadSchema.safeParse(change(byId(project.leads, leadId)));
    if (!read.success) return problem(limitSentence(read.error.issues[0]));
    const reach = checkReach(read.data, project);
    if (!reach.ok) return reach;
    const changed = changeItem(project, "leads", leadId, () => read.data);
    return changed.ok ? agreed(changed.value, [read.data]) : changed;
  },
});

/** Puts another shaper in the place of one of a chain. */
export const setShaper = (leadId: string, at: number, shaper: Shaper): Edit =>
  editLead(leadId, `shaper ${at + 1}`, (lead) => ({ ...lead, shapers: lead.shapers.with(at, shaper) }));

export const removeLead = (leadId: string): Edit => ({
  name: "Remove lead",
  apply: (project) => removeItem(project, "leads", leadId),
});

/** Sets who may have a joint, and how it is handed over. */
export const setControl = (jointId: string, control: JointControl): Edit => ({
  name: "Set who may have it",
  mergeKey: `control:${jointId}`,
  apply: (project) => {
    const read = controlSchema.safeParse(control);
    return read.success
      ? changeItem(project, "joints", jointId, (joint) => ({ ...joint, control: read.data }))
      : problem(limitSentence(read.error.issues[0]));
  },
});
