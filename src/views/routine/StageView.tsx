import type { Routine } from "@core/project";
import { jointsOf, nextStartMs, noRoutine, phase, roundMs, stepAt } from "@core/routine";
import { stepWords } from "@core/steps";
import { useProject } from "@stores/document";
import { onKeys } from "@stores/keyboard";
import { armTimetables, command, liveHead, liveJoint, onLive, useLive } from "@stores/live";
import { scoreView } from "@stores/scoreView";
import { useCallback, useEffect, useRef, useState } from "react";
import { FigurePicture } from "../figure/FigurePicture";
import { LinkWords } from "../frame/LinkWords";
import { formatTime } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { Notices } from "../parts/Notices";
import { ReleaseAll } from "../parts/ReleaseAll";
import { useAwake } from "../parts/useAwake";
import { playFrom } from "./Transport";
import { useNames } from "./useNames";
import { useScore } from "./useScore";

interface StageViewProps {
  readonly routine: Routine;
  readonly onDone: () => void;
}

/** While it is open nothing of the bench behind it is painted (see `bench.css`). */
const onStage = "is-on-stage";

/**
 * For running a show: the scene, what plays, how far it is, how the boards are, and a few large buttons. Nothing here can be edited by mistake; keys that are
 * sources move what they move.
 */
export function StageView({ routine, onDone }: StageViewProps) {
  useAwake();
  const project = useProject((current) => current);
  const names = useNames();
  const { score, problem } = useScore(routine);
  const dialog = useRef<HTMLDialogElement>(null);
  const bar = useRef<HTMLDivElement>(null);
  const index = project.routines.indexOf(routine);
  const playing = useLive(useCallback(() => liveHead("routineIndex"), []));
  const at = useLive(useCallback(() => liveHead("phase"), []));
  const isThis = playing === index;
  useEffect(() => {
    const element = dialog.current;
    element?.showModal();
    document.body.classList.add(onStage);
    return () => {
      document.body.classList.remove(onStage);
      element?.close();
    };
  }, []);
  useEffect(() => {
    const show = () => {
      const done = isThis && score ? Math.min(1, liveHead("scoreMs") / Math.max(1, score.lengthMs)) : 0;
      // In steps of a thousandth: what is not seen to move costs no picture.
      const place = `translateX(${Math.round(1000 * done) / 10 - 100}%)`;
      if (bar.current && bar.current.style.transform !== place) bar.current.style.transform = place;
    };
    show();
    return onLive(show);
  }, [score, isThis]);
  // Where the one button was that begins or ends it, the other has the focus: Space and Enter do what is seen.
  const isThere = score !== null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: which button stands there is what it waits for.
  useEffect(() => dialog.current?.querySelector<HTMLElement>("[data-first]")?.focus(), [isThis, isThere]);
  const readTime = useCallback(() => formatTime(isThis ? liveHead("scoreMs") : 0), [isThis]);
  const readStep = useCallback(() => {
    if (!score) return problem;
    if (!isThis) return playing === noRoutine ? "Ready" : "Something else plays";
    if (liveHead("phase") === phase.leadIn) return "Going to the beginning";
    const step = score.spans[stepAt(score, liveHead("scoreMs"))]?.step;
    return step ? stepWords(step, names) : "Playing";
  }, [score, problem, isThis, playing, names]);
  const start = () => {
    scoreView.setState({ cursorMs: 0, range: null });
    playFrom(
      routine,
      jointsOf(project, routine).filter((id) => liveJoint(id, "isHeld") === 0),
    );
  };
  const onPress = useRef(() => {});
  onPress.current = () => {
    if (isThis) command({ kind: "pause" });
    else if (score) start();
  };
  useEffect(
    () =>
      onKeys("bench", ({ key, ctrlKey, metaKey, altKey, repeat }) => {
        if (key.toUpperCase() !== "P" || ctrlKey || metaKey || altKey) return false;
        if (!repeat) onPress.current();
        return true;
      }),
    [],
  );
  return (
    <dialog ref={dialog} aria-label="Stage" className="modal" data-stage onClose={onDone}>
      <div className="flex h-screen w-screen flex-col bg-base-100 p-8">
        <div className="flex items-center gap-6">
          <h2 className="max-w-[40%] truncate text-4xl font-bold tracking-tight">{routine.name}</h2>
          <LiveText
            read={readStep}
            box="h-[1.3em] min-w-0 grow text-2xl"
            className="truncate font-sans text-secondary"
          />
          <LinkWords />
          <button type="button" className="btn btn-ghost" onClick={onDone}>
            Leave the stage
          </button>
        </div>
        <FigurePicture className="my-5 min-h-0 w-full grow rounded-box" />
        <div className="flex shrink-0 items-center gap-5">
          <div className="h-4 grow overflow-hidden rounded-sm border border-base-300 bg-base-200">
            <div ref={bar} className="h-full bg-primary will-change-transform" />
          </div>
          <LiveText read={readTime} box="h-[1.2em] w-[11ch] shrink-0 font-mono text-4xl" className="text-right" />
          {score && <span className="number shrink-0 text-2xl">of {formatTime(roundMs(score))}</span>}
        </div>
        <div className="mt-4 flex flex-wrap items-center gap-4">
          {isThis ? (
            <>
              <button
                type="button"
                className="btn btn-xl btn-neutral"
                data-first
                onClick={() => command({ kind: "stop" })}
              >
                Stop and hold
              </button>
              <button type="button" className="btn btn-xl btn-outline" onClick={() => command({ kind: "pause" })}>
                {at === phase.paused ? "Go on" : "Pause"} <kbd>P</kbd>
              </button>
              <button type="button" className="btn btn-xl btn-outline" onClick={() => command({ kind: "skip", by: 1 })}>
                Next step
              </button>
            </>
          ) : (
            <button
              type="button"
              className="btn btn-xl btn-primary px-16"
              data-first
              disabled={score === null}
              onClick={start}
            >
              Start <kbd className="border-primary-content/40 bg-transparent text-primary-content">P</kbd>
            </button>
          )}
          <Armed routine={routine} />
          <ReleaseAll className="btn-xl ml-auto" />
        </div>
      </div>
      <Notices at="stage" />
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
    const next = new Date(nextStartMs(timetable, now, armedMs, (ms) => new Date(ms).getTimezoneOffset()));
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
