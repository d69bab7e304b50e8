import { boardProblems, type PositionRow, positionProblems, positionRows, roundingError } from "@core/position";
import { setPointUnit } from "@core/project";
import { command } from "@stores/live";
import { DialPanel } from "../dial/DialPanel";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import type { SignalToolProps } from "./toolProps";

/** One position in every unit: type any, the others follow, each with what the board makes of it. */
export function PositionTool({ bench, target, onTarget }: SignalToolProps) {
  const { joint, board, card } = bench;
  const rows = positionRows(bench, target);
  const problems = positionProblems(bench, target);
  return (
    <div className="grid h-full grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)] gap-5">
      <div className="min-h-0 overflow-y-auto shows-more pr-1">
        <div className="sheet mb-1 flex items-center justify-between px-3 py-1.5">
          <RoundingSummary bench={bench} target={target} />
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={problems.length > 0}
            onClick={() => command({ kind: "target", jointId: joint.id, target })}
          >
            Send it to {joint.label}
          </button>
        </div>
        <table className="w-full">
          <caption className="sr-only">One position in every unit</caption>
          <thead>
            <tr className="caption text-right">
              <th className="text-left font-normal">Type any</th>
              <th className="w-44 font-normal">exactly</th>
              <th className="w-36 font-normal">{board.label} makes</th>
              <th className="w-24 font-normal">off by</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <Row key={row.id} row={row} onTarget={onTarget} />
            ))}
          </tbody>
        </table>
        {problems.map((sentence) => (
          <p key={sentence} role="alert" className="mt-2 text-sm text-error">
            {sentence}
          </p>
        ))}
        {boardProblems(board, card, joint.channel).map((sentence) => (
          <p key={sentence} className="mt-2 text-sm text-warning">
            {sentence}
          </p>
        ))}
      </div>
      <DialPanel bench={bench} />
    </div>
  );
}

function Row({ row, onTarget }: { readonly row: PositionRow; readonly onTarget: (target: number) => void }) {
  return (
    <tr>
      <th scope="row" className="text-left font-medium">
        {row.name}
      </th>
      <td className="py-px">
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
      <td className="number pl-2 text-right whitespace-nowrap">
        {formatNumber(row.made, row.decimals)} <span className="caption inline-block w-12 text-left">{row.unit}</span>
      </td>
      <td className="number text-right text-sm">{formatNumber(row.made - row.exact, row.decimals)}</td>
    </tr>
  );
}

/** The error of the board's rounding, as large as it is: in the set point's unit and in degrees. */
function RoundingSummary({ bench, target }: Pick<SignalToolProps, "bench" | "target">) {
  const { map, maker, card } = bench;
  const unit = setPointUnit(card);
  const error = roundingError(bench, target);
  const asTarget = (value: number) =>
    map.targetUnit === "spin" ? `${formatNumber(100 * value, 2)} %` : `${formatNumber(value, 3)}°`;
  return (
    <dl className="flex gap-6" data-readout="rounding">
      <div>
        <dt className="caption">rounding is off by</dt>
        <dd className="number">
          {formatNumber(error.setPoint, 2)} {unit}, {asTarget(error.target)}
        </dd>
      </div>
      <div>
        <dt className="caption">one step of the board is</dt>
        <dd className="number">
          {formatNumber(maker.step, 3)} {unit}, {asTarget(error.targetStep)}
        </dd>
      </div>
    </dl>
  );
}
