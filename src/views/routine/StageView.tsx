import type { Routine } from "@core/project";
import { jointsOf, nextStartMs, noRoutine, phase, roundMs, stepAt } from "@core/routine";
import { stepWords } from "@core/steps";
import { useProject } from "@stores/document";
import { armTimetables, command, liveHead, liveJoint, onLive, useLive } from "@stores/live";
import { scoreView } from "@stores/scoreView";
import { useCallback, useEffect, useRef, useState } from "react";
import { FigurePicture } from "../figure/FigurePicture";
import { formatTime } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { playFrom } from "./Transport";
import { useNames } from "./useNames";
import { useScore } from "./useScore";

interface StageViewProps {
  readonly routine: Routine;
  readonly onDone: () => void;
}

/** For running a show: the scene, what plays, how far it is, and three large buttons. Nothing here can be edited by mistake. */
export function StageView({ routine, onDone }: StageViewProps) {
  const project = useProject((current) => current);
  const names = useNames();
  const { score } = useScore(routine);
  const dialog = useRef<HTMLDialogElement>(null);
  const bar = useRef<HTMLDivElement>(null);
  const index = project.routines.indexOf(routine);
  const playing = useLive(useCallback(() => liveHead("routineIndex"), []));
  const at = useLive(useCallback(() => liveHead("phase"), []));
  const isThis = playing === index;
  useEffect(() => {
    const element = dialog.current;
    element?.showModal();
    return () => element?.close();
  }, []);
  useEffect(
    () =>
      onLive(() => {
        if (!bar.current || !score) return;
        const done = isThis ? Math.min(1, liveHead("scoreMs") / Math.max(1, score.lengthMs)) : 0;
        bar.current.style.width = `${(done * 100).toFixed(2)}%`;
      }),
    [score, isThis],
  );
  const readTime = useCallback(() => formatTime(isThis ? liveHead("scoreMs") : 0), [isThis]);
  const readStep = useCallback(() => {
    if (!score || !isThis) return playing === noRoutine ? "Ready" : "Something else plays";
    if (liveHead("phase") === phase.leadIn) return "Going to the beginning";
    const step = score.spans[stepAt(score, liveHead("scoreMs"))]?.step;
    return step ? stepWords(step, names) : "Playing";
  }, [score, isThis, playing, names]);
  if (!score) return null;
  const start = () => {
    scoreView.setState({ cursorMs: 0, range: null });
    playFrom(
      routine,
      jointsOf(project, routine).filter((id) => liveJoint(id, "isHeld") === 0),
    );
  };
  return (
    <dialog ref={dialog} aria-label="Stage" className="modal" onClose={onDone}>
      <div className="flex h-screen w-screen flex-col bg-base-100 p-8">
        <div className="flex items-baseline gap-6">
          <h2 className="text-4xl font-bold tracking-tight">{routine.name}</h2>
          <LiveText read={readStep} className="grow text-2xl text-secondary" />
          <button type="button" className="btn btn-ghost" onClick={onDone}>
            Leave the stage
          </button>
        </div>
        <FigurePicture className="my-5 min-h-0 w-full grow rounded-box" />
        <div className="h-4 w-full rounded-sm border border-base-300 bg-base-200">
          <div ref={bar} className="h-full rounded-sm bg-primary" />
        </div>
        <div className="mt-4 flex items-center gap-4">
          {isThis ? (
            <>
              <button type="button" className="btn btn-xl btn-neutral" onClick={() => command({ kind: "stop" })}>
                Stop and hold
              </button>
              <button type="button" className="btn btn-xl btn-outline" onClick={() => command({ kind: "pause" })}>
                {at === phase.paused ? "Go on" : "Pause"}
              </button>
              <button type="button" className="btn btn-xl btn-outline" onClick={() => command({ kind: "skip", by: 1 })}>
                Next step
              </button>
            </>
          ) : (
            <button type="button" className="btn btn-xl btn-primary px-16" onClick={start}>
              Start
            </button>
          )}
          <LiveText read={readTime} className="ml-4 text-5xl" />
          <span className="number text-2xl">of {formatTime(roundMs(score))}</span>
          <Armed routine={routine} />
        </div>
      </div>
    </dialog>
  );
}

/** The timetable, which starts nothing until a person arms it here, and nothing once the stage is left. */
function Armed({ routine }: { readonly routine: Routine }) {
  const [armedMs, setArmedMs] = useState<number | null>(null);
  useEffect(() => {
    armTimetables(armedMs === null ? [] : [routine.id]);
  }, [armedMs, routine.id]);
  useEffect(() => () => armTimetables([]), []);
  const { timetable } = routine;
  const readNext = useCallback(() => {
    if (armedMs === null || !timetable) return "";
    const now = Date.now();
    const next = new Date(nextStartMs(timetable, now, armedMs, new Date(now).getTimezoneOffset()));
    return `next at ${next.toTimeString().slice(0, 8)}`;
  }, [armedMs, timetable]);
  if (!timetable) return <span className="caption ml-auto">No timetable: it starts when you say so.</span>;
  return (
    <span className="ml-auto flex items-center gap-3">
      <LiveText read={readNext} className="text-xl" />
      <label className="flex cursor-pointer items-center gap-2 text-lg">
        <input
          type="checkbox"
          className="toggle toggle-lg"
          checked={armedMs !== null}
          onChange={() => setArmedMs(armedMs === null ? Date.now() : null)}
        />
        {timetable.kind === "every" ? `every ${timetable.minutes} min` : `at ${timetable.at.join(", ")}`}
      </label>
    </span>
  );
}
