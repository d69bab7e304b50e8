import { type Curve, lineError, type MeasuredPoint } from "@core/calibrate";
import { equationsFor } from "@core/position";
import { setPointUnit } from "@core/project";
import { curveOf, knownPlayDeg } from "@core/servo";
import type { JointBench } from "@stores/jointBench";
import { formatNumber } from "../parts/format";

interface LineEquationProps {
  readonly bench: JointBench;
  readonly curve: Curve;
  readonly points: readonly MeasuredPoint[];
}

const signed = (value: number, decimals: number) =>
  `${value < 0 ? "−" : "+"} ${formatNumber(Math.abs(value), decimals)}`;

/** The line with how far it may be off, in the units that a person's own program would use, and what it changes against the one in force. */
export function LineEquation({ bench: { card, maker }, curve, points }: LineEquationProps) {
  if (card.kind === "continuous") return null;
  const unit = setPointUnit(card);
  const error = lineError(points);
  const playDeg = knownPlayDeg(card);
  const halfPlayDeg = (playDeg ?? 0) / 2;
  const { lines, integer } = equationsFor(curve, maker, card.travelDeg);
  return (
    <div className="border-t border-base-300 pt-2" data-readout="equation">
      <p className="number text-[1.05rem]">
        {unit === "ticks" ? "tick" : "pulse"} = {formatNumber(curve.slopePerDeg, 3)} × angle{" "}
        {signed(curve.intercept, 1)}
      </p>
      {error && (
        <p className="caption">
          ± {formatNumber(error.slopePerDeg, 3)} {unit} per degree and ± {formatNumber(error.intercept, 1)} {unit} at
          0°: true to {formatNumber(error.middleDeg + halfPlayDeg, 1)}° in the middle and{" "}
          {formatNumber(error.endDeg + halfPlayDeg, 1)}° at the ends, in 95 of 100
          {playDeg === null
            ? ", and half of the play in its gears besides, which a check from both sides tells."
            : playDeg > 0
              ? `, with half of its play of ${formatNumber(playDeg, 1)}° counted in.`
              : "; its last check found no play."}
        </p>
      )}
      <details>
        <summary className="caption cursor-pointer">In the numbers of your own program</summary>
        {lines.slice(1).map((line) => (
          <p key={line} className="number text-sm">
            {line}
          </p>
        ))}
        {integer && (
          <>
            <p className="number text-sm">{integer.line}</p>
            <p className="caption">
              In whole numbers, with the angle in tenths of a degree: off by {formatNumber(integer.worstCounts, 2)} of
              one, which is {formatNumber(integer.worstSetPoints, 2)} {unit}, at most.
            </p>
          </>
        )}
      </details>
      <p className="caption mt-1">
        {formatNumber(Math.abs(curve.slopePerDeg), 2)} {unit} per degree; before it was{" "}
        {formatNumber(Math.abs(curveOf(card).slopePerDeg), 2)}.
        {curve.kind === "piecewise" && " The equations are the straight lines nearest to the piecewise curve."}
      </p>
    </div>
  );
}
