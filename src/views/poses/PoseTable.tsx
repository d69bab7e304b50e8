import { measureOf } from "@core/pose";
import { byId, type Joint, type Pose, setPointUnit, setPoseTarget } from "@core/project";
import { edit, editForField, useProject } from "@stores/document";
import { liveJoint } from "@stores/live";
import { usePosesView } from "@stores/posesView";
import { select, useSelectedJoint } from "@stores/selection";
import { useCallback, useMemo } from "react";
import { formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { QuantityField } from "../parts/QuantityField";

interface PoseTableProps {
  readonly pose: Pose;
  /** The pose it is held against; null for where they stand now. */
  readonly against: Pose | null;
}

/** A pose joint by joint against another, or against where they stand now, with the difference as a number. */
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
  const written = useWritten(joint);
  const target = pose.targets[joint.id];
  const isSelected = useSelectedJoint()?.id === joint.id;
  const take = (value: number) => editForField(setPoseTarget(pose.id, joint.id, value));
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
            value={written.measure.ofTarget(target)}
            unit={written.unit}
            decimals={written.decimals}
            step={written.step}
            onCommit={(value) => take(rounded(written.measure.toTarget(value)))}
          />
        )}
      </td>
      {against ? (
        <>
          <td className="number">{other === undefined ? "—" : written.show(other)}</td>
          <td className="number">
            {other === undefined || target === undefined ? "—" : written.showDifference(target, other)}
          </td>
        </>
      ) : (
        <Now joint={joint} target={target ?? Number.NaN} written={written} />
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
            if (Number.isFinite(now)) take(rounded(now));
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

/** How the targets of a joint are written, in the unit that is chosen for all of them. */
interface Written {
  readonly measure: ReturnType<typeof measureOf>;
  readonly unit: string;
  readonly decimals: number;
  readonly step: number;
  readonly show: (target: number) => string;
  readonly showDifference: (target: number, other: number) => string;
}

function useWritten(joint: Joint): Written {
  const project = useProject((current) => current);
  const chosen = usePosesView((view) => view.unit);
  return useMemo(() => {
    const measure = measureOf(project, joint, chosen);
    const isSpin = joint.axis.kind === "spin";
    const sent = setPointUnit(byId(project.cards, joint.cardId));
    const unit = chosen === "setPoint" ? sent : chosen === "percent" ? "%" : isSpin ? "" : "°";
    const decimals = chosen === "deg" && isSpin ? 2 : chosen === "setPoint" && sent === "ticks" ? 0 : 1;
    const ending = unit === "°" || unit === "" ? unit : ` ${unit}`;
    const words = (value: number) => (Number.isFinite(value) ? `${formatNumber(value, decimals)}${ending}` : "—");
    return {
      measure,
      unit,
      decimals,
      step: chosen === "deg" && isSpin ? 0.05 : chosen === "setPoint" ? 10 : 1,
      show: (target) => words(measure.ofTarget(target)),
      showDifference: (target, other) => words(measure.ofTarget(target) - measure.ofTarget(other)),
    };
  }, [project, joint, chosen]);
}

/** A hundredth of a degree is finer than any servo; what is typed in per cent or µs would only look precise. */
const rounded = (target: number) => Math.round(target * 100) / 100;

interface NowProps {
  readonly joint: Joint;
  readonly target: number;
  readonly written: Written;
}

function Now({ joint, target, written }: NowProps) {
  const readNow = useCallback(() => written.show(liveJoint(joint.id, "target")), [joint.id, written]);
  const readDifference = useCallback(
    () => written.showDifference(target, liveJoint(joint.id, "target")),
    [joint.id, target, written],
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
