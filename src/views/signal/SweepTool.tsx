import { type SweepAsk, simulateSweep, smoothest, sweepFacts, sweepProblem, sweptPositions } from "@core/sweep";
import { useMemo, useState } from "react";
import { LinesChart } from "../parts/Chart";
import { ChoiceField } from "../parts/ChoiceField";
import { Fact } from "../parts/Fact";
import { formatNumber, formatTime } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import type { SignalToolProps } from "./toolProps";

const listed = 400;
const timeUnitsMs = { ms: 1, s: 1000, µs: 0.001 };

/** From, to, step, dwell: what such a loop really makes of this servo, before it is run. */
export default function SweepTool({ bench }: SignalToolProps) {
  const { map, joint } = bench;
  const [ask, setAsk] = useState<SweepAsk>({
    fromDeg: Math.ceil(map.lowTarget),
    toDeg: Math.floor(map.highTarget),
    stepDeg: 5,
    dwellMs: 15,
    rounding: "wholeDegrees",
  });
  const problem = sweepProblem(ask, bench);
  const result = useMemo(() => {
    if (sweepProblem(ask, bench)) return null;
    const swept = sweptPositions(ask, bench);
    return { swept, facts: sweepFacts(ask, bench, swept), run: simulateSweep(swept, ask.dwellMs, bench) };
  }, [ask, bench]);
  if (map.targetUnit === "spin") return <p className="caption">{problem}</p>;
  const field = (label: string, key: "fromDeg" | "toDeg" | "stepDeg" | "dwellMs", unit: string, step: number) => (
    <QuantityField
      label={label}
      value={ask[key]}
      unit={unit}
      decimals={2}
      {...(unit === "ms" && { units: timeUnitsMs })}
      step={step}
      onCommit={(value) => {
        setAsk({ ...ask, [key]: value });
        return null;
      }}
    />
  );
  return (
    <div className="grid h-full grid-cols-[14rem_minmax(0,1fr)_12.5rem] gap-5">
      <form className="sheet space-y-2 self-start p-3" onSubmit={(event) => event.preventDefault()}>
        {field("From", "fromDeg", "°", 1)}
        {field("To", "toDeg", "°", 1)}
        {field("Step", "stepDeg", "°", 0.5)}
        {field("Dwell", "dwellMs", "ms", 5)}
        <ChoiceField
          label="Your program rounds to"
          value={ask.rounding}
          choices={[
            ["none", "nothing"],
            ["wholeDegrees", "whole degrees"],
            ["wholeCounts", "whole numbers, cut off"],
          ]}
          onChoose={(rounding) => setAsk({ ...ask, rounding })}
        />
        <button
          type="button"
          className="btn btn-sm btn-primary w-full"
          disabled={problem !== null}
          onClick={() => setAsk(smoothest(ask, bench))}
        >
          As smooth as this board can
        </button>
      </form>
      {result ? (
        <>
          <div className="flex min-h-0 flex-col gap-2 overflow-y-auto shows-more">
            <dl className="grid grid-cols-4 gap-3" data-readout="sweep">
              <Fact name="positions" value={String(result.facts.positions)} />
              <Fact name="takes" value={formatTime(result.facts.totalMs)} />
              <Fact
                name={`speed (rated ${formatNumber(result.facts.ratedDegPerS, 0)})`}
                value={`${formatNumber(result.facts.speedDegPerS, 1)} °/s`}
              />
              <Fact name="lacks at a dwell’s end" value={`${formatNumber(result.run.largestLagDeg, 1)}°`} />
            </dl>
            {result.facts.remarks.length === 0 ? (
              <p className="text-sm">{joint.label} can do this: it follows, step by step, and the ends are reached.</p>
            ) : (
              <ul className="list-disc pl-5 text-sm">
                {result.facts.remarks.map((remark) => (
                  <li key={remark}>{remark}</li>
                ))}
                {result.run.endErrorDeg > 1 && (
                  <li>
                    When the last dwell is over, the servo still lacks {formatNumber(result.run.endErrorDeg, 1)}°.
                  </li>
                )}
              </ul>
            )}
            <div className="min-h-52 grow">
              <LinesChart
                label="Commanded against simulated"
                points={Array.from(result.run.askedDeg, (asked, at) => ({
                  x: (at * result.run.stepMs) / 1000,
                  asked,
                  actual: result.run.actualDeg[at] as number,
                })).filter((_, at, all) => at % Math.ceil(all.length / 800) === 0)}
                lines={[
                  { key: "asked", label: "commanded", isStepped: true },
                  { key: "actual", label: "simulated servo" },
                ]}
                xUnit="s"
                yUnit="°"
              />
            </div>
          </div>
          <PositionList swept={result.swept} />
        </>
      ) : (
        <p role="alert" className="col-span-2 text-error">
          {problem}
        </p>
      )}
    </div>
  );
}

function PositionList({ swept }: { readonly swept: ReturnType<typeof sweptPositions> }) {
  return (
    <section className="flex min-h-0 flex-col" aria-label="Positions">
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a list that scrolls must be reached by keyboard. */}
      <div tabIndex={0} className="min-h-0 grow overflow-y-auto shows-more border-l border-base-300 pl-3">
        <table className="number w-full text-right text-sm">
          <thead className="caption sticky top-0 bg-base-100">
            <tr>
              <th className="font-normal">asked</th>
              <th className="font-normal">number</th>
              <th className="font-normal">makes</th>
            </tr>
          </thead>
          <tbody>
            {swept.slice(0, listed).map((position, at) => (
              <tr
                key={position.askedDeg}
                className={at > 0 && swept[at - 1]?.count === position.count ? "text-warning" : ""}
              >
                <td>{formatNumber(position.askedDeg, 1)}°</td>
                <td>{position.count}</td>
                <td>{formatNumber(position.madeDeg, 2)}°</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {swept.length > listed && (
        <p className="caption">
          The first {listed} of {swept.length}.
        </p>
      )}
    </section>
  );
}
