import { jointOfLead } from "@core/project";
import { useProject } from "@stores/document";
import { useSelectedJoint } from "@stores/selection";
import { useEffect, useState } from "react";
import { Opened } from "../parts/Opened";
import { type StationId, stations } from "../stations";

/** The stations as places along a path: where work was done, where one stands, what is still empty. */
export default function StationPath() {
  return (
    <Opened>
      <Path />
    </Opened>
  );
}

function Path() {
  const here = usePlace();
  const done = useDone();
  return (
    <ol className="flex h-full items-stretch px-2">
      {stations.map((station, index) => {
        const isHere = station.id === here;
        const state = isHere ? "you are here" : done[station.id] ? "done" : "still empty";
        return (
          <li key={station.id} className="relative flex grow">
            {index > 0 && <span className="absolute top-[0.86rem] right-1/2 left-[-50%] h-px bg-base-content/35" />}
            <a
              href={`/${station.id}`}
              aria-current={isHere ? "page" : undefined}
              title={`${station.says} Key ${index + 1}.`}
              className={`relative flex grow flex-col items-center justify-center gap-0.5 rounded-sm hover:bg-base-200 ${isHere ? "font-bold" : ""}`}
            >
              <Place isHere={isHere} isDone={done[station.id]} />
              <span className={`text-[0.84rem] leading-none ${isHere ? "text-primary" : ""}`}>{station.label}</span>
              <span className="sr-only">, {state}</span>
            </a>
          </li>
        );
      })}
    </ol>
  );
}

/** Here is a brass diamond, done a filled square, empty an open one. */
function Place({ isHere, isDone }: { readonly isHere: boolean; readonly isDone: boolean }) {
  const look = isHere
    ? "fill-primary stroke-primary"
    : isDone
      ? "fill-base-content stroke-base-content"
      : "fill-base-100 stroke-base-content/60";
  return (
    <svg viewBox="-8 -8 16 16" className="size-4" aria-hidden="true">
      <rect
        x={-4.2}
        y={-4.2}
        width={8.4}
        height={8.4}
        strokeWidth={1.5}
        transform={isHere ? "rotate(45) scale(1.15)" : undefined}
        className={look}
      />
    </svg>
  );
}

/** The station of this page; this island stays when the page is swapped. */
function usePlace(): string {
  const [place, setPlace] = useState(() => location.pathname);
  useEffect(() => {
    const look = () => setPlace(location.pathname);
    document.addEventListener("astro:after-swap", look);
    return () => document.removeEventListener("astro:after-swap", look);
  }, []);
  return place.split("/").filter(Boolean)[0] ?? "";
}

/** Where something has been made already, for the selected joint or the whole project. */
function useDone(): Readonly<Record<StationId, boolean>> {
  const joint = useSelectedJoint();
  const isCalibrated = useProject(({ cards }) =>
    cards.some((card) => card.id === joint?.cardId && card.calibrations.length > 0),
  );
  const hasLead = useProject(({ leads }) => leads.some((lead) => jointOfLead(lead) === joint?.id));
  const hasPoses = useProject(({ poses }) => poses.length > 0);
  const hasMoves = useProject(({ routines }) => routines.some((routine) => routine.steps.length > 0));
  return {
    signal: joint !== null,
    drive: joint !== null,
    calibrate: isCalibrated,
    inputs: hasLead,
    poses: hasPoses,
    routine: hasMoves,
    bus: false,
    "hand-off": false,
  };
}
