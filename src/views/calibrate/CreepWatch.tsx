import { editCard } from "@core/project";
import { type ContinuousCard, calibrationInForce } from "@core/servo";
import { editForField } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { command, useEveryTick } from "@stores/live";
import { useEffect, useState } from "react";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";

const watchS = 20;

interface CreepWatchProps {
  readonly bench: JointBench;
  readonly card: ContinuousCard;
}

/** Does it creep at neutral? Holds it there for a while; the person says how far it has turned. */
export function CreepWatch({ bench: { joint }, card }: CreepWatchProps) {
  useEveryTick();
  const made = calibrationInForce(card);
  const [leftS, setLeftS] = useState<number | null>(null);
  useEffect(() => {
    if (leftS === null || leftS <= 0) return;
    const timer = setTimeout(() => setLeftS(leftS - 1), 1000);
    return () => clearTimeout(timer);
  }, [leftS]);
  if (made?.kind !== "spin") return null;
  const begin = () => {
    command({ kind: "hold", jointId: joint.id });
    command({ kind: "setPoint", jointId: joint.id, setPoint: made.neutral });
    setLeftS(watchS);
  };
  const save = (deg: number): string | null => {
    const creepDegPerS = deg / watchS;
    const refusal = editForField(
      editCard(card.id, "creep", (before) =>
        before.kind === "continuous"
          ? {
              ...before,
              calibrations: before.calibrations.map((one) => (one.id === made.id ? { ...made, creepDegPerS } : one)),
            }
          : before,
      ),
    );
    if (refusal === null) setLeftS(null);
    return refusal;
  };
  return (
    <div className="border-t border-base-300 pt-2 text-sm" data-readout="creep">
      {leftS === null && (
        <div className="flex items-center gap-3">
          <p className="grow">
            {made.creepDegPerS === null
              ? "Nobody has watched whether it creeps at neutral."
              : made.creepDegPerS === 0
                ? `It did not creep in ${watchS} s at neutral.`
                : `It creeps by ${formatNumber(made.creepDegPerS * 60, 1)}° a minute: send nothing at rest instead.`}
          </p>
          <button type="button" className="btn btn-outline btn-xs" onClick={begin}>
            Watch {watchS} s
          </button>
        </div>
      )}
      {leftS !== null && leftS > 0 && (
        <p role="status">
          It stands at neutral. Mind where the mark is… <span className="number font-semibold">{leftS} s</span>
        </p>
      )}
      {leftS === 0 && (
        <QuantityField label={`In ${watchS} s it has turned by`} value={0} unit="°" decimals={1} onCommit={save} />
      )}
      {leftS === 0 && (
        <button type="button" className="btn btn-outline btn-xs mt-1" onClick={() => save(0)}>
          Not at all
        </button>
      )}
    </div>
  );
}
