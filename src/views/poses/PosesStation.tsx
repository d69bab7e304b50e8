import { recapturePose, removePose, renamePose } from "@core/project";
import { timeUnitsS } from "@core/signal";
import { capturePose, heldTargets } from "@stores/capture";
import { edit, useProject } from "@stores/document";
import { command } from "@stores/live";
import { useState } from "react";
import { NameField } from "../parts/NameField";
import { Opened } from "../parts/Opened";
import { QuantityField } from "../parts/QuantityField";
import { WatchColumn } from "../scene/WatchColumn";
import { PoseTable } from "./PoseTable";

/** Capture, name, compare with now, and go to. */
export default function PosesStation() {
  return (
    <Opened isStation>
      <Poses />
    </Opened>
  );
}

function Poses() {
  const poses = useProject((project) => project.poses);
  const [chosenId, setChosenId] = useState<string | null>(null);
  const [moveS, setMoveS] = useState(1);
  const chosen = poses.find((pose) => pose.id === chosenId) ?? poses.at(-1);
  const capture = () => {
    capturePose();
    setChosenId(null);
  };
  return (
    <div className="flex h-full flex-col">
      <header className="mb-3 flex items-center gap-3">
        <h1 className="text-[1.45rem] leading-none font-bold tracking-tight">Poses</h1>
        <p className="caption">A pose remembers where the held joints stand.</p>
        <button type="button" className="btn btn-sm btn-primary ml-auto" title="Capture (C)" onClick={capture}>
          Capture a pose <kbd className="text-base-content">C</kbd>
        </button>
      </header>
      {!chosen ? (
        <div className="sheet mx-auto mt-10 max-w-xl text-center">
          <h2 className="heading text-lg">No poses yet</h2>
          <p className="mt-1">Hold the joints, jog them to where they should stand, then capture.</p>
        </div>
      ) : (
        <div className="grid min-h-0 grow grid-cols-[13rem_minmax(0,1.1fr)_minmax(0,1fr)] gap-5">
          <ul className="min-h-0 overflow-y-auto" aria-label="Poses">
            {poses.map((pose) => (
              <li key={pose.id}>
                <button
                  type="button"
                  aria-current={pose.id === chosen.id}
                  className={`flex w-full cursor-pointer items-baseline justify-between gap-2 border-l-4 px-2 py-1.5 text-left ${pose.id === chosen.id ? "border-primary bg-base-200 font-semibold" : "border-transparent hover:bg-base-200/70"}`}
                  onClick={() => setChosenId(pose.id)}
                >
                  <span className="truncate">{pose.name}</span>
                  <span className="caption shrink-0">{Object.keys(pose.targets).length} joints</span>
                </button>
              </li>
            ))}
          </ul>
          <section className="sheet flex min-h-0 flex-col" aria-label={chosen.name}>
            <div className="flex items-end gap-2">
              <NameField
                key={chosen.id}
                label="Name of the pose"
                value={chosen.name}
                onCommit={(name) => edit(renamePose(chosen.id, name))}
                className="heading grow text-lg"
              />
              <QuantityField
                label="in"
                value={moveS}
                unit="s"
                decimals={2}
                units={timeUnitsS}
                step={0.1}
                onCommit={(value) => {
                  if (value < 0 || value > 3600) return "0 s to one hour.";
                  setMoveS(value);
                  return null;
                }}
                className="w-24"
              />
              <button
                type="button"
                className="btn btn-sm btn-primary"
                onClick={() => command({ kind: "goToPose", poseId: chosen.id, moveMs: moveS * 1000 })}
              >
                Go to
              </button>
            </div>
            <PoseTable pose={chosen} />
            <div className="mt-3 flex gap-2">
              <button
                type="button"
                className="btn btn-xs btn-outline"
                onClick={() => edit(recapturePose(chosen.id, heldTargets()))}
              >
                Capture again
              </button>
              <button type="button" className="btn btn-xs btn-ghost" onClick={() => edit(removePose(chosen.id))}>
                Delete
              </button>
            </div>
          </section>
          <WatchColumn />
        </div>
      )}
    </div>
  );
}
