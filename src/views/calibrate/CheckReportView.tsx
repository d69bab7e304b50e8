import { type Cause, type CheckRead, type CheckReport, type Diagnosis, readDegAt } from "@core/calibrate";
import { useProtractor } from "@stores/protractor";
import { Fetched } from "../parts/Fetched";
import { formatNumber } from "../parts/format";
import { LinesChart } from "../parts/LinesChart";

interface CheckReportViewProps {
  readonly readings: readonly CheckRead[];
  readonly report: CheckReport;
  /** What parts it from its curve; null where the readings are too few. */
  readonly diagnosis: Diagnosis | null;
  /** The same readings against the curve that was in force before. */
  readonly before: { readonly name: string; readonly report: CheckReport } | null;
  readonly unit: string;
  readonly travelDeg: number;
}

/** The error table: each angle from both sides, the play between them, and the same readings against the curve before. */
export function CheckReportView({ readings, report, diagnosis, before, unit, travelDeg }: CheckReportViewProps) {
  const protractor = useProtractor();
  const shown = (servoDeg: number) => readDegAt(protractor, travelDeg, servoDeg);
  const rows = readings.map((one, at) => ({
    ...one,
    errorDeg: report.errorsDeg[at] as number,
    beforeDeg: before?.report.errorsDeg[at] ?? null,
  }));
  // A curve that was far worse would press the one that is judged flat.
  const isComparable = before !== null && before.report.largestDeg < 4 * Math.max(1, report.largestDeg);
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
        {diagnosis &&
          causes.map(([cause, name]) => <CauseRow key={cause} name={name} share={diagnosis.shares[cause]} />)}
      </dl>
      <div className="h-56">
        <Fetched>
          <LinesChart
            label="Error over angle"
            points={places.map((row) => ({
              x: shown(row.seenDeg),
              below: row.errorDeg,
              above: aboveOf(row.setPoint)?.errorDeg ?? null,
              before: isComparable ? row.beforeDeg : null,
            }))}
            lines={[
              { key: "below", label: "from below", hasDots: true },
              { key: "above", label: "from above", hasDots: true },
              ...(isComparable ? [{ key: "before", label: before.name, hasDots: true }] : []),
            ]}
            xUnit="°"
            yUnit="°"
          />
        </Fetched>
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

const causes: readonly (readonly [Cause, string])[] = [
  ["offset", "offset"],
  ["slope", "scale, at the ends"],
  ["bend", "bend"],
  ["play", "play"],
];
const verdictWords = { there: "there", not: "none to speak of", open: "cannot tell yet" } as const;

/** One cause: how much of it there is, how sure that is, and whether it counts. */
function CauseRow({ name, share }: { readonly name: string; readonly share: Diagnosis["shares"][Cause] }) {
  return (
    <>
      <dt className="caption">{name}</dt>
      <dd className={`number text-right leading-tight ${share?.verdict === "there" ? "font-bold" : ""}`}>
        {share ? (
          <>
            {formatNumber(share.deg, 1)}° <small>± {formatNumber(share.plusMinusDeg, 1)}°</small>
          </>
        ) : (
          "—"
        )}
      </dd>
      <dd className="caption text-right">{share ? verdictWords[share.verdict] : "not from these"}</dd>
    </>
  );
}
