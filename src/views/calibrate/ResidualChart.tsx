import { type FitKind, fitCurve, type MeasuredPoint, readDegAt, residualsDeg } from "@core/calibrate";
import { useProtractor } from "@stores/protractor";
import { Fetched } from "../parts/Fetched";
import { LinesChart } from "../parts/LinesChart";

interface ResidualChartProps {
  readonly points: readonly MeasuredPoint[];
  readonly travelDeg: number;
}

/** How far each point lies off the straight line, and off the piecewise curve: over each other, to see which is worth it. */
export function ResidualChart({ points, travelDeg }: ResidualChartProps) {
  const protractor = useProtractor();
  const off = (kind: FitKind) => {
    const fit = fitCurve(kind, points);
    return fit.ok ? residualsDeg(fit.value, points) : [];
  };
  const straight = off("line");
  const piecewise = off("piecewise");
  const rows = points
    .map((point, at) => ({
      x: readDegAt(protractor, travelDeg, point.angleDeg),
      straight: straight[at] ?? null,
      piecewise: piecewise[at] ?? null,
    }))
    .toSorted((a, b) => a.x - b.x);
  return (
    <div className="h-52">
      <Fetched>
        <LinesChart
          label="Residuals over the angle"
          points={rows}
          lines={[
            { key: "straight", label: "straight", hasDots: true },
            { key: "piecewise", label: "piecewise", hasDots: true },
          ]}
          xUnit="°"
          yUnit="°"
        />
      </Fetched>
    </div>
  );
}
