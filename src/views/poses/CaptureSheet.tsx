import { capturePose, heldTargets } from "@stores/capture";
import { useProject } from "@stores/document";
import { posesView } from "@stores/posesView";
import { useState } from "react";
import { counted, formatIn } from "../parts/format";
import { Sheet } from "../parts/Sheet";

/** A pose of some of the held joints: what it leaves out it will leave alone. */
export function CaptureSheet({ onDone }: { readonly onDone: () => void }) {
  const joints = useProject((project) => project.joints);
  const [targets] = useState(heldTargets);
  const held = joints.filter((joint) => targets[joint.id] !== undefined);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const toggle = (id: string) => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    setLeft(next);
  };
  const capture = () => {
    capturePose(held.map((joint) => joint.id).filter((id) => !left.has(id)));
    posesView.setState({ chosenIds: [], search: "" });
    onDone();
  };
  return (
    <Sheet label="Capture some joints" onClose={onDone}>
      <h2 className="heading text-lg">Capture some joints</h2>
      <p className="caption mt-1">
        {held.length === 0
          ? "No joint is held. Hold those that the pose is about, then come back."
          : "Going to the pose will leave the others alone."}
      </p>
      <ul className="mt-2 max-h-80 overflow-y-auto shows-more">
        {held.map((joint) => (
          <li key={joint.id}>
            <label className="flex cursor-pointer items-center gap-2 py-0.5">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={!left.has(joint.id)}
                onChange={() => toggle(joint.id)}
              />
              <span className="grow">{joint.label}</span>
              <span className="number">
                {formatIn(targets[joint.id] as number, joint.axis.kind === "angle" ? "°" : "spin")}
              </span>
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex gap-2">
        <button type="button" className="btn btn-sm btn-primary" disabled={left.size >= held.length} onClick={capture}>
          Capture {counted(held.length - left.size, "joint")}
        </button>
        <button
          type="button"
          className="btn btn-sm btn-ghost"
          onClick={() => setLeft(new Set(left.size > 0 ? [] : held.map((joint) => joint.id)))}
        >
          {left.size > 0 ? "All" : "None"}
        </button>
      </div>
    </Sheet>
  );
}
