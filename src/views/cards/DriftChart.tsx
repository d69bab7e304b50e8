import { driftDeg } from "@core/calibrate";
import type { ServoCard } from "@core/project";
import { curveFrom } from "@core/servo";
import { Fetched } from "../parts/Fetched";
import { formatNumber } from "../parts/format";
import { LinesChart } from "../parts/LinesChart";

const shares = [0.15, 0.5, 0.85];
const dayMs = 86_400_000;

/** How the servo has wandered from its first calibration to its last: gears wear, horns slip, potentiometers age. */
export function DriftChart({ card }: { readonly card: ServoCard }) {
  const made = card.calibrations.filter((one) => one.kind !== "spin" || card.kind === "continuous");
  if (made.length < 2) return <p className="caption px-1">After a second calibration its drift is drawn here.</p>;
  const firstMs = Date.parse(made[0]?.madeAt ?? "");
  const dayOf = (madeAt: string) => (Date.parse(madeAt) - firstMs) / dayMs;
  const isSpin = card.kind === "continuous";
  const anglesDeg = isSpin ? [] : shares.map((share) => Math.round(share * card.travelDeg));
  const rows = isSpin
    ? made.map((one) => [one.kind === "spin" ? one.neutral - (made[0]?.kind === "spin" ? made[0].neutral : 0) : 0])
    : driftDeg(
        made.map((one) => curveFrom(card, one)),
        anglesDeg,
      );
  const names = isSpin ? ["neutral"] : anglesDeg.map((deg) => `at ${deg}°`);
  const unit = isSpin ? " µs" : "°";
  const largest = Math.max(...(rows.at(-1) ?? [0]).map(Math.abs));
  return (
    <section className="sheet p-3" aria-label="Drift">
      <h2 className="heading">Drift since the first calibration</h2>
      <div className="h-52">
        <Fetched>
          <LinesChart
            label="Drift over days"
            points={made.map((one, at) => ({
              x: dayOf(one.madeAt),
              ...Object.fromEntries((rows[at] ?? []).map((drift, line) => [`d${line}`, drift])),
            }))}
            lines={names.map((label, line) => ({ key: `d${line}`, label, hasDots: true }))}
            xUnit=" d"
            yUnit={unit}
          />
        </Fetched>
      </div>
      <p className="caption">
        Now {formatNumber(largest, 1)}
        {unit} away from where it began, at most.
      </p>
    </section>
  );
}
