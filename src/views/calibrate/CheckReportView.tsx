import { type CheckRead, type CheckReport, readDegAt } from "@core/calibrate";
import { useProtractor } from "@stores/protractor";
import { lazy, Suspense } from "react";
import { formatNumber } from "../parts/format";

const LinesChart = lazy(() => import("../parts/Chart").then((chart) => ({ default: chart.LinesChart })));

interface CheckReportViewProps {
  readonly readings: readonly CheckRead[];
  readonly report: CheckReport;
  /** The same readings against the curve that was in force before. */
  readonly before: { readonly name: string; readonly report: CheckReport } | null;
  readonly unit: string;
  readonly travelDeg: number;
}

/** The error table: each angle from both sides, the play between them, and the same readings against the curve before. */
export function CheckReportView({ readings, report, before, unit, travelDeg }: CheckReportViewProps) {
  const protractor = useProtractor();
  const shown = (servoDeg: number) => readDegAt(protractor, travelDeg, servoDeg);
  const rows = readings.map((one, at) => ({
    ...one,
    errorDeg: report.errorsDeg[at] as number,
    beforeDeg: before?.report.errorsDeg[at] ?? null,
  }));
  const places = rows.filter((row) => row.cameFrom === "below").toSorted((a, b) => a.setPoint - b.setPoint);
  const aboveOf = (setPoint: number) =>
    rows.find((row) => row.cameFrom === "above" && Math.abs(row.setPoint - setPoint) < 0.51);
  return (
    <>
      <dl className="grid grid-cols-[auto_1fr_1fr] gap-x-4 gap-y-0.5" data-readout="check">
        <dt className="caption" />
        <dd className="caption text-right">now</dd>
        <dd className="caption text-right">{before?.name}</dd>
        <dt className="caption">mean error</dt>
        <dd className="number text-right text-lg leading-tight">{formatNumber(report.meanDeg, 2)}°</dd>
        <dd className="number text-right">{before && `${formatNumber(before.report.meanDeg, 2)}°`}</dd>
        <dt className="caption">largest</dt>
        <dd className="number text-right text-lg leading-tight">{formatNumber(report.largestDeg, 2)}°</dd>
        <dd className="number text-right">{before && `${formatNumber(before.report.largestDeg, 2)}°`}</dd>
        <dt className="caption">play</dt>
        <dd className="number text-right text-lg leading-tight">
          {report.backlashDeg === null ? "—" : `${formatNumber(report.backlashDeg, 2)}°`}
        </dd>
        <dd />
      </dl>
      <div className="h-56">
        <Suspense>
          <LinesChart
            label="Error over angle"
            points={places.map((row) => ({
              x: shown(row.seenDeg),
              below: row.errorDeg,
              above: aboveOf(row.setPoint)?.errorDeg ?? null,
              before: row.beforeDeg,
            }))}
            lines={[
              { key: "below", label: "from below", hasDots: true },
              { key: "above", label: "from above", hasDots: true },
              ...(before ? [{ key: "before", label: before.name, hasDots: true }] : []),
            ]}
            xUnit="°"
            yUnit="°"
          />
        </Suspense>
      </div>
      <table className="w-full text-sm">
        <caption className="sr-only">Errors by angle</caption>
        <thead>
          <tr className="caption text-right">
            <th className="text-left font-normal">sent</th>
            <th className="font-normal">seen, up</th>
            <th className="font-normal">seen, down</th>
            <th className="font-normal">error</th>
            <th className="font-normal">play</th>
          </tr>
        </thead>
        <tbody className="number text-right">
          {places.map((row) => {
            const above = aboveOf(row.setPoint);
            const errorDeg = above ? (row.errorDeg + above.errorDeg) / 2 : row.errorDeg;
            return (
              <tr key={row.setPoint} className="border-t border-base-300">
                <th scope="row" className="text-left font-normal">
                  {formatNumber(row.setPoint, 1)} {unit}
                </th>
                <td>{formatNumber(shown(row.seenDeg), 1)}°</td>
                <td>{above ? `${formatNumber(shown(above.seenDeg), 1)}°` : "—"}</td>
                <td>{formatNumber(errorDeg, 2)}°</td>
                <td>{above ? `${formatNumber(above.seenDeg - row.seenDeg, 1)}°` : "—"}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}
