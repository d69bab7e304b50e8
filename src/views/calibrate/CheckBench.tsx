import {
  adviseFit,
  type CheckMend,
  type CheckRead,
  type CheckStep,
  checkSteps,
  judgeCheck,
  type MeasuredPoint,
  pointsOf,
  reportCheck,
  toAngleDeg,
} from "@core/calibrate";
import { addCalibration, addCheck, setPointUnit } from "@core/project";
import { jointDegOf } from "@core/rig";
import { calibrationInForce, curveOf, earlierCurve, type TravellingCard } from "@core/servo";
import { edit, newId } from "@stores/document";
import { keepDraft, readDraft } from "@stores/draft";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint } from "@stores/live";
import { notify } from "@stores/notices";
import { useState } from "react";
import { formatDate, formatNumber } from "../parts/format";
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
  const made = calibrationInForce(card);
  const laidThrough = made && made.kind !== "spin" ? made.points : [];
  const curve = curveOf(card);
  const begin = (angles = count) => {
    command({ kind: "hold", jointId: joint.id });
    const { axis } = joint;
    const known = axis.kind === "angle" ? laidThrough.map((point) => jointDegOf(axis, point.angleDeg)) : [];
    setCount(angles);
    keep({ steps: checkSteps(map.lowTarget, map.highTarget, angles, known), readings: [] });
  };
  useKeys({ b: () => steps.length === 0 && begin() });

  const take = ({ targetDeg, approachDeg }: CheckStep, seenDeg: number) => {
    const setPoint = liveJoint(joint.id, "setPoint");
    // From which side in the servo's own degrees: a joint may count the other way.
    const servoDeg = (target: number) => toAngleDeg(curve, map.toSetPoint(target));
    const cameFrom = servoDeg(targetDeg) > servoDeg(approachDeg) ? "below" : "above";
    keep({ steps, readings: [...readings, { setPoint, cameFrom, seenDeg }] });
  };
  const accept = () => {
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
  const layAnew = (kind: "line" | "piecewise", points: readonly MeasuredPoint[], note: string) => {
    const next = { kind, id: newId(), madeAt: new Date().toISOString(), note, points: [...points] };
    if (!edit(addCalibration(card.id, next))) return;
    keep(nothing);
    notify(`That is the new calibration of ${card.label}. Check it again.`);
  };
  /** The horn moved and not the curve: all its angles are shifted, and its shape stays. */
  const shift = (byDeg: number) => {
    const { nominal, travelDeg } = card;
    const sheet = [
      { angleDeg: 0, setPoint: nominal.low },
      { angleDeg: travelDeg, setPoint: nominal.high },
    ];
    const old = laidThrough.length > 0 ? laidThrough : sheet;
    const points = old.map((point) => ({ ...point, angleDeg: point.angleDeg + byDeg }));
    layAnew(
      made && made.kind !== "spin" ? made.kind : "line",
      points,
      `shifted by ${byDeg.toFixed(1)}°: the horn had slipped`,
    );
  };
  const refit = () => {
    const points = pointsOf(readings);
    layAnew(adviseFit(points)?.kind ?? "line", points, "through the readings of a check");
  };
  /** One reading once more, at the end of the run. */
  const again = (reading: number) => {
    const one = steps[reading];
    if (one) keep({ steps: [...steps.toSpliced(reading, 1), one], readings: readings.toSpliced(reading, 1) });
  };
  const mend = (what: CheckMend) => {
    if (what.kind === "shift") shift(what.byDeg);
    else if (what.kind === "refit") refit();
    else if (what.kind === "again") again(what.reading);
    else if (what.kind === "more") begin(what.angles);
  };
  const isOver = steps.length > 0 && !step;
  const verdict = isOver ? judgeCheck(curve, readings, laidThrough, card.splineTeeth) : null;

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
          <button type="button" className="btn btn-primary btn-sm w-full" onClick={() => begin()}>
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
              onSeen={(seenDeg) => take(step, seenDeg)}
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
      {verdict && (
        <>
          <div className="space-y-1 font-medium" role="status" data-readout="verdict">
            {verdict.sentences.map((sentence) => (
              <p key={sentence}>{sentence}</p>
            ))}
          </div>
          <div className="flex flex-wrap gap-2">
            {mendWords(verdict.mend) && (
              <button type="button" className="btn btn-primary btn-sm grow" onClick={() => mend(verdict.mend)}>
                {mendWords(verdict.mend)}
              </button>
            )}
            <button
              type="button"
              className={`btn btn-sm grow ${verdict.mend.kind === "accept" || verdict.mend.kind === "live" ? "btn-primary" : "btn-outline"}`}
              onClick={accept}
            >
              Keep the check
            </button>
            <button type="button" className="btn btn-outline btn-sm grow" onClick={() => begin()}>
              Check again
            </button>
          </div>
          <CheckReportView
            readings={readings}
            report={reportCheck(curve, readings)}
            diagnosis={verdict.diagnosis}
            before={beforeOf(card, readings)}
            unit={setPointUnit(card)}
            travelDeg={card.travelDeg}
          />
        </>
      )}
    </section>
  );
}

/** What the button says that does what a verdict advises; empty where nothing is to be done. */
function mendWords(mend: CheckMend): string {
  switch (mend.kind) {
    case "shift":
      return `Shift its angles by ${formatNumber(mend.byDeg, 1)}°`;
    case "refit":
      return "Lay its curve through these";
    case "again":
      return `Take reading ${mend.reading + 1} again`;
    case "more":
      return `Check ${mend.angles} angles`;
    default:
      return "";
  }
}

/** The same readings against what was in force before; nothing for a servo that was never calibrated. */
function beforeOf(card: TravellingCard, readings: readonly CheckRead[]) {
  if (card.calibrations.length === 0) return null;
  const earlier = card.calibrations.at(-2);
  const name = earlier ? `before, ${formatDate(earlier.madeAt).slice(0, 10)}` : "by the data sheet";
  return { name, report: reportCheck(earlierCurve(card), readings) };
}
