import { fromTemplate, newSources, plainLead, type Template, templateNames, tipLead } from "@core/inputs";
import { makesItself, type OriginKind, originNames } from "@core/origins";
import { addLeads, addSources, type LeadTarget, type Project, type Source, type TableAxis } from "@core/project";
import type { Shaper } from "@core/shapers";
import { edit, newId, projectNow, useProject } from "@stores/document";
import { openLead } from "@stores/inputsView";
import { liveJoint, liveSource, onLive } from "@stores/live";
import { notify } from "@stores/notices";
import { selectedJointNow } from "@stores/selection";
import { useEffect, useState } from "react";
import { alongWords } from "./LeadLine";

/** The ways to a new lead: a ready set, source and target by name, or “move the knob you mean, then the joint you mean”. */
export function Wiring() {
  const [isLearning, setIsLearning] = useState(false);
  const hasSource = useProject(({ sources }) => sources.length > 0);
  const hasJoint = useProject(({ joints }) => joints.length > 0);
  if (!hasJoint) return <p className="caption">Leads go to joints: add one in the rack, at the left.</p>;
  return (
    <div className="flex flex-wrap items-center gap-2">
      <select
        className="select select-sm w-52 bg-base-100"
        aria-label="Ready-made leads"
        value=""
        onChange={(event) => wireTemplate(event.target.value as Template)}
      >
        <option value="" disabled>
          ready-made for the joint…
        </option>
        {(Object.keys(templateNames) as Template[]).map((template) => (
          <option key={template} value={template}>
            {templateNames[template]}
          </option>
        ))}
      </select>
      {hasSource && <NewLead />}
      {hasSource && (
        <button
          type="button"
          className={`btn btn-sm ${isLearning ? "btn-primary" : "btn-outline"}`}
          aria-pressed={isLearning}
          onClick={() => setIsLearning(!isLearning)}
        >
          {isLearning ? "Learning…" : "Learn: move both"}
        </button>
      )}
      {hasSource && isLearning && <LearnLead onDone={() => setIsLearning(false)} />}
    </div>
  );
}

function wireTemplate(template: Template): void {
  const joint = selectedJointNow();
  if (!joint) return;
  const wired = fromTemplate(template, projectNow(), joint, newId);
  if (!wired.ok) {
    notify(wired.problem, "warning");
    return;
  }
  if (!edit(addLeads(wired.value.leads, wired.value.sources))) return;
  if (wired.value.leads[0]) openLead(wired.value.leads[0].id);
}

/** A source of any kind, added to the bench. */
export function AddSource() {
  return (
    <select
      className="select select-sm w-full bg-base-100"
      aria-label="Add a source"
      value=""
      onChange={(event) => {
        const kind = event.target.value as OriginKind;
        const label = `${originNames[kind].split(",")[0]} ${projectNow().sources.length + 1}`;
        edit(addSources(newSources(kind, label, newId)));
      }}
    >
      <option value="" disabled>
        add a source…
      </option>
      {(Object.keys(originNames) as OriginKind[]).map((kind) => (
        <option key={kind} value={kind}>
          {originNames[kind].toLowerCase()}
        </option>
      ))}
    </select>
  );
}

/** From a source to anything, by name. */
function NewLead() {
  const project = useProject((current) => current);
  const [sourceId, setSourceId] = useState("");
  const add = (place: string) => {
    const source = project.sources.find((one) => one.id === sourceId) ?? project.sources[0];
    if (!source) return;
    const id = newId();
    const joint = project.joints.find((one) => `joint:${one.id}` === place);
    const [, tipId = "", along = "x"] = place.startsWith("tip:") ? place.split(":") : [];
    const lead = joint
      ? plainLead(source, joint, id)
      : tipId
        ? tipLead(project, source, tipId, along as TableAxis, id)
        : { id, sourceId: source.id, target: targetOf(place), shapers: [...shapersTo(place, source)], isMuted: false };
    if (edit(addLeads([lead]))) openLead(id);
  };
  const [firstPose, secondPose] = project.poses;
  const tips = project.figures.flatMap((figure) => figure.tips);
  /** A blend begins with the first two poses, and its range map. */
  const targetOf = (place: string): LeadTarget => {
    const [kind, id = ""] = place.split(":");
    switch (kind) {
      case "pose":
        return { kind: "action", action: { kind: "goToPose", poseId: id, moveMs: 800 } };
      case "play":
        return { kind: "action", action: { kind: "play", routineId: id } };
      case "cue":
        return { kind: "action", action: { kind, name: id } };
      case "stop":
      case "pause":
      case "next":
      case "previous":
      case "release":
      case "capture":
        return { kind: "action", action: { kind } };
      default:
        return { kind: "blend", fromPoseId: firstPose?.id ?? "", toPoseId: id };
    }
  };
  return (
    <span className="join">
      <select
        className="select select-sm join-item w-36 bg-base-100"
        aria-label="Lead from"
        value={sourceId || project.sources[0]?.id}
        onChange={(event) => setSourceId(event.target.value)}
      >
        {project.sources.map((source) => (
          <option key={source.id} value={source.id}>
            {source.label}
          </option>
        ))}
      </select>
      <select
        className="select select-sm join-item w-32 bg-base-100"
        aria-label="Lead to"
        value=""
        onChange={(event) => add(event.target.value)}
      >
        <option value="" disabled>
          leads to…
        </option>
        <optgroup label="Joints">
          {project.joints.map((joint) => (
            <option key={joint.id} value={`joint:${joint.id}`}>
              {joint.label}
            </option>
          ))}
        </optgroup>
        {tips.length > 0 && (
          <optgroup label="Hands and looks">
            {tips.flatMap((tip) =>
              (Object.keys(alongWords) as TableAxis[]).map((along) => (
                <option key={tip.id + along} value={`tip:${tip.id}:${along}`}>
                  {tip.label}, {alongWords[along]}
                </option>
              )),
            )}
          </optgroup>
        )}
        {firstPose && secondPose && (
          <optgroup label={`Blend from ${firstPose.name} to`}>
            {project.poses.slice(1).map((pose) => (
              <option key={pose.id} value={`blend:${pose.id}`}>
                {pose.name}
              </option>
            ))}
          </optgroup>
        )}
        <optgroup label="Actions">
          {project.poses.map((pose) => (
            <option key={pose.id} value={`pose:${pose.id}`}>
              go to {pose.name}
            </option>
          ))}
          {project.routines.map((routine) => (
            <option key={routine.id} value={`play:${routine.id}`}>
              play {routine.name}
            </option>
          ))}
          <option value="stop">stop what plays</option>
          <option value="pause">pause, or go on</option>
          <option value="next">go to the next step</option>
          <option value="previous">go back a step</option>
          <option value="release">release all</option>
          <option value="capture">capture a pose</option>
          {cueNamesOf(project).map((name) => (
            <option key={name} value={`cue:${name}`}>
              say the cue “{name}”
            </option>
          ))}
        </optgroup>
      </select>
    </span>
  );
}

/** The cues that are named on this bench, and one to begin with. */
function cueNamesOf({ sources, routines }: Project): readonly string[] {
  const heard = sources.flatMap(({ origin }) => (origin.kind === "cue" ? [origin.name] : []));
  const said = routines.flatMap(({ steps }) => steps.flatMap((step) => (step.kind === "cue" ? [step.name] : [])));
  return [...new Set([...heard, ...said, "go"])];
}

/** A blend takes 0 to 1, so its lead begins with a range map; an action takes its source as it is. */
const shapersTo = (place: string, source: Source): readonly Shaper[] =>
  place.startsWith("blend:") ? [{ kind: "rangeMap", from: source.range, to: { low: 0, high: 1 } }] : [];

/** A movement of this share of its range counts as meant. */
const meantShare = 0.15;
const meantDeg = 4;

/** “Move the knob you mean, then the joint you mean.” */
function LearnLead({ onDone }: { readonly onDone: () => void }) {
  const [sourceId, setSourceId] = useState<string | null>(null);
  const label = useProject(({ sources }) => sources.find((one) => one.id === sourceId)?.label);
  useEffect(() => {
    const { sources, joints } = projectNow();
    const began = new Map<string, number>();
    return onLive(() => {
      if (sourceId === null) {
        const moved = sources.find(({ id, range, origin }) => {
          if (makesItself(origin)) return false;
          const value = liveSource(id);
          if (!Number.isFinite(value)) return false;
          if (!began.has(id)) began.set(id, value);
          return Math.abs(value - (began.get(id) ?? value)) > meantShare * (range.high - range.low);
        });
        if (moved) setSourceId(moved.id);
        return;
      }
      const meant = joints.find((joint) => {
        const wish = liveJoint(joint.id, "wish");
        if (!began.has(joint.id)) began.set(joint.id, wish);
        const isByHand = liveJoint(joint.id, "owner") === 1;
        const enough = joint.axis.kind === "angle" ? meantDeg : 0.1;
        return isByHand && Math.abs(wish - (began.get(joint.id) ?? wish)) > enough;
      });
      const source = sources.find((one) => one.id === sourceId);
      if (!meant || !source) return;
      const id = newId();
      onDone();
      if (edit(addLeads([plainLead(source, meant, id)]))) openLead(id);
    });
  }, [sourceId, onDone]);
  return (
    <p role="status" className="text-sm font-medium">
      {sourceId === null ? "Move the source you mean." : `${label}. Now move the joint you mean: dial, jog, or , and .`}
    </p>
  );
}
