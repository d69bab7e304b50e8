import type { SurveyReport } from "@core/calibrate";
import { Fetched } from "../parts/Fetched";
import { LinesChart } from "../parts/LinesChart";

/** What the run saw: the reading over what was sent, outward and on the last pass. Where it lies flat, the servo was at its stop. */
export function SurveyChart({ survey, unit }: { readonly survey: SurveyReport; readonly unit: string }) {
  const points = [
    ...survey.outward.map((one) => ({ x: one.setPoint, reading: one.reading, current: one.currentMa, places: null })),
    ...survey.places.map((one) => ({ x: one.setPoint, reading: null, current: null, places: one.reading })),
  ].toSorted((a, b) => a.x - b.x);
  if (points.length < 2) return null;
  return (
    <div className="h-52">
      <Fetched>
        <LinesChart
          label="Reading and current over what was sent"
          points={points}
          lines={[
            { key: "reading", label: "reading, outward" },
            { key: "current", label: "current, mA" },
            { key: "places", label: "last pass", hasDots: true },
          ]}
          xUnit={` ${unit}`}
          yUnit=""
        />
      </Fetched>
    </div>
  );
}
