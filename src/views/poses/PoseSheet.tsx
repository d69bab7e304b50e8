import { mirrored, mirrorOf, unmirrored } from "@core/pose";
import { groupPoses, type Pose, recapturePose, removePose, renamePose } from "@core/project";
import { timeUnitsS } from "@core/signal";
import { heldTargets } from "@stores/capture";
import { edit, projectNow, useProject } from "@stores/document";
import { command } from "@stores/live";
import { notify } from "@stores/notices";
import { posesView, poseUnits, usePosesView } from "@stores/posesView";
import { useState } from "react";
import { PosePicture } from "../figure/PosePicture";
import { useScene } from "../figure/useScene";
import { ChoiceField } from "../parts/ChoiceField";
import { NameField } from "../parts/NameField";
import { QuantityField } from "../parts/QuantityField";
import { BlendSheet } from "./BlendSheet";
import { makePose } from "./makePose";
import { PoseMeetings } from "./PoseMeetings";
import { PoseTable } from "./PoseTable";

const now = "now";

/** One pose: its name, what it is held against, going there, and what can be made of it. */
export function PoseSheet({ pose }: { readonly pose: Pose }) {
  const project = useProject((current) => current);
  const scene = useScene();
  const { poses } = project;
  const against = usePosesView((view) => view.againstId);
  const isAiming = usePosesView((view) => view.isAiming);
  const unit = usePosesView((view) => view.unit);
  const [moveS, setMoveS] = useState(1);
  const [isBlending, setIsBlending] = useState(false);
  const other = poses.find((one) => one.id === against && one.id !== pose.id) ?? null;
  return (
    <section className="sheet flex min-h-0 flex-col p-3" aria-label={pose.name}>
      <div className="flex items-end gap-2">
        <NameField
          key={pose.id}
          label="Name of the pose"
          value={pose.name}
          onCommit={(name) => edit(renamePose(pose.id, name))}
          className="heading min-w-0 grow text-lg"
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
          className="w-22"
        />
        <button
          type="button"
          className="btn btn-sm btn-primary"
          onClick={() => command({ kind: "goToPose", poseId: pose.id, moveMs: moveS * 1000 })}
        >
          Go to
        </button>
      </div>
      <div className="mt-2 flex items-end gap-2">
        <ChoiceField
          label="Held against"
          value={other?.id ?? now}
          choices={[
            [now, "where they stand now"],
            ...poses.filter((one) => one.id !== pose.id).map((one) => [one.id, one.name] as const),
          ]}
          onChoose={(id) => posesView.setState({ againstId: id === now ? null : id })}
          className="min-w-0 grow"
        />
        <ChoiceField
          label="Numbers in"
          value={unit}
          choices={poseUnits}
          onChoose={(next) => posesView.setState({ unit: next })}
          className="w-28"
        />
        <GroupField key={`${pose.id}${pose.group}`} pose={pose} />
      </div>
      <PosePicture
        scene={scene}
        targets={pose.targets}
        label={`${pose.name}, as the figure stands in it`}
        className="mt-2 h-26 w-full shrink-0 rounded-box bg-scene-sky"
      />
      <PoseMeetings project={project} pose={pose} />
      <div className="mt-2 min-h-0 grow overflow-y-auto shows-more">
        <PoseTable pose={pose} against={other} />
      </div>
      <label className="mt-2 flex cursor-pointer items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={isAiming}
          onChange={() => posesView.setState({ isAiming: !isAiming })}
        />
        The dial edits the pose, and moves nothing
      </label>
      <div className="mt-2 flex flex-wrap gap-1.5">
        <button
          type="button"
          className="btn btn-xs btn-outline"
          onClick={() => edit(recapturePose(pose.id, heldTargets()))}
        >
          Capture again
        </button>
        <button type="button" className="btn btn-xs btn-outline" onClick={() => mirror(pose)}>
          Mirror
        </button>
        <button
          type="button"
          className="btn btn-xs btn-outline"
          disabled={poses.length < 2}
          onClick={() => setIsBlending(true)}
        >
          Blend
        </button>
        <button
          type="button"
          className="btn btn-xs btn-outline"
          onClick={() => makePose({ ...pose, name: `${pose.name}, copy` }, pose.id, "Copy pose")}
        >
          Copy
        </button>
        <button
          type="button"
          className="btn btn-xs btn-ghost ml-auto text-error"
          onClick={() => edit(removePose(pose.id))}
        >
          Delete
        </button>
      </div>
      {isBlending && <BlendSheet from={pose} onDone={() => setIsBlending(false)} />}
    </section>
  );
}

function mirror(pose: Pose): void {
  const project = projectNow();
  const pairs = mirrorOf(project);
  const left = unmirrored(pose.targets, pairs);
  if (left.length === Object.keys(pose.targets).length) {
    notify("No rig says which of these joints are left and right. Say so under “Left and right”.", "warning");
    return;
  }
  makePose({ ...pose, name: `${pose.name}, mirrored`, targets: mirrored(pose.targets, pairs) }, pose.id, "Mirror pose");
  const names = project.joints.filter((joint) => left.includes(joint.id)).map((joint) => joint.label);
  if (names.length > 0)
    notify(`${names.join(", ")} stayed as they were: no rig says that they have a left and a right.`);
}

function GroupField({ pose }: { readonly pose: Pose }) {
  const groups = useProject((project) => project.poses).flatMap((one) => one.group || []);
  const [typed, setTyped] = useState(pose.group);
  const commit = () => {
    if (typed.trim() !== pose.group) edit(groupPoses(new Set([pose.id]), typed));
  };
  return (
    <div className="w-24">
      <label htmlFor="pose-group" className="caption mb-0.5 block">
        Heading
      </label>
      <input
        id="pose-group"
        list="pose-groups"
        className="input input-sm w-full bg-base-100"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => event.key === "Enter" && commit()}
      />
      <datalist id="pose-groups">
        {[...new Set(groups)].map((group) => (
          <option key={group} value={group} />
        ))}
      </datalist>
    </div>
  );
}
