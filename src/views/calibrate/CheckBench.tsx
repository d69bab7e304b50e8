import {
  adviseCheck,
  adviseFit,
  type CheckRead,
  type CheckStep,
  checkSteps,
  fitCurve,
  reportCheck,
} from "@core/calibrate";
import { addCalibration, addCheck, setPointUnit } from "@core/project";
import { calibrationInForce, curveOf, earlierCurve, type TravellingCard } from "@core/servo";
import { edit, newId } from "@stores/document";
import { keepDraft, readDraft } from "@stores/draft";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint } from "@stores/live";
import { notify } from "@stores/notices";
import { useState } from "react";
import { formatDate } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { useIsDriven } from "../parts/useIsHeld";
import { useKeys } from "../parts/useKeys";
import { CheckReportView } from "./CheckReportView";
import { SeenField } from "./SeenField";
import { useVisit } from "./useVisit";

interface CheckBenchProps {
  readonly bench: JointBench;
  readonly card: TravellingCard;
}

interface CheckDraft {
  readonly steps: readonly CheckStep[];
  readonly readings: readonly CheckRead[];
}
const nothing: CheckDraft = { steps: [], readings: [] };

/** Is the calibration true? Goes to some angles from both sides; the person types what they see; the errors are told. */
export function CheckBench({ bench, card }: CheckBenchProps) {
  const { joint, map } = bench;
  const place = `check.${card.id}`;
  const [draft, setDraft] = useState<CheckDraft>(() => readDraft<CheckDraft>(place) ?? nothing);
  const [count, setCount] = useState(5);
  const isDriven = useIsDriven(joint);
  const { steps, readings } = draft;
  const at = readings.length;
  const step = steps[at] ?? null;
  const visit = useVisit(bench, isDriven ? step : null);
  const keep = (next: CheckDraft) => {
    setDraft(next);
    keepDraft(place, next);
  };
  const begin = () => {
    command({ kind: "hold", jointId: joint.id });
    keep({ steps: checkSteps(map.lowTarget, map.highTarget, count), readings: [] });
  };
  useKeys({ b: () => steps.length === 0 && begin() });

  const report = steps.length > 0 && !step ? reportCheck(curveOf(card), readings) : null;
  const accept = () => {
    const made = calibrationInForce(card);
    const check = {
      id: newId(),
      madeAt: new Date().toISOString(),
      calibrationId: made?.id ?? null,
      readings: [...readings],
    };
    if (!edit(addCheck(card.id, check))) return;
    keep(nothing);
    notify(`The check is on the card of ${card.label}.`);
  };
  /** The readings join the points of the calibration in force, as a new one. */
  const addAsPoints = () => {
    const made = calibrationInForce(card);
    const old = made && made.kind !== "spin" ? made.points : [];
    const points = [...old, ...readings.map(({ seenDeg, setPoint }) => ({ angleDeg: seenDeg, setPoint }))];
    const kind = adviseFit(points)?.kind ?? "line";
    const fit = fitCurve(kind, points);
    if (!fit.ok) {
      notify(fit.problem, "warning");
      return;
    }
    const next = { kind, id: newId(), madeAt: new Date().toISOString(), note: "with the readings of a check", points };
    if (!edit(addCalibration(card.id, next))) return;
    keep(nothing);
    notify(`${points.length} points are the new calibration of ${card.label}. Check it again.`);
  };

  return (
    <section className="sheet space-y-3 p-3" aria-label="Check">
      {steps.length === 0 && (
        <>
          <p className="text-sm">
            Goes to {count} angles within the travel limits, upward and back down, so that play in the gears shows. At
            each you type what you read; what it should be is not told before.
          </p>
          <QuantityField
            label="Angles to visit"
            value={count}
            unit="angles"
            decimals={0}
            onCommit={(value) => {
              if (!Number.isInteger(value) || value < 2 || value > 20) return "From 2 to 20 angles.";
              setCount(value);
              return null;
            }}
          />
          <button type="button" className="btn btn-primary btn-sm w-full" onClick={begin}>
            Begin the check <kbd>B</kbd>
          </button>
        </>
      )}
      {step && (
        <>
          <p className="heading" role="status">
            Reading {at + 1} of {steps.length}:{" "}
            {!isDriven ? "interrupted, the servo is limp." : visit === "there" ? "what do you read?" : "on its way…"}
          </p>
          <progress className="progress h-1.5 w-full" value={at} max={steps.length} aria-label="Readings taken" />
          {isDriven ? (
            <SeenField
              key={at}
              bench={bench}
              card={card}
              isThere={visit === "there"}
              onSeen={(seenDeg) => {
                const setPoint = liveJoint(joint.id, "setPoint");
                keep({ steps, readings: [...readings, { setPoint, cameFrom: step.cameFrom, seenDeg }] });
              }}
            />
          ) : (
            <button
              type="button"
              className="btn btn-primary btn-sm w-full"
              onClick={() => command({ kind: "hold", jointId: joint.id })}
            >
              Hold it and go on
            </button>
          )}
          <div className="flex gap-2">
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              disabled={at === 0}
              onClick={() => keep({ steps, readings: readings.slice(0, -1) })}
            >
              Take the last one back
            </button>
            <button type="button" className="btn btn-ghost btn-sm ml-auto" onClick={() => keep(nothing)}>
              Give up
            </button>
          </div>
        </>
      )}
      {report && (
        <>
          <CheckReportView
            readings={readings}
            report={report}
            before={beforeOf(card, readings)}
            unit={setPointUnit(card)}
            travelDeg={card.travelDeg}
          />
          <p className="text-sm font-medium">{adviseCheck(report)}</p>
          <div className="grid grid-cols-3 gap-2">
            <button type="button" className="btn btn-primary btn-sm" onClick={accept}>
              Accept
            </button>
            <button type="button" className="btn btn-outline btn-sm" onClick={addAsPoints}>
              Add as points
            </button>
            <button type="button" className="btn btn-outline btn-sm" onClick={begin}>
              Redo
            </button>
          </div>
        </>
      )}
    </section>
  );
}

/** The same readings against what was in force before; nothing for a servo that was never calibrated. */
function beforeOf(card: TravellingCard, readings: readonly CheckRead[]) {
  if (card.calibrations.length === 0) return null;
  const earlier = card.calibrations.at(-2);
  const name = earlier ? `before, ${formatDate(earlier.madeAt).slice(0, 10)}` : "by the data sheet";
  return { name, report: reportCheck(earlierCurve(card), readings) };
}
