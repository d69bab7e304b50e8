import { addRoutine, addStep, type Routine, removeRoutine, renameRoutine, setLoop } from "@core/project";
import { roundMs } from "@core/routine";
import { edit, newId, projectNow, useProject } from "@stores/document";
import { liveHead, useLive } from "@stores/live";
import { useCallback, useState } from "react";
import { formatTime } from "../parts/format";
import { NameField } from "../parts/NameField";
import { Opened } from "../parts/Opened";
import { WatchColumn } from "../scene/WatchColumn";
import { MoveList } from "./MoveList";
import { PlayControls } from "./PlayControls";
import { ScoreStrip } from "./ScoreStrip";

/** Put poses in order and play them. */
export default function RoutineStation() {
  return (
    <Opened isStation>
      <Routines />
    </Opened>
  );
}

function Routines() {
  const routines = useProject((project) => project.routines);
  const playing = useLive(useCallback(() => liveHead("routineIndex"), []));
  const [chosenId, setChosenId] = useState<string | null>(null);
  const chosen = routines.find((routine) => routine.id === chosenId) ?? routines[playing] ?? routines[0];
  const create = () => {
    const routine: Routine = { id: newId(), name: `Routine ${routines.length + 1}`, loop: false, steps: [] };
    if (!edit(addRoutine(routine))) setChosenId(routine.id);
  };
  return (
    <div className="flex h-full flex-col">
      <header className="mb-3 flex flex-wrap items-center gap-2">
        <h1 className="mr-2 text-[1.45rem] leading-none font-bold tracking-tight">Routine</h1>
        {routines.map((routine) => (
          <button
            key={routine.id}
            type="button"
            aria-pressed={routine.id === chosen?.id}
            className={`btn btn-sm ${routine.id === chosen?.id ? "btn-neutral" : "btn-outline"}`}
            onClick={() => setChosenId(routine.id)}
          >
            {routine.name}
          </button>
        ))}
        <button type="button" className="btn btn-sm btn-ghost" onClick={create}>
          New routine
        </button>
      </header>
      {chosen ? (
        <RoutineBench key={chosen.id} routine={chosen} />
      ) : (
        <div className="sheet mx-auto mt-10 max-w-xl text-center">
          <h2 className="heading text-lg">No routines yet</h2>
          <p className="mt-1">A routine is a row of moves over your poses. Make one, then add moves.</p>
        </div>
      )}
    </div>
  );
}

function RoutineBench({ routine }: { readonly routine: Routine }) {
  const poses = useProject((project) => project.poses);
  const add = () => {
    const pose = projectNow().poses.at(-1);
    if (pose)
      edit(
        addStep(routine.id, { kind: "move", id: newId(), poseId: pose.id, moveMs: 1000, holdMs: 500, easing: "soft" }),
      );
  };
  return (
    <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_22rem] gap-5">
      <section className="sheet flex min-h-0 flex-col gap-3" aria-label={routine.name}>
        <div className="flex items-center gap-3">
          <NameField
            label="Name of the routine"
            value={routine.name}
            onCommit={(name) => edit(renameRoutine(routine.id, name))}
            className="heading grow text-lg"
          />
          <span className="caption number">{formatTime(roundMs(routine))} a round</span>
          <label className="flex cursor-pointer items-center gap-1.5 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={routine.loop}
              onChange={() => edit(setLoop(routine.id, !routine.loop))}
            />
            loop
          </label>
        </div>
        <PlayControls routine={routine} />
        <ScoreStrip routine={routine} />
        <div className="min-h-0 grow overflow-y-auto">
          {routine.steps.length === 0 ? (
            <p className="caption py-4">
              {poses.length === 0
                ? "There are no poses to move to yet. Capture some at the station Poses."
                : "No moves yet. Add the first; it goes to your newest pose, and you can choose another."}
            </p>
          ) : (
            <MoveList routine={routine} />
          )}
        </div>
        <div className="flex gap-2">
          <button type="button" className="btn btn-sm btn-outline" disabled={poses.length === 0} onClick={add}>
            Add a move
          </button>
          <button
            type="button"
            className="btn btn-sm btn-ghost ml-auto"
            onClick={() => edit(removeRoutine(routine.id))}
          >
            Delete the routine
          </button>
        </div>
      </section>
      <WatchColumn />
    </div>
  );
}
