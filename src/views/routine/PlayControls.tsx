import { byId, type Routine } from "@core/project";
import { roundMs } from "@core/routine";
import { useProject } from "@stores/document";
import { command, liveHead, liveJoint, useLive } from "@stores/live";
import { useCallback, useMemo } from "react";
import { formatTime } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { elapsedInRound } from "./progress";

/** Play and stop, with what stands in the way said before anything moves. */
export function PlayControls({ routine }: { readonly routine: Routine }) {
  const project = useProject((current) => current);
  const index = project.routines.indexOf(routine);
  const isPlaying = useLive(useCallback(() => liveHead("routineIndex") === index, [index]));
  const jointIds = useMemo(
    () => [...new Set(routine.steps.flatMap((step) => Object.keys(byId(project.poses, step.poseId).targets)))],
    [routine, project.poses],
  );
  const limp = useLive(useCallback(() => jointIds.filter((id) => liveJoint(id, "isHeld") === 0).length, [jointIds]));
  const play = () => {
    for (const jointId of jointIds) if (liveJoint(jointId, "isHeld") === 0) command({ kind: "hold", jointId });
    command({ kind: "play", routineId: routine.id });
  };
  const readElapsed = useCallback(
    () => (isPlaying ? formatTime(elapsedInRound(routine)) : formatTime(0)),
    [isPlaying, routine],
  );
  const readRound = useCallback(() => (isPlaying ? String(liveHead("rounds") + 1) : "—"), [isPlaying]);
  return (
    <div className="flex items-center gap-4">
      {isPlaying ? (
        <button
          type="button"
          className="btn btn-neutral w-40"
          title="Stop, and hold where they are (S)"
          onClick={() => command({ kind: "stop" })}
        >
          Stop and hold
        </button>
      ) : (
        <button type="button" className="btn btn-primary w-40" disabled={routine.steps.length === 0} onClick={play}>
          {limp > 0 ? `Hold ${limp} and play` : "Play"}
        </button>
      )}
      <LiveText read={readElapsed} className="w-28 text-right text-2xl" />
      <span className="caption">of {formatTime(roundMs(routine))}</span>
      {routine.loop && (
        <span className="caption">
          round <LiveText read={readRound} />
        </span>
      )}
    </div>
  );
}
