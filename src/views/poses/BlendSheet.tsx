import { blended } from "@core/pose";
import type { Pose } from "@core/project";
import { useProject } from "@stores/document";
import { showGhost } from "@stores/ghost";
import { useEffect, useState } from "react";
import { PosePicture } from "../figure/PosePicture";
import { useScene } from "../figure/useScene";
import { ChoiceField } from "../parts/ChoiceField";
import { Sheet } from "../parts/Sheet";
import { makePose } from "./makePose";

interface BlendSheetProps {
  readonly from: Pose;
  readonly onDone: () => void;
}

/** A pose between two others, seen before it is made. */
export function BlendSheet({ from, onDone }: BlendSheetProps) {
  const poses = useProject((project) => project.poses);
  const scene = useScene();
  const others = poses.filter(
    (pose) => pose.id !== from.id && Object.keys(pose.targets).some((id) => from.targets[id] !== undefined),
  );
  const [toId, setToId] = useState(others[0]?.id ?? "");
  const [percent, setPercent] = useState(50);
  const to = others.find((pose) => pose.id === toId);
  const targets = to ? blended(from.targets, to.targets, percent / 100) : null;
  useEffect(() => {
    showGhost(targets);
    return () => showGhost(from.targets);
  }, [targets, from]);
  return (
    <Sheet label="Blend two poses" onClose={onDone}>
      <h2 className="heading text-lg">Between {from.name} and another</h2>
      {to && targets ? (
        <div className="mt-3 space-y-3">
          <ChoiceField
            label="The other pose"
            value={toId}
            choices={others.map((pose) => [pose.id, pose.name] as const)}
            onChoose={setToId}
          />
          <label className="block">
            <span className="caption">
              {percent} % of the way: {Object.keys(targets).length} joints that both have
            </span>
            <input
              type="range"
              className="range range-sm w-full"
              min={0}
              max={100}
              value={percent}
              aria-label="How far along"
              onChange={(event) => setPercent(Number(event.target.value))}
            />
          </label>
          <div className="grid grid-cols-3 gap-3">
            {(
              [
                [from.name, from.targets],
                [`${percent} % of the way`, targets],
                [to.name, to.targets],
              ] as const
            ).map(([name, shown], at) => (
              <PosePicture
                // biome-ignore lint/suspicious/noArrayIndexKey: three places that never change.
                key={at}
                scene={scene}
                targets={shown}
                label={name}
                className="h-24 w-full rounded-box bg-scene-sky"
              />
            ))}
          </div>
          <div className="flex gap-2">
            <button
              type="button"
              className="btn btn-sm btn-primary"
              onClick={() => {
                makePose(
                  { ...from, name: `${from.name} ${percent} % ${to.name}`.slice(0, 80), targets },
                  from.id,
                  "Blend poses",
                );
                onDone();
              }}
            >
              Make the pose
            </button>
            <button type="button" className="btn btn-sm btn-ghost" onClick={onDone}>
              Cancel
            </button>
          </div>
        </div>
      ) : (
        <p className="mt-2">No other pose has a joint of this one.</p>
      )}
    </Sheet>
  );
}
