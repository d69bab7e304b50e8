import { jointOfLead } from "@core/project";
import { useProject } from "@stores/document";
import { useSelectedJoint } from "@stores/selection";
import { useEffect, useState } from "react";
import { Opened } from "../parts/Opened";
import { type StationId, stations } from "../stations";

/** The stations as places along a path: where work was done, where one stands, what is still empty. */
export function StationPath() {
  return (
    <Opened>
      <Path />
    </Opened>
  );
}

function Path() {
  const here = usePlace();
  const left = useRemaining();
  return (
    <ol className="flex h-full items-stretch px-2">
      {stations.map((station, index) => {
        const isHere = station.id === here;
        const remaining = left[station.id];
        const words = remaining === null ? "" : remaining === "" ? "Done for what is here." : remaining;
        return (
          <li key={station.id} className="relative flex grow">
            {index > 0 && <span className="absolute top-[0.86rem] right-1/2 left-[-50%] h-px bg-base-content/35" />}
            <a
              href={`/${station.id}`}
              aria-current={isHere ? "page" : undefined}
              title={`${station.says} ${words} Key ${station.key}.`}
              className={`relative flex grow flex-col items-center justify-center gap-0.5 rounded-sm hover:bg-base-200 ${isHere ? "font-bold" : ""}`}
            >
              <Place isHere={isHere} remaining={remaining} />
              <span className={`text-[0.84rem] leading-none ${isHere ? "text-primary" : ""}`}>{station.label}</span>
              <span className="sr-only">{isHere ? ", you are here" : words && `, ${words}`}</span>
            </a>
          </li>
        );
      })}
    </ol>
  );
}

interface PlaceProps {
  readonly isHere: boolean;
  readonly remaining: string | null;
}

/** Here is a brass diamond; done a filled square, something left an open one; a dot where nothing is kept. */
function Place({ isHere, remaining }: PlaceProps) {
  const look = isHere
    ? "fill-primary stroke-primary"
    : remaining === ""
      ? "fill-base-content stroke-base-content"
      : "fill-base-100 stroke-base-content/60";
  return (
    <svg viewBox="-8 -8 16 16" className="size-4" aria-hidden="true">
      {remaining === null && !isHere ? (
        <circle r={2.6} className="fill-base-content/60" />
      ) : (
        <rect
          x={-4.2}
          y={-4.2}
          width={8.4}
          height={8.4}
          strokeWidth={1.5}
          transform={isHere ? "rotate(45) scale(1.15)" : undefined}
          className={look}
        />
      )}
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

/**
 * What is left to do at each station, for the selected joint or the whole project, in a sentence: empty where it is done, null at a station that keeps
 * nothing, to which one goes to work something out or to move.
 */
function useRemaining(): Readonly<Record<StationId, string | null>> {
  const joint = useSelectedJoint();
  const name = joint?.label ?? "";
  const isCalibrated = useProject(({ cards }) =>
    cards.some((card) => card.id === joint?.cardId && card.calibrations.length > 0),
  );
  const hasLead = useProject(({ leads }) => leads.some((lead) => jointOfLead(lead) === joint?.id));
  const hasPads = useProject(({ pads }) => pads.length > 0);
  const hasFigure = useProject(({ figures }) => figures.length > 0);
  const hasSupply = useProject(({ supplies }) => supplies.length > 0);
  const hasPoses = useProject(({ poses }) => poses.length > 0);
  const hasMoves = useProject(({ routines }) => routines.some((routine) => routine.steps.length > 0));
  return {
    signal: null,
    drive: null,
    calibrate: !joint ? "Add a joint first." : isCalibrated ? "" : `The servo of ${name} has not been measured yet.`,
    inputs: !joint ? "Add a joint first." : hasLead ? "" : `Nothing leads to ${name} yet.`,
    figure: hasFigure ? "" : "No figure has been made yet.",
    poses: hasPoses ? "" : "No pose has been captured yet.",
    routine: hasMoves ? "" : "No routine has a step yet.",
    bus: null,
    power: hasSupply ? "" : "Nothing says what feeds the servos.",
    remote: hasPads ? "" : "No pad has been laid out yet.",
    "hand-off": null,
  };
}
