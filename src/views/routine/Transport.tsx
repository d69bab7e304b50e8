import { recordingStages } from "@core/engine";
import { byId, type Routine } from "@core/project";
import { bringingSpeeds } from "@core/rig";
import { betweenRoundsMs, jointsOf, phase, roundMs, type Score } from "@core/routine";
import { useProject } from "@stores/document";
import { command, liveHead, liveJoint, useLive } from "@stores/live";
import { scoreView, useScoreView } from "@stores/scoreView";
import { useCallback, useMemo } from "react";
import { formatTime } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { usePhase } from "./useScore";

interface TransportProps {
  readonly routine: Routine;
  readonly score: Score;
}

const speeds = [10, 25, 50, 75, 100, 150, 200, 300];

/** What the player says of itself. */
const phaseWords: Readonly<Record<number, string>> = {
  [phase.leadIn]: "going to the beginning",
  [phase.waiting]: "waiting",
  [phase.paused]: "paused",
};

/** Plays a routine from the cursor, or from its beginning; holds first what is limp. */
export function playFrom(routine: Routine, limp: readonly string[], isPaused = false): void {
  for (const jointId of limp) command({ kind: "hold", jointId });
  const { cursorMs, range } = scoreView.getState();
  command({ kind: "loop", range });
  const fromMs = range ? range.fromMs : cursorMs;
  command({ kind: "play", routineId: routine.id, fromMs, isPaused });
}

/** Play, pause, stop, steps forth and back, speed, and where it is: with what stands in the way said before anything moves. */
export function Transport({ routine, score }: TransportProps) {
  const project = useProject((current) => current);
  const at = usePhase(routine);
  const jointIds = useMemo(() => jointsOf(project, routine), [project, routine]);
  const limpCount = useLive(
    useCallback(() => jointIds.filter((id) => liveJoint(id, "isHeld") === 0).length, [jointIds]),
  );
  const betweenMs = useMemo(() => {
    const safe = project.joints.map((joint) => bringingSpeeds(joint, byId(project.cards, joint.cardId)).safe);
    return betweenRoundsMs(score, safe);
  }, [project, score]);
  const isOnce = routine.repeat.kind === "times" && routine.repeat.times === 1;
  const speed = useLive(useCallback(() => Math.round(liveHead("playSpeed") * 100) || 100, []));
  const recording = useLive(useCallback(() => liveHead("recording"), []));
  const range = useScoreView((view) => view.range);
  const cursorMs = useScoreView((view) => view.cursorMs);
  const isPlaying = at !== phase.idle;
  const readTime = useCallback(() => formatTime(isPlaying ? liveHead("scoreMs") : cursorMs), [isPlaying, cursorMs]);
  const readMore = useCallback(() => (isPlaying ? moreWords(routine) : ""), [isPlaying, routine]);
  const play = () => {
    const limp = jointIds.filter((id) => liveJoint(id, "isHeld") === 0);
    // At the very end there is nothing left to play: begin again.
    if (scoreView.getState().cursorMs >= score.lengthMs) scoreView.setState({ cursorMs: 0 });
    playFrom(routine, limp);
  };
  const isStill = at === phase.paused && recording === recordingStages.none;
  return (
    <div className="flex flex-wrap items-center gap-2">
      {isPlaying ? (
        <>
          <button
            type="button"
            className="btn btn-sm btn-neutral"
            title="Stop, and hold where they are (S)"
            onClick={() => {
              scoreView.setState({ cursorMs: 0 });
              command({ kind: recording ? "endRecord" : "stop" });
            }}
          >
            {recording ? "End recording" : "Stop and hold"}
          </button>
          <button
            type="button"
            className="btn btn-sm btn-outline w-20"
            title="Pause, or go on (P)"
            disabled={recording !== recordingStages.none}
            onClick={() => command({ kind: "pause" })}
          >
            {isStill ? "Go on" : "Pause"}
          </button>
          <button
            type="button"
            className="btn btn-sm btn-outline btn-square"
            aria-label="Step before"
            title="Step before (Shift N)"
            onClick={() => command({ kind: "skip", by: -1 })}
          >
            ⟨
          </button>
          <button
            type="button"
            className="btn btn-sm btn-outline btn-square"
            aria-label="Next step"
            title="Next step (N)"
            onClick={() => command({ kind: "skip", by: 1 })}
          >
            ⟩
          </button>
        </>
      ) : (
        <button type="button" className="btn btn-sm btn-primary w-36" disabled={jointIds.length === 0} onClick={play}>
          {limpCount > 0 ? `Hold ${limpCount} and play` : range ? "Play the part" : "Play"}
        </button>
      )}
      <LiveText read={readTime} box="ml-1 block h-7 w-24" className="text-right text-xl" />
      <span className="caption">
        of {formatTime(roundMs(score))}
        {routine.repeat.kind === "forever"
          ? ", over and over"
          : routine.repeat.times > 1
            ? `, ${routine.repeat.times} times`
            : ""}
        {!isOnce && betweenMs > 0 && (
          <span title="Each round begins where the last one left the joints; they are brought to its beginning softly first">
            , and {(betweenMs / 1000).toFixed(1)} s back between
          </span>
        )}
      </span>
      <LiveText read={readMore} className="caption min-w-0 truncate text-secondary" />
      <label className="ml-auto flex items-center gap-1.5">
        <span className="caption">at</span>
        <select
          className="select select-sm w-24 bg-base-100"
          aria-label="Speed of playing"
          value={speed}
          onChange={(event) => command({ kind: "playSpeed", speed: Number(event.target.value) / 100 })}
        >
          {(speeds.includes(speed) ? speeds : [...speeds, speed]).map((percent) => (
            <option key={percent} value={percent}>
              {percent} %
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

/** What else there is to say while it plays: what it waits for, which round, what is recorded. */
function moreWords(routine: Routine): string {
  const recording = liveHead("recording");
  if (recording === recordingStages.countIn) return `recording in ${Math.ceil(liveHead("phaseMs") / 1000)}…`;
  if (recording === recordingStages.running) return `recording ${formatTime(liveHead("recordedMs") || 0)}`;
  const words = phaseWords[liveHead("phase")];
  if (words) return words;
  const isRound = routine.repeat.kind === "forever" || routine.repeat.times > 1;
  const round = isRound ? `round ${liveHead("rounds") + 1}` : "";
  return liveHead("isReturning") === 1 ? `${round} on the way back` : round;
}
