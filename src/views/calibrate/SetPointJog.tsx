import { setPointUnit } from "@core/project";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint, onLive } from "@stores/live";
import { useEffect, useState } from "react";
import { JogPad } from "../parts/JogPad";
import { QuantityField } from "../parts/QuantityField";
import { setPointDecimals, setPointUnits } from "./setPointField";

/** The set point that the gate lets out for a joint, as React state: it changes a few times a second at most here. */
function useSetPoint(jointId: string): number {
  const [setPoint, setSetPoint] = useState(() => liveJoint(jointId, "setPoint"));
  useEffect(() => onLive(() => setSetPoint(liveJoint(jointId, "setPoint"))), [jointId]);
  return setPoint;
}

/**
 * Jogs a servo by its set point, in the unit of the person's own board: while calibrating, its angles are not to be believed
 * yet. The travel limits, which are angles too, can be told to rest; the hard window never does.
 */
export function SetPointJog({ bench }: { readonly bench: JointBench }) {
  const { joint, card, map } = bench;
  const [isBeyond, setIsBeyond] = useState(false);
  const unit = setPointUnit(card);
  const setPoint = useSetPoint(joint.id);
  const limits = isBeyond ? [card.window.low, card.window.high] : [map.lowTarget, map.highTarget].map(map.toSetPoint);
  const low = Math.max(Math.min(...limits), card.window.low);
  const high = Math.min(Math.max(...limits), card.window.high);
  const within = (value: number) => Math.max(low, Math.min(high, value));
  const letBeyond = (isOn: boolean) => {
    setIsBeyond(isOn);
    command({ kind: "calibrate", jointId: joint.id, isOn });
  };
  // Leaving the station puts the limits back in force.
  useEffect(() => () => command({ kind: "calibrate", jointId: joint.id, isOn: false }), [joint.id]);
  return (
    <div className="space-y-2">
      <QuantityField
        label={`Sent now (${low.toFixed(0)} to ${high.toFixed(0)} ${unit} by the ${isBeyond ? "hard window" : "limits"})`}
        value={setPoint}
        unit={unit}
        decimals={setPointDecimals(bench)}
        units={setPointUnits(bench)}
        onCommit={(value) => {
          if (value < low - 0.5 || value > high + 0.5)
            return `The ${isBeyond ? "hard window" : "limits"} of this joint leave ${low.toFixed(0)} to ${high.toFixed(0)} ${unit}.`;
          command({ kind: "setPoint", jointId: joint.id, setPoint: within(value) });
          return null;
        }}
      />
      <JogPad
        unit={unit}
        hasKeys={false}
        onJog={(by) => command({ kind: "jog", jointId: joint.id, by, in: "setPoint" })}
      />
      {joint.axis.kind === "angle" && (
        <label className="flex cursor-pointer items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={isBeyond}
            onChange={() => letBeyond(!isBeyond)}
          />
          let the travel limits rest; the hard window holds
        </label>
      )}
    </div>
  );
}
