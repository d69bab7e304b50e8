import type { MeasuredPoint, Slip } from "@core/calibrate";
import { formatNumber } from "../parts/format";

interface PointListProps {
  readonly unit: string;
  readonly points: readonly MeasuredPoint[];
  /** A servo's own angle as the person's protractor shows it. */
  readonly shownDeg: (servoDeg: number) => number;
  /** How far the curve is off each point, in degrees; null while there is no curve. */
  readonly residuals: readonly number[] | null;
  readonly slips: readonly Slip[];
  readonly onRemove: (index: number) => void;
}

const chartWidth = 90;

/** The points as they were measured, each with how far the curve is off it as a bar, and what looks like a slip. */
export function PointList({ unit, points, shownDeg, residuals, slips, onRemove }: PointListProps) {
  if (points.length === 0) return null;
  const largest = Math.max(1, ...(residuals ?? []).map(Math.abs));
  return (
    <ul className="max-h-52 overflow-y-auto shows-more" aria-label="Points">
      {points.map((point, index) => {
        const residual = residuals?.[index];
        const slip = slips.find((one) => one.index === index);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: two points may be the same; their place is what they are.
          <li key={index} className="border-t border-base-300 py-1">
            <div className="flex items-center gap-2">
              <span className="number grow text-sm">
                {formatNumber(point.setPoint, unit === "ticks" ? 0 : 1)} {unit} →{" "}
                {formatNumber(shownDeg(point.angleDeg), 1)}°
              </span>
              {residual !== undefined && points.length > 2 && (
                <>
                  <svg viewBox={`${-chartWidth / 2} 0 ${chartWidth} 12`} className="h-3 w-24" aria-hidden="true">
                    <line y1={0} y2={12} className="stroke-base-content/60" />
                    <rect
                      x={Math.min(0, (residual / largest) * (chartWidth / 2))}
                      y={2}
                      width={Math.abs((residual / largest) * (chartWidth / 2))}
                      height={8}
                      className={slip?.isSure ? "fill-error" : "fill-primary"}
                    />
                  </svg>
                  <span className="number w-14 text-right text-sm">{formatNumber(residual, 2)}°</span>
                </>
              )}
              <button
                type="button"
                className="btn btn-ghost btn-xs btn-square text-base"
                aria-label={`Remove point ${index + 1}`}
                onClick={() => onRemove(index)}
              >
                ×
              </button>
            </div>
            {slip && <p className="text-sm text-warning">{slip.says}</p>}
          </li>
        );
      })}
    </ul>
  );
}
