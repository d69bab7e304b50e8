import { bestLine, diagnose, lineError, reportCheck } from "@core/calibrate";
import { type Calibration, type Check, removeCalibration, type ServoCard, setPointUnit } from "@core/project";
import { curveFrom } from "@core/servo";
import { edit } from "@stores/document";
import { formatDate, formatNumber } from "../parts/format";

/** What is on the card: every calibration with its date, the one in force first, each with the checks that were made of it. */
export function CalibrationList({ card }: { readonly card: ServoCard }) {
  const newestFirst = card.calibrations.toReversed();
  const checksOf = (calibrationId: string | null) =>
    card.checks.filter((check) => check.calibrationId === calibrationId).toReversed();
  return (
    <section className="sheet p-3" aria-label="On the card">
      <h2 className="heading">On the card</h2>
      {newestFirst.length === 0 && (
        <p className="caption mt-1">
          Nothing measured yet: {card.label} is driven by its data sheet, and its{" "}
          {card.kind === "continuous" ? "speeds" : "angles"} are a guess.
        </p>
      )}
      <ul className="mt-1">
        {newestFirst.map((made, index) => (
          <li key={made.id} className="border-t border-base-300 py-1">
            <div className="flex items-baseline gap-2">
              <span className="number text-sm whitespace-nowrap">{formatDate(made.madeAt)}</span>
              <span className="caption grow truncate">
                {index === 0 && <strong>in force</strong>} {made.note}
              </span>
              <button
                type="button"
                className="btn btn-ghost btn-xs"
                onClick={() => edit(removeCalibration(card.id, made.id))}
              >
                Remove
              </button>
            </div>
            <p className="number text-sm">{summaryOf(made, setPointUnit(card))}</p>
            {checksOf(made.id).map((check) => (
              <CheckLine key={check.id} card={card} made={made} check={check} />
            ))}
          </li>
        ))}
        {checksOf(null).map((check) => (
          <CheckLine key={check.id} card={card} made={undefined} check={check} />
        ))}
      </ul>
    </section>
  );
}

function summaryOf(made: Calibration, unit: string): string {
  if (made.kind === "spin") {
    const speeds = made.speeds.length > 0 ? `, ${made.speeds.length} speeds` : "";
    const within = made.restPlusMinus === undefined ? "" : ` ± ${formatNumber(made.restPlusMinus, 1)}`;
    return `neutral ${formatNumber(made.neutral, 1)}${within} µs${speeds}`;
  }
  const line = bestLine(made.points);
  const error = lineError(made.points);
  const kind = made.kind === "piecewise" ? "piecewise, about " : "";
  if (!line.ok) return "";
  const { slopePerDeg, intercept } = line.value;
  return error
    ? `${made.points.length} points, ${kind}${formatNumber(slopePerDeg, 2)} ± ${formatNumber(error.slopePerDeg, 2)} ${unit}/°, ${formatNumber(intercept, 0)} ± ${formatNumber(error.intercept, 0)} ${unit} at 0°`
    : `${made.points.length} points, ${kind}${formatNumber(slopePerDeg, 2)} ${unit}/° ${formatNumber(intercept, 0)}`;
}

interface CheckLineProps {
  readonly card: ServoCard;
  readonly made: Calibration | undefined;
  readonly check: Check;
}

/** A check in one line: how true the calibration was found. */
function CheckLine({ card, made, check }: CheckLineProps) {
  if (card.kind === "continuous") return null;
  const curve = curveFrom(card, made);
  const { meanDeg, largestDeg } = reportCheck(curve, check.readings);
  const play = diagnose(curve, check.readings)?.shares.play;
  return (
    <p className="caption pl-4">
      checked <span className="number">{formatDate(check.madeAt)}</span>: {formatNumber(meanDeg, 2)}° off on average,{" "}
      {formatNumber(largestDeg, 2)}° at most
      {play && `, play ${formatNumber(Math.abs(play.deg), 1)}° ± ${formatNumber(play.plusMinusDeg, 1)}°`}
      {made === undefined && ", by the data sheet"}
    </p>
  );
}
