import { setPointUnit } from "@core/project";
import { timeUnitsUs } from "@core/signal";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint, onLive } from "@stores/live";
import { useEffect, useState } from "react";
import { JogPad } from "../parts/JogPad";
import { QuantityField } from "../parts/QuantityField";

/** The set point that the gate lets out for a joint, as React state: it changes a few times a second at most here. */
export function useSetPoint(jointId: string): number {
  const [setPoint, setSetPoint] = useState(() => liveJoint(jointId, "setPoint"));
  useEffect(() => onLive(() => setSetPoint(liveJoint(jointId, "setPoint"))), [jointId]);
  return setPoint;
}

/** Jogs a servo by its set point, in µs or ticks: while calibrating, its angles are not to be believed yet. */
export function SetPointJog({ bench }: { readonly bench: JointBench }) {
  const { joint, card, map } = bench;
  const unit = setPointUnit(card);
  const setPoint = useSetPoint(joint.id);
  const ask = (value: number) => command({ kind: "setPoint", jointId: joint.id, setPoint: value });
  const limits = [map.toSetPoint(map.lowTarget), map.toSetPoint(map.highTarget)];
  const low = Math.max(Math.min(...limits), card.window.low);
  const high = Math.min(Math.max(...limits), card.window.high);
  const within = (value: number) => Math.max(low, Math.min(high, value));
  return (
    <div className="space-y-2">
      <QuantityField
        label={`Sent now (${low.toFixed(0)} to ${high.toFixed(0)} ${unit} by the limits)`}
        value={setPoint}
        unit={unit}
        decimals={unit === "ticks" ? 0 : 1}
        units={unit === "ticks" ? { ticks: 1 } : timeUnitsUs}
        onCommit={(value) => {
          if (value < low - 0.5 || value > high + 0.5)
            return `The limits of this joint leave ${low.toFixed(0)} to ${high.toFixed(0)} ${unit}.`;
          ask(within(value));
          return null;
        }}
      />
      <JogPad
        unit={unit}
        hasKeys={false}
        onJog={(by) => command({ kind: "jog", jointId: joint.id, by, in: "setPoint" })}
      />
    </div>
  );
}
