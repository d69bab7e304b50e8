import { type Joint, type Pose, setPoseTarget } from "@core/project";
import { edit, useProject } from "@stores/document";
import { liveJoint } from "@stores/live";
import { useCallback } from "react";
import { formatIn } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { QuantityField } from "../parts/QuantityField";

/** A pose against where the joints stand now, joint by joint, with the difference as a number. */
export function PoseTable({ pose }: { readonly pose: Pose }) {
  const joints = useProject((project) => project.joints);
  const inPose = joints.filter((joint) => pose.targets[joint.id] !== undefined);
  return (
    <div className="mt-3 min-h-0 grow overflow-y-auto">
      <table className="w-full">
        <thead>
          <tr className="caption text-right">
            <th className="text-left font-normal">Joint</th>
            <th className="w-32 font-normal">in the pose</th>
            <th className="w-20 font-normal">now</th>
            <th className="w-24 font-normal">to go</th>
            <th className="w-8" />
          </tr>
        </thead>
        <tbody>
          {inPose.map((joint) => (
            <PoseRow key={joint.id} pose={pose} joint={joint} target={pose.targets[joint.id] as number} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface PoseRowProps {
  readonly pose: Pose;
  readonly joint: Joint;
  readonly target: number;
}

function PoseRow({ pose, joint, target }: PoseRowProps) {
  const unit = joint.axis.kind === "angle" ? "°" : "spin";
  const readNow = useCallback(() => formatIn(liveJoint(joint.id, "target"), unit), [joint.id, unit]);
  const readDifference = useCallback(
    () => formatIn(target - liveJoint(joint.id, "target"), unit),
    [joint.id, target, unit],
  );
  return (
    <tr className="text-right">
      <th scope="row" className="truncate text-left font-normal">
        {joint.label}
      </th>
      <td className="py-0.5 pl-2">
        <QuantityField
          label={`${joint.label} in the pose`}
          hidesLabel
          value={target}
          unit={unit === "°" ? "°" : ""}
          decimals={unit === "°" ? 1 : 2}
          step={unit === "°" ? 1 : 0.05}
          onCommit={(value) => edit(setPoseTarget(pose.id, joint.id, value), { tell: false })?.problem ?? null}
        />
      </td>
      <td>
        <LiveText read={readNow} />
      </td>
      <td>
        <LiveText read={readDifference} />
      </td>
      <td>
        <button
          type="button"
          className="btn btn-ghost btn-xs text-base"
          aria-label={`Take ${joint.label} out of the pose`}
          title="Take it out of the pose"
          onClick={() => edit(setPoseTarget(pose.id, joint.id, null))}
        >
          ×
        </button>
      </td>
    </tr>
  );
}
