import { adviseFit, type MeasuredPoint, residualsDeg, rms, toAngleDeg, windowInside } from "@core/calibrate";
import { addCalibration, allOf, editCard, setEndStops, setPointUnit, setWindow } from "@core/project";
import { curveOf, feedbackCurveOf, type TravellingCard } from "@core/servo";
import { edit, newId } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { endSurvey, startSurvey, surveyStore } from "@stores/live";
import { notify } from "@stores/notices";
import { useState } from "react";
import { useStore } from "zustand";
import { Fact } from "../parts/Fact";
import { formatNumber } from "../parts/format";
import { useKeys } from "../parts/useKeys";
import { FeedbackPoints } from "./FeedbackPoints";
import { SurveyChart } from "./SurveyChart";

interface ReadBenchProps {
  readonly bench: JointBench;
  readonly card: TravellingCard;
}

const phaseWords = {
  centre: "Goes to the middle, and looks how still it stands",
  upper: "Outward, up: until the reading no longer follows",
  lower: "Outward, down: until the reading no longer follows",
  reading: "Reads nine places, each come to from below",
  done: "Done",
  ended: "Ended",
} as const;

/** Calibrates by itself a servo that can be read: both stops, and a curve, from what its board reports. */
export function ReadBench({ bench, card }: ReadBenchProps) {
  const { joint, maker } = bench;
  const unit = setPointUnit(card);
  const survey = useStore(surveyStore, (last) => (last?.jointId === joint.id ? last.report : null));
  const [savedAt, setSavedAt] = useState<unknown>(null);
  const isRunning = survey !== null && survey.phase !== "done" && survey.phase !== "ended";
  const feedback = feedbackCurveOf(card);
  const stepSize = Math.max(unit === "ticks" ? 6 : 10, 2.5 * card.deadband, 2 * maker.step);
  const begin = () => {
    const { low, high } = card.window;
    const perDeg = Math.abs(curveOf(card).slopePerDeg);
    startSurvey(joint.id, {
      centre: (low + high) / 2,
      window: card.window,
      step: stepSize,
      glidePerS: 90 * perDeg,
    });
  };
  useKeys({ b: () => !isRunning && begin() });

  const points: readonly MeasuredPoint[] =
    survey && feedback
      ? survey.places.map(({ setPoint, reading }) => ({ setPoint, angleDeg: toAngleDeg(feedback, reading) }))
      : [];
  const kind = adviseFit(points)?.kind ?? "line";
  const save = () => {
    if (!survey?.low || !survey.high) return;
    const [low, high] = [survey.low.setPoint, survey.high.setPoint];
    // A stop is known to a step of the run: so much further in nothing is pressed, whichever way that was off.
    const margin = Math.max(card.deadband, maker.step) + stepSize;
    const inside = windowInside(
      { inside: low, isFree: survey.low.isFree },
      { inside: high, isFree: survey.high.isFree },
      margin,
      card.window,
    );
    const found = [
      setEndStops(card.id, survey.low.isFree ? null : low, survey.high.isFree ? null : high, {
        low: stepSize,
        high: stepSize,
      }),
      setWindow(card.id, inside.low, inside.high),
      editCard(card.id, "currents", (before) => ({
        ...before,
        currents: {
          ...before.currents,
          idleMa: Math.round(survey.restMa),
          highestMa: Math.max(before.currents.highestMa ?? 0, Math.round(survey.highestMa)),
        },
      })),
    ];
    const made = {
      kind,
      id: newId(),
      madeAt: new Date().toISOString(),
      note: "by itself, from its feedback",
      points: [...points],
    };
    if (!edit(allOf("Save automatic run", points.length > 1 ? [...found, addCalibration(card.id, made)] : found)))
      return;
    setSavedAt(survey);
    notify(`Stops${points.length > 1 ? " and curve are" : " are"} on the card of ${card.label}.`);
  };

  return (
    <>
      <FeedbackPoints bench={bench} card={card} isFolded={survey !== null} />
      <section className="sheet space-y-3 p-3" aria-label="Automatic run">
        <h2 className="heading">By itself</h2>
        {!isRunning && (
          <>
            <p className="caption">
              Steps outward both ways until the reading no longer follows or the current rises, backs off at once, then
              reads nine places. Stop it with any key that moves the joint, with Esc, or here.
            </p>
            <button type="button" className="btn btn-primary btn-sm w-full" onClick={begin}>
              {survey ? "Run again" : "Start the run"} <kbd>B</kbd>
            </button>
          </>
        )}
        {survey && (
          <>
            <p role="status" className="text-sm font-medium">
              {phaseWords[survey.phase]}
              {survey.problem && `: ${survey.problem}`}
            </p>
            <progress className="progress h-1.5 w-full" value={survey.progress} max={1} aria-label="Automatic run" />
            {isRunning && (
              <button type="button" className="btn btn-error btn-sm w-full" onClick={endSurvey}>
                Stop it
              </button>
            )}
            <SurveyChart survey={survey} unit={unit} />
            <dl className="grid grid-cols-2 gap-x-4 gap-y-1" data-readout="survey">
              <Fact name="lower stop" value={stopWords(survey.low, unit)} />
              <Fact name="upper stop" value={stopWords(survey.high, unit)} />
              <Fact name="at rest" value={`${formatNumber(survey.restMa, 0)} mA`} />
              <Fact name="highest" value={`${formatNumber(survey.highestMa, 0)} mA`} />
            </dl>
          </>
        )}
        {survey?.phase === "done" && savedAt !== survey && (
          <>
            <p className="text-sm">
              {points.length > 1
                ? `${points.length} places give a ${kind === "line" ? "straight" : "piecewise"} curve. By the curve in force they are off by ${formatNumber(rms(residualsDeg(curveOf(card), points)), 1)}°.`
                : "The reading says nothing of angles yet: take two readings above, and the places become a curve."}
            </p>
            <button type="button" className="btn btn-primary btn-sm w-full" onClick={save}>
              Save stops, window{points.length > 1 ? " and curve" : ""} on the card
            </button>
          </>
        )}
      </section>
    </>
  );
}

const stopWords = (stop: { readonly setPoint: number; readonly isFree: boolean } | null, unit: string) =>
  stop ? `${formatNumber(stop.setPoint, unit === "µs" ? 1 : 0)} ${unit}${stop.isFree ? ", free" : ""}` : "—";
