import type { JointBench } from "@stores/jointBench";
import { command, liveJoint } from "@stores/live";
import { useState } from "react";
import { DialPanel } from "../dial/DialPanel";
import { formatNumber } from "../parts/format";
import { HoldSwitch } from "../parts/HoldSwitch";
import { JointHead } from "../parts/JointHead";
import { QuantityField } from "../parts/QuantityField";
import { SelectedJoint } from "../parts/SelectedJoint";
import { type PositionRow, positionRows } from "./positionRows";

/** Which number gives this angle on this board, and what will really come out. */
export default function SignalStation() {
  return <SelectedJoint>{(bench) => <Signal bench={bench} />}</SelectedJoint>;
}

function Signal({ bench }: { readonly bench: JointBench }) {
  const { joint, card, map, board } = bench;
  const [target, setTarget] = useState(() => {
    const now = liveJoint(joint.id, "target");
    return Number.isFinite(now) ? now : map.homeTarget;
  });
  const rows = positionRows(bench, target);
  const setPoint = map.toSetPoint(target);
  const troubles = troublesOf(bench, target, setPoint);
  return (
    <div className="flex h-full flex-col">
      <JointHead bench={bench} title="as a signal">
        <HoldSwitch joint={joint} />
      </JointHead>
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] gap-5">
        <div className="min-h-0 overflow-y-auto">
          <table className="w-full border-separate border-spacing-y-1">
            <caption className="caption pb-2 text-left">
              Type any one; the others follow. {board.label} can only make whole{" "}
              {bench.maker.registerName === "count" ? "counts" : "ticks"}, so what comes out is a little off.
            </caption>
            <thead>
              <tr className="caption text-right">
                <th className="text-left font-normal">One position</th>
                <th className="w-44 font-normal">exactly</th>
                <th className="w-40 font-normal">{board.label} makes</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <Row key={row.name} row={row} onTarget={setTarget} />
              ))}
            </tbody>
          </table>
          <RoundingError bench={bench} target={target} />
          {troubles.map((trouble) => (
            <p key={trouble} role="alert" className="mt-2 text-sm text-error">
              {trouble}
            </p>
          ))}
          <button
            type="button"
            className="btn btn-primary mt-3"
            disabled={troubles.length > 0}
            onClick={() => command({ kind: "target", jointId: joint.id, target })}
          >
            Send it to {joint.label}
          </button>
          <p className="caption mt-2">
            {card.kind === "continuous"
              ? "Spin is piecewise about neutral: each side has its own span."
              : "Angles are the joint’s own, through its direction, zero and calibration."}
          </p>
        </div>
        <DialPanel bench={bench} />
      </div>
    </div>
  );
}

function Row({ row, onTarget }: { readonly row: PositionRow; readonly onTarget: (target: number) => void }) {
  return (
    <tr>
      <th scope="row" className="text-left font-medium">
        {row.name}
      </th>
      <td>
        <QuantityField
          label={row.name}
          hidesLabel
          value={row.exact}
          unit={row.unit}
          decimals={row.decimals}
          {...(row.units && { units: row.units })}
          step={row.step}
          onCommit={(value) => {
            const target = row.toTarget(value);
            if (!Number.isFinite(target)) return "No position gives this.";
            onTarget(target);
            return null;
          }}
        />
      </td>
      <td className="number text-right">
        {formatNumber(row.made, row.decimals)} <span className="caption inline-block w-14 text-left">{row.unit}</span>
      </td>
    </tr>
  );
}

/** The error of the board's rounding, as large as it is: in the set point's unit and in degrees. */
function RoundingError({ bench, target }: { readonly bench: JointBench; readonly target: number }) {
  const { map, maker, card } = bench;
  const exact = map.toSetPoint(target);
  const made = maker.toSetPoint(maker.toRegister(exact));
  const unit = card.kind === "smart" ? "ticks" : "µs";
  const isSpin = map.targetUnit === "spin";
  const step = Math.abs(map.toTarget(exact + maker.step) - map.toTarget(exact));
  return (
    <dl className="sheet mt-2 flex gap-8 p-3" data-readout="rounding">
      <div>
        <dt className="caption">rounding is off by</dt>
        <dd className="number text-xl">
          {formatNumber(made - exact, 2)} {unit}
        </dd>
      </div>
      <div>
        <dt className="caption">which is</dt>
        <dd className="number text-xl">
          {isSpin
            ? `${formatNumber(100 * (map.toTarget(made) - target), 2)} %`
            : `${formatNumber(map.toTarget(made) - target, 3)}°`}
        </dd>
      </div>
      <div>
        <dt className="caption">one {maker.registerName} is</dt>
        <dd className="number text-xl">
          {formatNumber(maker.step, 3)} {unit},{" "}
          {isSpin ? `${formatNumber(100 * step, 2)} %` : `${formatNumber(step, 3)}°`}
        </dd>
      </div>
    </dl>
  );
}

/** Why this position must not be sent, with what would be right. */
function troublesOf({ joint, card, map, maker }: JointBench, target: number, setPoint: number): string[] {
  const unit = card.kind === "smart" ? "ticks" : "µs";
  const troubles: string[] = [];
  if (target < map.lowTarget || target > map.highTarget)
    troubles.push(
      `This is outside the travel limits of ${joint.label}: from ${formatNumber(map.lowTarget, 1)} to ${formatNumber(map.highTarget, 1)}.`,
    );
  if (setPoint < card.window.low || setPoint > card.window.high)
    troubles.push(
      `${formatNumber(setPoint, 0)} ${unit} is outside the hard window of this servo, ${card.window.low} to ${card.window.high} ${unit}.`,
    );
  if (card.kind !== "smart" && setPoint >= maker.periodUs)
    troubles.push(`A pulse cannot be longer than its frame of ${formatNumber(maker.periodUs, 0)} µs.`);
  return troubles;
}
