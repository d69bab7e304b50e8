import type { Curve } from "@core/calibrate";
import { setPointUnit } from "@core/project";
import { curveOf } from "@core/servo";
import type { JointBench } from "@stores/jointBench";
import { formatNumber } from "../parts/format";

interface LineEquationProps {
  readonly bench: JointBench;
  readonly curve: Curve;
}

const signed = (value: number, decimals: number) =>
  `${value < 0 ? "−" : "+"} ${formatNumber(Math.abs(value), decimals)}`;

/** The line in the units that a person's own program would use, and what it changes against the one in force. */
export function LineEquation({ bench: { card, maker }, curve }: LineEquationProps) {
  if (card.kind === "continuous") return null;
  const unit = setPointUnit(card);
  const perStep = 1 / maker.step;
  return (
    <div className="border-t border-base-300 pt-2" data-readout="equation">
      <p className="number text-[1.05rem]">
        {unit === "ticks" ? "tick" : "pulse"} = {formatNumber(curve.slopePerDeg, 3)} × angle{" "}
        {signed(curve.intercept, 1)}
      </p>
      {unit === "µs" && (
        <>
          <p className="number text-sm">
            count = {formatNumber(curve.slopePerDeg * perStep, 4)} × angle {signed(curve.intercept * perStep, 2)}
          </p>
          <p className="number text-sm">
            duty % = {formatNumber((100 * curve.slopePerDeg) / maker.periodUs, 5)} × angle{" "}
            {signed((100 * curve.intercept) / maker.periodUs, 4)}
          </p>
        </>
      )}
      <p className="caption mt-1">
        {formatNumber(Math.abs(curve.slopePerDeg), 2)} {unit} per degree; before it was{" "}
        {formatNumber(Math.abs(curveOf(card).slopePerDeg), 2)}.
        {curve.kind === "piecewise" && " The equations are the straight lines nearest to the piecewise curve."}
      </p>
    </div>
  );
}
