import { bestLine } from "@core/calibrate";
import { type Calibration, removeCalibration, setPointUnit } from "@core/project";
import { edit } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { formatDate, formatNumber } from "../parts/format";

/** What is on the card: every calibration with its date, the one in force first. */
export function CalibrationList({ bench: { card } }: { readonly bench: JointBench }) {
  const newestFirst = card.calibrations.toReversed();
  return (
    <section className="sheet p-3" aria-label="On the card">
      <h2 className="heading">On the card</h2>
      {newestFirst.length === 0 ? (
        <p className="caption mt-1">
          Nothing measured yet: {card.label} is driven by its data sheet, and its angles are a guess.
        </p>
      ) : (
        <ul className="mt-1">
          {newestFirst.map((made, index) => (
            <li key={made.id} className="flex items-baseline gap-2 border-t border-base-300 py-1">
              <span className="number text-sm whitespace-nowrap">{formatDate(made.madeAt)}</span>
              <span className="number grow truncate text-sm">{summaryOf(made, setPointUnit(card))}</span>
              {index === 0 && <span className="caption font-semibold whitespace-nowrap">in force</span>}
              <button
                type="button"
                className="btn btn-ghost btn-xs"
                onClick={() => edit(removeCalibration(card.id, made.id))}
              >
                Remove
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function summaryOf(made: Calibration, unit: string): string {
  if (made.kind === "spin") return `neutral ${formatNumber(made.neutral, 1)} µs`;
  const line = bestLine(made.points);
  const kind = made.kind === "piecewise" ? "piecewise, about " : "";
  return line.ok
    ? `${made.points.length} points, ${kind}${formatNumber(line.value.slopePerDeg, 2)} ${unit}/° ${formatNumber(line.value.intercept, 0)}`
    : "";
}
