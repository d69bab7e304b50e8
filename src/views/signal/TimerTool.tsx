import { makerOf } from "@core/encodings";
import { allOf, frameHzOf, groupOf, setEncoding, setFrameHz } from "@core/project";
import { frequencyUnitsHz } from "@core/signal";
import { askProblem, planTimer, readPrescalers, type TimerAsk, type TimerPlan, type WorkablePlan } from "@core/timer";
import { edit } from "@stores/document";
import { notify } from "@stores/notices";
import { keepPrescalers, prescalerStore } from "@stores/prescalers";
import { Fragment, useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import type { SignalToolProps } from "./toolProps";

/** Plans a timer for this servo: every workable setting ranked, the others with the reason why not. */
export default function TimerTool({ bench, target }: SignalToolProps) {
  const { card, map, board, joint } = bench;
  const [clockHz, setClockHz] = useState(20_000_000);
  const [counterBits, setCounterBits] = useState("16");
  const prescalers = useStore(prescalerStore, ({ text }) => text);
  const [alignment, setAlignment] = useState<TimerAsk["alignment"]>("either");
  const [output, setOutput] = useState<TimerAsk["output"]>("normal");
  const [frameHz, setWantedHz] = useState(() => frameHzOf(board, joint.channel));
  if (card.kind === "smart")
    return <p className="caption">{joint.label} is a smart servo: it takes ticks over a bus, and no timer.</p>;
  const ends = [map.toSetPoint(map.lowTarget), map.toSetPoint(map.highTarget)];
  const ask: TimerAsk = {
    clockHz,
    counterBits: Number(counterBits),
    prescalers: readPrescalers(prescalers),
    alignment,
    output,
    frameHz,
    acceptsHz: card.frameHz,
    pulsesUs: { low: Math.min(...ends), high: Math.max(...ends) },
    usPerDeg: map.targetUnit === "°" ? map.toSetPoint(1) - map.toSetPoint(0) : 10,
  };
  const problem = askProblem(ask);
  const take = (value: number, set: (value: number) => void) => {
    set(value);
    return null;
  };
  return (
    <div className="grid h-full grid-cols-[15rem_minmax(0,1fr)] gap-5">
      <form className="sheet space-y-2 self-start p-3" onSubmit={(event) => event.preventDefault()}>
        <QuantityField
          label="Clock"
          value={clockHz}
          unit="Hz"
          decimals={0}
          units={frequencyUnitsHz}
          onCommit={(value) => take(value, setClockHz)}
        />
        <ChoiceField
          label="Counter"
          value={counterBits}
          choices={[
            ["8", "8 bits"],
            ["10", "10 bits"],
            ["16", "16 bits"],
            ["24", "24 bits"],
            ["32", "32 bits"],
          ]}
          onChoose={setCounterBits}
        />
        <label className="block">
          <span className="caption mb-0.5 block">Prescalers on offer</span>
          <input
            className="input input-sm number w-full bg-base-100"
            value={prescalers}
            onChange={(event) => keepPrescalers(event.target.value)}
          />
        </label>
        <ChoiceField
          label="Alignment"
          value={alignment}
          choices={[
            ["either", "either"],
            ["edge", "edge"],
            ["centre", "centre"],
          ]}
          onChoose={setAlignment}
        />
        <ChoiceField
          label="Output"
          value={output}
          choices={[
            ["normal", "normal"],
            ["inverted", "inverted"],
          ]}
          onChoose={setOutput}
        />
        <QuantityField
          label="Frame rate wanted"
          value={frameHz}
          unit="Hz"
          decimals={2}
          units={frequencyUnitsHz}
          step={1}
          onCommit={(value) => take(value, setWantedHz)}
        />
        <p className="caption">
          Pulses of {joint.label}: {formatNumber(ask.pulsesUs.low, 0)} to {formatNumber(ask.pulsesUs.high, 0)} µs by its
          limits.
        </p>
      </form>
      <div className="min-h-0 overflow-y-auto shows-more">
        {problem ? (
          <p role="alert" className="text-error">
            {problem}
          </p>
        ) : (
          <PlanTable
            plans={planTimer(ask)}
            pulseUs={map.toSetPoint(target)}
            onTake={({ timer, askedHz }) => {
              const frame = setFrameHz(board.id, groupOf(board, joint.channel), askedHz);
              if (edit(allOf("Use the timer’s plan", [setEncoding(board.id, timer), frame])))
                notify(`${board.label} is now such a timer, at ${formatNumber(askedHz, 2)} Hz. Undo takes it back.`);
            }}
          />
        )}
      </div>
    </div>
  );
}

interface PlanTableProps {
  readonly plans: readonly TimerPlan[];
  readonly pulseUs: number;
  readonly onTake: (plan: WorkablePlan) => void;
}

function PlanTable({ plans, pulseUs, onTake }: PlanTableProps) {
  const [open, setOpen] = useState<string | null>(null);
  const workable = plans.filter((plan) => plan.kind === "workable");
  return (
    <>
      <table
        className="w-full text-right text-sm [&_td]:whitespace-nowrap [&_td:not(:first-child)]:pl-2"
        data-readout="plans"
      >
        <caption className="sr-only">Timer plans, best first</caption>
        <thead className="caption">
          <tr>
            <th className="text-left font-normal">Prescale</th>
            <th className="font-normal">TOP</th>
            <th className="font-normal">frame</th>
            <th className="font-normal">error</th>
            <th className="font-normal">step</th>
            <th className="font-normal">low</th>
            <th className="font-normal">centre</th>
            <th className="font-normal">high</th>
            <th className="font-normal">for {formatNumber(pulseUs, 0)} µs</th>
            <th />
          </tr>
        </thead>
        <tbody className="number">
          {workable.map((plan, rank) => (
            <Fragment key={keyOf(plan)}>
              <tr className={`border-t border-base-300 ${rank === 0 ? "font-semibold" : ""}`}>
                <td className="py-1 text-left whitespace-nowrap">
                  {plan.prescale} <span className="caption">{plan.alignment}</span>
                </td>
                <td>{plan.top}</td>
                <td>{formatNumber(plan.frameHz, 3)} Hz</td>
                <td>{formatNumber(plan.frameErrorPercent, 3)} %</td>
                <td className="pl-3">
                  {formatNumber(plan.stepUs, 3)} µs, {formatNumber(plan.stepDeg, 3)}°
                </td>
                <td>{plan.compareLow}</td>
                <td>{plan.compareCentre}</td>
                <td>{plan.compareHigh}</td>
                <td>{compareFor(plan, pulseUs)}</td>
                <td className="pl-2 whitespace-nowrap">
                  <button
                    type="button"
                    className="btn btn-ghost btn-xs"
                    aria-expanded={open === keyOf(plan)}
                    onClick={() => setOpen(open === keyOf(plan) ? null : keyOf(plan))}
                  >
                    Maths
                  </button>
                  <button type="button" className="btn btn-outline btn-xs" onClick={() => onTake(plan)}>
                    Use
                  </button>
                </td>
              </tr>
              {open === keyOf(plan) && (
                <tr>
                  <td colSpan={10} className="bg-base-200 p-2 text-left !whitespace-normal">
                    {plan.maths.map((line) => (
                      <p key={line}>{line}</p>
                    ))}
                  </td>
                </tr>
              )}
            </Fragment>
          ))}
        </tbody>
      </table>
      {workable.length === 0 && (
        <p className="mt-2 font-semibold">None of these prescalers will do. What stands in the way:</p>
      )}
      <ul className="mt-3 space-y-1">
        {plans.map((plan) =>
          plan.kind === "unworkable" ? (
            <li key={keyOf(plan)} className="text-sm">
              <span className="number inline-block w-24">
                {plan.prescale} {plan.alignment}
              </span>{" "}
              {plan.why}
            </li>
          ) : null,
        )}
      </ul>
    </>
  );
}

const keyOf = ({ alignment, prescale }: TimerPlan) => `${alignment} ${prescale}`;

/** The compare value of a plan for any pulse. */
const compareFor = (plan: WorkablePlan, pulseUs: number): number => makerOf(plan.timer, plan.askedHz).toCount(pulseUs);
