import { drawingOf, review, wiringForAll } from "@core/power";
import { setWiring } from "@core/project";
import { edit, newId, projectNow, useProject } from "@stores/document";
import { type PowerCase, powerView, usePowerView } from "@stores/powerView";
import { usePowerCourse } from "@stores/powerWork";
import { openTab, tabsOf, useOpenTab } from "@stores/stationTabs";
import { useMemo } from "react";
import { Opened } from "../parts/Opened";
import { TabPanel, TabStrip } from "../parts/TabStrip";
import { CoursePanel } from "./CoursePanel";
import { PaperPanel } from "./PaperPanel";
import { PowerReadout } from "./PowerReadout";
import { ReviewPanel } from "./ReviewPanel";
import { ThingsPanel } from "./ThingsPanel";
import { useFlow } from "./useFlow";
import { WiringDrawing } from "./WiringDrawing";

const cases: readonly (readonly [PowerCase, string])[] = [
  ["now", "now"],
  ["standing", "all stand"],
  ["moving", "all turn"],
  ["starting", "all start"],
];

/** What feeds what, and what would burn before anything does. */
export default function PowerStation() {
  return (
    <Opened isStation>
      <Station />
    </Opened>
  );
}

function Station() {
  const project = useProject((current) => current);
  const tab = useOpenTab("power");
  const shows = usePowerView((view) => view.shows);
  const chosen = usePowerView((view) => view.chosen);
  const found = useMemo(() => review(project), [project]);
  const drawing = useMemo(() => drawingOf(project), [project]);
  const flow = useFlow(project, shows);
  const isEmpty = project.supplies.length === 0;
  const routineId = usePowerView((view) => view.routineId);
  const charge = usePowerView((view) => view.charge);
  const routine = project.routines.find(({ id }) => id === routineId) ?? project.routines[0];
  const course = usePowerCourse(isEmpty ? null : (routine?.id ?? null), charge);
  const tabs = tabsOf("power").map(
    ([id, name]) => [id, id === "review" && found.length > 0 ? `${name} ${found.length}` : name] as const,
  );
  return (
    <div className="flex h-full flex-col">
      <header className="mb-3 flex items-center gap-2">
        <h1 className="text-[1.45rem] leading-none font-bold tracking-tight">Power</h1>
        <p className="caption mr-auto">What feeds what, and what would burn before anything does.</p>
        <fieldset className="flex items-center gap-1.5">
          <legend className="sr-only">Which currents are shown</legend>
          {cases.map(([id, words]) => (
            <label
              key={id}
              className={`btn btn-xs cursor-pointer has-focus-visible:outline-2 ${shows === id ? "btn-neutral" : "btn-outline"}`}
            >
              <input
                type="radio"
                name="power-case"
                className="sr-only"
                checked={shows === id}
                onChange={() => powerView.setState({ shows: id })}
              />
              {words}
            </label>
          ))}
        </fieldset>
      </header>
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_20rem] gap-4">
        {isEmpty ? (
          <Beginning />
        ) : (
          <div className="flex min-h-0 flex-col">
            <WiringDrawing drawing={drawing} project={project} flow={flow} found={found} chosen={chosen} />
            <PowerReadout
              project={project}
              flow={flow}
              chosen={chosen}
              course={course.course}
              routineName={routine?.name ?? ""}
            />
          </div>
        )}
        <div className="flex min-h-0 flex-col">
          <TabStrip
            label="What is looked at"
            tabs={tabs}
            chosen={tab}
            onChoose={(next) => openTab("power", next)}
            panelId="power-panel"
          />
          <TabPanel
            id="power-panel"
            tab={tab}
            className="min-h-0 grow overflow-y-auto shows-more pt-3 pr-1"
            tabIndex={0}
          >
            {tab === "review" ? (
              <ReviewPanel found={found} isEmpty={isEmpty} />
            ) : tab === "things" ? (
              <ThingsPanel project={project} flow={flow} />
            ) : tab === "course" ? (
              <CoursePanel project={project} routine={routine} state={course} />
            ) : (
              <PaperPanel project={project} drawing={drawing} />
            )}
          </TabPanel>
        </div>
      </div>
    </div>
  );
}

/** Nothing is wired yet: a supply for each voltage, and a cable for each servo, as a beginning that can be changed. */
function Beginning() {
  const hasJoints = useProject((project) => project.joints.length > 0);
  return (
    <div className="sheet m-auto max-w-md text-center">
      <h2 className="heading text-lg">Nothing is fed yet</h2>
      <p className="mt-1">
        {hasJoints
          ? "Begin with an adapter for each voltage on your servo cards, a rail, and a usual cable to each servo. Then make it what lies on your table."
          : "Add a joint first: what it needs is on its servo's card."}
      </p>
      {hasJoints && (
        <button type="button" className="btn btn-sm btn-primary mt-3" onClick={() => edit(wireAll())}>
          Wire all servos
        </button>
      )}
    </div>
  );
}

const wireAll = () => setWiring("Wire all servos", wiringForAll(projectNow(), newId));
