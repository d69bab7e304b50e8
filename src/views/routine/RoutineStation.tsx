import { addRoutine, emptyRoutine, type Routine } from "@core/project";
import { edit, newId, useProject } from "@stores/document";
import { useExamination, useExaminer } from "@stores/examination";
import { liveHead, useLive } from "@stores/live";
import { openRoutine, useScoreView } from "@stores/scoreView";
import { openTab, tabsOf, useOpenTab } from "@stores/stationTabs";
import { Fragment, useCallback, useState } from "react";
import { FigurePicture } from "../figure/FigurePicture";
import { Fetched } from "../parts/Fetched";
import { lazily } from "../parts/lazily";
import { Opened } from "../parts/Opened";
import { TabPanel, TabStrip } from "../parts/TabStrip";
import { CheckPanel } from "./CheckPanel";
import { ScoreBoard } from "./ScoreBoard";
import { SettingsPanel } from "./SettingsPanel";
import { StepList } from "./StepList";
import { Transport } from "./Transport";
import { useScore } from "./useScore";

const TakesPanel = lazily(async () => ({ default: (await import("./TakesPanel")).TakesPanel }));
const StageView = lazily(async () => ({ default: (await import("./StageView")).StageView }));

/** Sequence poses, record takes, see that the servos can do it, and play. */
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
  const chosenId = useScoreView((view) => view.routineId);
  // One routine goes on the stage: if it is undone there, no other takes its place.
  const [stagedId, setStagedId] = useState<string | null>(null);
  const chosen = routines.find((routine) => routine.id === chosenId) ?? routines[playing] ?? routines[0];
  const create = () => {
    const routine = emptyRoutine(newId(), `Routine ${routines.length + 1}`);
    if (edit(addRoutine(routine))) openRoutine(routine.id);
  };
  return (
    <div className="flex h-full flex-col">
      <header className="mb-2 flex flex-wrap items-center gap-1.5">
        <h1 className="mr-2 text-[1.45rem] leading-none font-bold tracking-tight">Routine</h1>
        {routines.length <= 6 ? (
          routines.map((routine) => (
            <button
              key={routine.id}
              type="button"
              aria-pressed={routine.id === chosen?.id}
              className={`btn btn-sm ${routine.id === chosen?.id ? "btn-neutral" : "btn-outline"}`}
              onClick={() => openRoutine(routine.id)}
            >
              {routine.name}
            </button>
          ))
        ) : (
          <select
            className="select select-sm w-56 bg-base-100"
            aria-label="Routine"
            value={chosen?.id}
            onChange={(event) => openRoutine(event.target.value)}
          >
            {routines.map((routine) => (
              <option key={routine.id} value={routine.id}>
                {routine.name}
              </option>
            ))}
          </select>
        )}
        <button type="button" className="btn btn-sm btn-ghost" onClick={create}>
          New routine
        </button>
        {chosen && (
          <button type="button" className="btn btn-sm btn-outline ml-auto" onClick={() => setStagedId(chosen.id)}>
            Stage
          </button>
        )}
      </header>
      {chosen ? (
        <RoutineBench key={chosen.id} routine={chosen} />
      ) : (
        <div className="sheet mx-auto mt-10 max-w-xl text-center">
          <h2 className="heading text-lg">No routines yet</h2>
          <p className="mt-1">A routine is a score over your poses and takes. Make one, then add moves or record.</p>
          <button type="button" className="btn btn-primary mt-3" onClick={create}>
            Make the first one
          </button>
        </div>
      )}
      <Fetched>
        {chosen && chosen.id === stagedId && <StageView routine={chosen} onDone={() => setStagedId(null)} />}
      </Fetched>
    </div>
  );
}

function RoutineBench({ routine }: { readonly routine: Routine }) {
  const { score, problem } = useScore(routine);
  useExaminer(routine.id);
  const tab = useOpenTab("routine");
  if (!score)
    return (
      <p role="alert" className="sheet text-error">
        {problem} Undo, or take that step out.
      </p>
    );
  return (
    <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_20rem] gap-4" id="score">
      <section className="flex min-h-0 flex-col gap-2" aria-label={routine.name}>
        <Transport routine={routine} score={score} />
        <ScoreBoard routine={routine} score={score} />
      </section>
      <section className="flex min-h-0 flex-col gap-2" aria-label="About the routine">
        <FigurePicture className="aspect-[2/1] w-full shrink-0 rounded-box" showsGhost />
        <TabStrip
          label="About the routine"
          tabs={tabsOf("routine").map(
            ([id, words]) =>
              [
                id,
                <Fragment key={id}>
                  {words}
                  {id === "check" && <FindingCount routine={routine} />}
                </Fragment>,
              ] as const,
          )}
          chosen={tab}
          onChoose={(next) => openTab("routine", next)}
          panelId="about-routine"
          className="shrink-0"
        />
        <TabPanel id="about-routine" tab={tab} className="flex min-h-0 grow flex-col gap-2">
          {tab === "steps" && <StepList routine={routine} score={score} />}
          {tab === "check" && <CheckPanel routine={routine} />}
          {tab === "takes" && (
            <Fetched>
              <TakesPanel routine={routine} />
            </Fetched>
          )}
          {tab === "settings" && <SettingsPanel routine={routine} score={score} />}
        </TabPanel>
      </section>
    </div>
  );
}

function FindingCount({ routine }: { readonly routine: Routine }) {
  const { examination } = useExamination(routine.id);
  const count = examination?.findings.length ?? 0;
  return count > 0 ? <span className="number ml-1.5 rounded-sm bg-error px-1 text-error-content">{count}</span> : null;
}
