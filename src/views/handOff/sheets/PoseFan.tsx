import { byId, type Pose, type Project } from "@core/project";
import { jointMapOf } from "@core/rig";
import { memo } from "react";

interface PoseFanProps {
  readonly project: Project;
  readonly targets: Pose["targets"];
}

const gapX = 12;
const reach = 9;
/** From the one end of the travel to the other, on the little fan. */
const fanDeg = 150;

/** A pose at a glance: a little fan for each joint of its rigs, with a needle where the pose has it and an open ring where it leaves it alone. */
export const PoseFan = memo(function PoseFan({ project, targets }: PoseFanProps) {
  const rigs = new Set(project.joints.filter((joint) => targets[joint.id] !== undefined).map((joint) => joint.rigId));
  const joints = project.joints.filter((joint) => rigs.has(joint.rigId)).slice(0, 12);
  return (
    <svg
      viewBox={`0 0 ${joints.length * gapX + 2} 16`}
      className="h-4 max-w-full shrink-0"
      style={{ width: joints.length * gapX + 2 }}
      aria-hidden="true"
    >
      {joints.map((joint, at) => {
        const x = at * gapX + gapX / 2 + 1;
        const target = targets[joint.id];
        const map = jointMapOf(joint, byId(project.cards, joint.cardId));
        const share = target === undefined ? 0.5 : (target - map.lowTarget) / (map.highTarget - map.lowTarget);
        const turn = ((share - 0.5) * fanDeg * Math.PI) / 180;
        return (
          <g key={joint.id}>
            <path
              d={`M${x - 5} 7A6.5 6.5 0 0 1 ${x + 5} 7`}
              className="fill-none stroke-base-content/45"
              strokeWidth={0.9}
            />
            {target === undefined ? (
              <circle cx={x} cy={13} r={1.5} className="fill-none stroke-base-content/45" strokeWidth={0.9} />
            ) : (
              <path
                d={`M${x} 13L${(x + reach * Math.sin(turn)).toFixed(2)} ${(13 - reach * Math.cos(turn)).toFixed(2)}`}
                className="stroke-primary"
                strokeWidth={2}
                strokeLinecap="round"
              />
            )}
          </g>
        );
      })}
    </svg>
  );
});
