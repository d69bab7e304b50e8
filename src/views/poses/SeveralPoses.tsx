import { allOf, groupPoses, nudgePoses, type Pose, removePose } from "@core/project";
import { edit, useProject } from "@stores/document";
import { useState } from "react";
import { QuantityField } from "../parts/QuantityField";

/** Several poses at once: one movement of some joints in all of them, one heading, or away with them. */
export function SeveralPoses({ poses }: { readonly poses: readonly Pose[] }) {
  const joints = useProject((project) => project.joints);
  const shared = joints.filter((joint) => poses.some((pose) => pose.targets[joint.id] !== undefined));
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [byDeg, setByDeg] = useState(2);
  const [group, setGroup] = useState(poses[0]?.group ?? "");
  const chosen = new Set(shared.map((joint) => joint.id).filter((id) => !left.has(id)));
  const ids = new Set(poses.map((pose) => pose.id));
  const toggle = (id: string) => setLeft((before) => (before.has(id) ? without(before, id) : new Set([...before, id])));
  const nudge = (way: 1 | -1) => edit(nudgePoses(ids, chosen, way * byDeg));
  return (
    <section className="sheet flex min-h-0 flex-col gap-3 p-3" aria-label="Several poses">
      <h2 className="heading text-lg">{poses.length} poses</h2>
      <p className="caption">{poses.map((pose) => pose.name).join(", ")}</p>
      <fieldset className="min-h-0 grow overflow-y-auto shows-more">
        <legend className="caption mb-1">Nudge these joints in all of them</legend>
        <div className="flex gap-2 pb-2">
          <button type="button" className="btn btn-xs btn-ghost" onClick={() => setLeft(new Set())}>
            all
          </button>
          <button
            type="button"
            className="btn btn-xs btn-ghost"
            onClick={() => setLeft(new Set(shared.map((joint) => joint.id)))}
          >
            none
          </button>
        </div>
        {shared.map((joint) => (
          <label key={joint.id} className="flex cursor-pointer items-center gap-2 py-0.5">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={chosen.has(joint.id)}
              onChange={() => toggle(joint.id)}
            />
            {joint.label}
          </label>
        ))}
      </fieldset>
      <div className="flex items-end gap-2">
        <QuantityField
          label="By"
          value={byDeg}
          unit="°"
          decimals={1}
          step={0.5}
          onCommit={(value) => {
            setByDeg(value);
            return null;
          }}
          className="w-24"
        />
        <button type="button" className="btn btn-sm btn-outline" disabled={chosen.size === 0} onClick={() => nudge(-1)}>
          − Less
        </button>
        <button type="button" className="btn btn-sm btn-outline" disabled={chosen.size === 0} onClick={() => nudge(1)}>
          + More
        </button>
      </div>
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          edit(groupPoses(ids, group));
        }}
      >
        <label className="grow">
          <span className="caption mb-0.5 block">Heading</span>
          <input
            className="input input-sm w-full bg-base-100"
            value={group}
            onChange={(event) => setGroup(event.target.value)}
          />
        </label>
        <button type="submit" className="btn btn-sm btn-outline">
          Put them under it
        </button>
      </form>
      <button
        type="button"
        className="btn btn-xs btn-ghost self-end text-error"
        onClick={() =>
          edit(
            allOf(
              `Delete ${poses.length} poses`,
              poses.map((pose) => removePose(pose.id)),
            ),
          )
        }
      >
        Delete all {poses.length}
      </button>
    </section>
  );
}

const without = (ids: ReadonlySet<string>, id: string): ReadonlySet<string> =>
  new Set([...ids].filter((one) => one !== id));
