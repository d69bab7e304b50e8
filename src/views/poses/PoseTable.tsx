import { type Joint, type Pose, setPoseTarget } from "@core/project";
import { edit, useProject } from "@stores/document";
import { liveJoint } from "@stores/live";
import { select, useSelectedJoint } from "@stores/selection";
import { useCallback } from "react";
import { formatIn } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { QuantityField } from "../parts/QuantityField";

interface PoseTableProps {
  readonly pose: Pose;
  /** The pose it is held against; null for where the joints stand now. */
  readonly against: Pose | null;
}

/** A pose joint by joint against another, or against where the joints stand now, with the difference as a number. */
export function PoseTable({ pose, against }: PoseTableProps) {
  const joints = useProject((project) => project.joints);
  const shown = joints.filter(
    (joint) => pose.targets[joint.id] !== undefined || against?.targets[joint.id] !== undefined,
  );
  return (
    <table className="w-full">
      <thead className="sticky top-0 z-10 bg-base-200">
        <tr className="caption text-right">
          <th className="text-left font-normal">Joint</th>
          <th className="w-28 font-normal">in the pose</th>
          <th className="w-24 max-w-24 truncate pl-3 font-normal">{against ? against.name : "now"}</th>
          <th className="w-20 font-normal">{against ? "differs by" : "to go"}</th>
          <th className="w-14" />
        </tr>
      </thead>
      <tbody>
        {shown.map((joint) => (
          <PoseRow key={joint.id} pose={pose} joint={joint} against={against} />
        ))}
      </tbody>
    </table>
  );
}

function PoseRow({ pose, joint, against }: PoseTableProps & { readonly joint: Joint }) {
  const unit = joint.axis.kind === "angle" ? "°" : "spin";
  const target = pose.targets[joint.id];
  const isSelected = useSelectedJoint()?.id === joint.id;
  const take = (value: number) => edit(setPoseTarget(pose.id, joint.id, value), { tell: false })?.problem ?? null;
  const other = against?.targets[joint.id];
  return (
    <tr className={`text-right ${isSelected ? "bg-primary/10" : ""}`}>
      <th scope="row" className="text-left font-normal">
        <button
          type="button"
          className="cursor-pointer truncate text-left hover:underline"
          title="Show it on the dial"
          onClick={() => select(joint.id)}
        >
          {joint.label}
        </button>
      </th>
      <td className="py-0.5 pl-2">
        {target === undefined ? (
          <span className="caption">not in it</span>
        ) : (
          <QuantityField
            label={`${joint.label} in the pose`}
            hidesLabel
            value={target}
            unit={unit === "°" ? "°" : ""}
            decimals={unit === "°" ? 1 : 2}
            step={unit === "°" ? 1 : 0.05}
            onCommit={take}
          />
        )}
      </td>
      {against ? (
        <>
          <td className="number">{other === undefined ? "—" : formatIn(other, unit)}</td>
          <td className="number">
            {other === undefined || target === undefined ? "—" : formatIn(target - other, unit)}
          </td>
        </>
      ) : (
        <Now joint={joint} target={target ?? Number.NaN} unit={unit} />
      )}
      <td className="whitespace-nowrap">
        <button
          type="button"
          className="btn btn-ghost btn-xs btn-square"
          aria-label={
            target === undefined
              ? `Take ${joint.label} into the pose`
              : `Put ${joint.label} in the pose where it stands now`
          }
          title={target === undefined ? "Take it into the pose, as it stands" : "As it stands now"}
          onClick={() => {
            const now = liveJoint(joint.id, "target");
            if (Number.isFinite(now)) take(Math.round(now * 100) / 100);
          }}
        >
          ⤓
        </button>
        {target !== undefined && (
          <button
            type="button"
            className="btn btn-ghost btn-xs btn-square text-base"
            aria-label={`Take ${joint.label} out of the pose`}
            title="Take it out of the pose"
            onClick={() => edit(setPoseTarget(pose.id, joint.id, null))}
          >
            ×
          </button>
        )}
      </td>
    </tr>
  );
}

interface NowProps {
  readonly joint: Joint;
  readonly target: number;
  readonly unit: "°" | "spin";
}

function Now({ joint, target, unit }: NowProps) {
  const readNow = useCallback(() => formatIn(liveJoint(joint.id, "target"), unit), [joint.id, unit]);
  const readDifference = useCallback(
    () => formatIn(target - liveJoint(joint.id, "target"), unit),
    [joint.id, target, unit],
  );
  return (
    <>
      <td>
        <LiveText read={readNow} />
      </td>
      <td>
        <LiveText read={readDifference} />
      </td>
    </>
  );
}
