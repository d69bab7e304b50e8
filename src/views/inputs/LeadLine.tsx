import { outcomesOf } from "@core/inputs";
import { editLead, type Lead, type LeadTarget, type Project, removeLead, type TableAxis, tipOf } from "@core/project";
import { shaperNames } from "@core/shapers";
import { edit, useProject } from "@stores/document";
import { openLead, solo, useInputs } from "@stores/inputsView";
import { liveLead } from "@stores/live";
import { useEffect, useMemo, useRef } from "react";
import { formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { aroundNow } from "./ChainEditor";
import { writes } from "./SourceControl";

/** A direction of the table, in words. */
export const alongWords: Readonly<Record<TableAxis, string>> = { x: "forward", y: "to the left", z: "up" };

/** Where a lead goes, in words. */
export function targetWords(target: LeadTarget, project: Project): string {
  const poseName = (id: string) => project.poses.find((pose) => pose.id === id)?.name ?? "?";
  if (target.kind === "joint") return project.joints.find((one) => one.id === target.jointId)?.label ?? "?";
  if (target.kind === "blend") return `${poseName(target.fromPoseId)} … ${poseName(target.toPoseId)}`;
  if (target.kind === "tip") return `${tipOf(project, target.tipId)?.tip.label ?? "?"}, ${alongWords[target.along]}`;
  const { action } = target;
  switch (action.kind) {
    case "goToPose":
      return `go to ${poseName(action.poseId)}`;
    case "play":
      return `play ${project.routines.find((one) => one.id === action.routineId)?.name ?? "?"}`;
    case "stop":
      return "stop what plays";
    case "pause":
      return "pause, or go on";
    case "next":
      return "go to the next step";
    case "previous":
      return "go back a step";
    case "release":
      return "release all";
    case "capture":
      return "capture a pose";
    case "cue":
      return `say the cue “${action.name}”`;
  }
}

/** A lead as one line, from left to right: its source, what shapes it, where it goes, and what comes out now. */
export function LeadLine({ lead, isOpen }: { readonly lead: Lead; readonly isOpen: boolean }) {
  const source = useProject(({ sources }) => sources.find((one) => one.id === lead.sourceId));
  const project = useProject((current) => current);
  const isSolo = useInputs((view) => view.soloLeadId === lead.id);
  const read = useMemo(() => {
    if (!source) return () => "";
    const { least, most } = outcomesOf(lead.shapers, source.range, aroundNow, 8);
    const written = writes(source, most - least);
    return () => formatNumber(written(liveLead(lead.id)), 2);
  }, [lead, source]);
  const name = `${source?.label} to ${targetWords(lead.target, project)}`;
  const line = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (isOpen) line.current?.scrollIntoView({ block: "nearest" });
  }, [isOpen]);
  return (
    <li
      ref={line}
      data-lead={lead.id}
      className={`flex items-center gap-2 border-b border-base-300 px-2 py-1 ${isOpen ? "bg-base-200 shadow-[inset_3px_0_0_var(--color-primary)]" : ""} ${lead.isMuted || source?.isMuted ? "italic" : ""}`}
    >
      <button
        type="button"
        className="flex min-w-0 grow items-center gap-1.5 text-left"
        aria-current={isOpen}
        onClick={() => openLead(lead.id)}
      >
        <span className="shrink-0 font-medium">{source?.label}</span>
        <span className="flex min-w-0 items-center gap-1 overflow-hidden">
          {lead.shapers.map((shaper, at) => (
            <span
              // biome-ignore lint/suspicious/noArrayIndexKey: a shaper is its place in the chain.
              key={at}
              className="caption shrink-0 rounded-sm border border-base-300 bg-base-100 px-1.5 whitespace-nowrap"
            >
              {shaperNames[shaper.kind].toLowerCase()}
            </span>
          ))}
        </span>
        <span aria-hidden="true">→</span>
        <span className="shrink-0 font-semibold">{targetWords(lead.target, project)}</span>
      </button>
      <LiveText read={read} box="block h-6 w-20 shrink-0" className="text-right" />
      <button
        type="button"
        className={`btn btn-xs ${isSolo ? "btn-primary" : "btn-ghost"}`}
        aria-pressed={isSolo}
        aria-label={`Solo ${name}`}
        onClick={() => solo("lead", lead.id)}
      >
        solo
      </button>
      <button
        type="button"
        className={`btn btn-xs ${lead.isMuted ? "btn-neutral" : "btn-ghost"}`}
        aria-pressed={lead.isMuted}
        aria-label={`Mute ${name}`}
        onClick={() => edit(editLead(lead.id, "mute", (one) => ({ ...one, isMuted: !one.isMuted })))}
      >
        mute
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square text-base"
        aria-label={`Remove ${name}`}
        onClick={() => edit(removeLead(lead.id))}
      >
        ×
      </button>
    </li>
  );
}
