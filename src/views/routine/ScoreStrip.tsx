import { byId, type Routine, type Step } from "@core/project";
import { roundMs } from "@core/routine";
import { useProject } from "@stores/document";
import { liveHead, onLive } from "@stores/live";
import { useEffect, useRef } from "react";
import { elapsedInRound } from "./progress";

/** The routine to scale in time: hatched while it moves, a plate while it holds, and a line where it plays. */
export function ScoreStrip({ routine }: { readonly routine: Routine }) {
  const project = useProject((current) => current);
  const line = useRef<HTMLDivElement>(null);
  const wholeMs = roundMs(routine);
  const index = project.routines.indexOf(routine);
  useEffect(() => {
    const show = () => {
      if (!line.current) return;
      const isPlaying = liveHead("routineIndex") === index;
      line.current.style.visibility = isPlaying ? "visible" : "hidden";
      if (isPlaying) line.current.style.left = `${((100 * elapsedInRound(routine)) / wholeMs).toFixed(2)}%`;
    };
    show();
    return onLive(show);
  }, [index, routine, wholeMs]);
  if (wholeMs === 0) return null;
  return (
    <div className="relative flex h-14 shrink-0" aria-hidden="true">
      {routine.steps.map((step) => (
        <ScoreStep key={step.id} step={step} name={byId(project.poses, step.poseId).name} />
      ))}
      <div ref={line} className="invisible absolute inset-y-0 w-0.5 -translate-x-1/2 bg-error">
        <div className="absolute -top-0.5 left-1/2 size-2.5 -translate-x-1/2 rotate-45 bg-error" />
      </div>
    </div>
  );
}

function ScoreStep({ step, name }: { readonly step: Step; readonly name: string }) {
  return (
    <div className="flex min-w-0 flex-col" style={{ flexGrow: step.moveMs + step.holdMs, flexBasis: 0 }} title={name}>
      <span className="truncate border-l border-base-content/40 pl-1 text-[0.72rem] leading-tight">{name}</span>
      <div className="flex grow items-stretch">
        <div
          className="border border-r-0 border-primary bg-[repeating-linear-gradient(120deg,transparent_0_5px,var(--color-primary)_5px_6px)] opacity-80"
          style={{ flexGrow: step.moveMs, flexBasis: 0 }}
        />
        <div className="border-y border-primary bg-primary/35" style={{ flexGrow: step.holdMs, flexBasis: 0 }} />
      </div>
    </div>
  );
}
