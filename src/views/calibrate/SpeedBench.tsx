import { speedOfTaps } from "@core/calibrate";
import { addCalibration } from "@core/project";
import { type ContinuousCard, spinCurveFrom, spinKnown } from "@core/servo";
import { edit, newId } from "@stores/document";
import { keepDraft, readDraft } from "@stores/draft";
import type { JointBench } from "@stores/jointBench";
import { command, useEveryTick } from "@stores/live";
import { notify } from "@stores/notices";
import { useEffect, useState } from "react";
import { Fetched } from "../parts/Fetched";
import { formatNumber } from "../parts/format";
import { LinesChart } from "../parts/LinesChart";
import { QuantityField } from "../parts/QuantityField";
import { useIsDriven } from "../parts/useIsHeld";
import { useKeys } from "../parts/useKeys";
import { Answer } from "./Answer";
import { setPointUnits } from "./setPointField";
import { TurnClock } from "./TurnClock";

interface SpeedBenchProps {
  readonly bench: JointBench;
  readonly card: ContinuousCard;
}

interface Speed {
  readonly setPoint: number;
  readonly degPerS: number;
  readonly plusMinus?: number | undefined;
}

/** Shares of the span on either side of neutral that are worth measuring first. */
const shares = [-1, -0.5, -0.25, 0.25, 0.5, 1];

/** How fast it really turns: a tap each time a mark passes, at some pulses on both sides; then a spin means a real speed. */
export function SpeedBench({ bench, card }: SpeedBenchProps) {
  useEveryTick();
  const { joint } = bench;
  const place = `speeds.${card.id}`;
  const known = spinKnown(card);
  const [speeds, setSpeeds] = useState<readonly Speed[]>(() => readDraft<Speed[]>(place) ?? known.speeds);
  const [setPoint, setSetPoint] = useState<number | null>(null);
  const [tapsMs, setTapsMs] = useState<readonly number[]>([]);
  const isDriven = useIsDriven(joint);
  const isTurning = setPoint !== null && isDriven;
  const counted = speedOfTaps(tapsMs);
  const keep = (next: readonly Speed[]) => {
    setSpeeds(next);
    keepDraft(place, next);
  };
  // Leaving the station ends the turning as well.
  useEffect(() => () => command({ kind: "calibrate", jointId: joint.id, isOn: false }), [joint.id]);

  const turnAt = (next: number) => {
    command({ kind: "hold", jointId: joint.id });
    command({ kind: "calibrate", jointId: joint.id, isOn: true });
    command({ kind: "setPoint", jointId: joint.id, setPoint: next });
    setSetPoint(next);
    setTapsMs([]);
  };
  const rest = () => {
    command({ kind: "setPoint", jointId: joint.id, setPoint: known.neutral });
    setSetPoint(null);
    setTapsMs([]);
  };
  const tap = (atMs: number) => isTurning && setTapsMs((before) => [...before, atMs]);
  const take = () => {
    if (!isTurning) return;
    if (!counted.ok) {
      notify(counted.problem, "warning");
      return;
    }
    const isForward = (setPoint - known.neutral) * (known.forward - known.back) > 0;
    const { degPerS, errorDegPerS } = counted.value;
    const speed = { setPoint, degPerS: (isForward ? 1 : -1) * degPerS, plusMinus: errorDegPerS };
    keep([...speeds.filter((one) => one.setPoint !== setPoint), speed].toSorted((a, b) => a.setPoint - b.setPoint));
    rest();
  };
  const again = () => setTapsMs([]);
  useKeys({ j: tap, " ": tap, k: take, r: again });

  const save = () => {
    const made = { ...known, id: newId(), madeAt: new Date().toISOString(), speeds: [...speeds] };
    if (!edit(addCalibration(card.id, made))) return;
    keepDraft(place, null);
    const { fullDegPerS } = spinCurveFrom(made);
    notify(
      fullDegPerS === null
        ? "Saved. Measure at least one speed on each side, and a spin becomes a real speed."
        : `Saved: a spin of 1 is ${formatNumber(fullDegPerS, 0)} °/s, both ways.`,
    );
  };
  const full = spinCurveFrom({ ...known, speeds }).fullDegPerS;

  return (
    <section className="sheet space-y-3 p-3" aria-label="Speed">
      {setPoint === null || !isDriven ? (
        <>
          <p className="text-sm">
            Let it turn, and tap <kbd>J</kbd> each time a mark on the horn passes: five turns or more. At least one
            speed each way.
          </p>
          <div className="grid grid-cols-6 gap-1">
            {shares.map((share) => {
              const end = share < 0 ? known.neutral - known.back : known.forward - known.neutral;
              const at = Math.round(known.neutral + share * end);
              const isDone = speeds.some((one) => one.setPoint === at);
              return (
                <button
                  key={share}
                  type="button"
                  className={`btn btn-sm number px-0 text-xs ${isDone ? "btn-neutral" : "btn-outline"}`}
                  aria-label={`Turn at ${at} µs`}
                  onClick={() => turnAt(at)}
                >
                  {at}
                </button>
              );
            })}
          </div>
          <QuantityField
            label="Or at a pulse of your own"
            value={known.forward}
            unit="µs"
            decimals={0}
            units={setPointUnits(bench)}
            onCommit={(value) => {
              if (value < card.window.low || value > card.window.high)
                return `The hard window leaves ${card.window.low} to ${card.window.high} µs.`;
              turnAt(value);
              return null;
            }}
          />
        </>
      ) : (
        <>
          <p className="heading" role="status">
            At {formatNumber(setPoint, 0)} µs:{" "}
            {tapsMs.length === 0 ? "tap when the mark passes" : `${tapsMs.length - 1} turns`}
          </p>
          <TurnClock tapsMs={tapsMs} counted={counted} />
          <div className="grid grid-cols-3 gap-2">
            <Answer words="It passes" letter="J" onAnswer={tap} />
            <Answer words="Take it" letter="K" onAnswer={take} />
            <Answer words="Anew" letter="R" onAnswer={again} />
          </div>
          <button type="button" className="btn btn-ghost btn-sm w-full" onClick={rest}>
            Let it rest
          </button>
        </>
      )}
      {speeds.length > 0 && (
        <>
          <ul aria-label="Speeds">
            {speeds.map((one) => (
              <li key={one.setPoint} className="number flex items-center gap-2 border-t border-base-300 py-0.5 text-sm">
                <span className="grow">
                  {formatNumber(one.setPoint, 0)} µs → {formatNumber(one.degPerS, 1)} °/s
                  {one.plusMinus !== undefined && <small> ± {formatNumber(one.plusMinus, 1)}</small>},{" "}
                  {formatNumber(one.degPerS / 6, 1)} rpm
                </span>
                <button
                  type="button"
                  className="btn btn-ghost btn-xs btn-square text-base"
                  aria-label={`Remove ${formatNumber(one.setPoint, 0)} µs`}
                  onClick={() => keep(speeds.filter((other) => other !== one))}
                >
                  ×
                </button>
              </li>
            ))}
          </ul>
          {speeds.length > 1 && (
            <div className="h-52">
              <Fetched>
                <LinesChart
                  label="Speed over pulse"
                  points={[...speeds, { setPoint: known.neutral, degPerS: 0 }]
                    .toSorted((a, b) => a.setPoint - b.setPoint)
                    .map((one) => ({ x: one.setPoint, speed: one.degPerS }))}
                  lines={[{ key: "speed", label: "counted speed", hasDots: true }]}
                  xUnit=" µs"
                  yUnit=" °/s"
                />
              </Fetched>
            </div>
          )}
          <p className="caption">
            {full === null
              ? "With a speed on each side, a spin becomes a share of real speed, the same both ways."
              : `A spin of 1 will be ${formatNumber(full, 1)} °/s both ways: the fastest that it does either way.`}
          </p>
          <button type="button" className="btn btn-primary btn-sm w-full" onClick={save}>
            Save on the card
          </button>
        </>
      )}
    </section>
  );
}
