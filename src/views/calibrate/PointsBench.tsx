import {
  adviseFit,
  type FitKind,
  findSlips,
  fitCurve,
  type MeasuredPoint,
  offCentreOf,
  readDegAt,
  residualsDeg,
  servoDegAt,
} from "@core/calibrate";
import { addCalibration, setPointUnit } from "@core/project";
import type { TravellingCard } from "@core/servo";
import { readQuantity } from "@core/signal";
import { edit, newId } from "@stores/document";
import { keepDraft, readDraft } from "@stores/draft";
import type { JointBench } from "@stores/jointBench";
import { liveJoint } from "@stores/live";
import { notify } from "@stores/notices";
import { useProtractor } from "@stores/protractor";
import { useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { LineEquation } from "./LineEquation";
import { PointList } from "./PointList";
import { ResidualChart } from "./ResidualChart";
import { SetPointJog } from "./SetPointJog";

interface PointsBenchProps {
  readonly bench: JointBench;
  readonly card: TravellingCard;
}

/** Two, three or more points by jogging and typing the angle seen; the curve through them; saved on the card. */
export function PointsBench({ bench, card }: PointsBenchProps) {
  const protractor = useProtractor();
  const unit = setPointUnit(card);
  const place = `points.${card.id}`;
  const [points, setPoints] = useState<readonly MeasuredPoint[]>(() => readDraft<MeasuredPoint[]>(place) ?? []);
  const [chosen, setChosen] = useState<FitKind | "advised">("advised");
  const advice = adviseFit(points);
  const kind = chosen === "advised" ? (advice?.kind ?? "line") : chosen;
  const fit = points.length >= 2 ? fitCurve(kind, points) : null;

  const keep = (next: readonly MeasuredPoint[]) => {
    setPoints(next);
    keepDraft(place, next);
  };
  const save = () => {
    if (!fit?.ok) return;
    const made = { kind, id: newId(), madeAt: new Date().toISOString(), note: "", points };
    if (!edit(addCalibration(card.id, made))) return;
    keep([]);
    notify(`Saved on the card of ${card.label}. It stays where it is; only its angles have changed.`);
  };

  return (
    <section className="sheet space-y-3 p-3" aria-label="Measured points">
      <SetPointJog bench={bench} />
      <PointList
        unit={unit}
        points={points}
        shownDeg={(servoDeg) => readDegAt(protractor, card.travelDeg, servoDeg)}
        residuals={fit?.ok ? residualsDeg(fit.value, points) : null}
        slips={findSlips(
          points.map((point) => ({ ...point, angleDeg: readDegAt(protractor, card.travelDeg, point.angleDeg) })),
          card.travelDeg,
        )}
        onRemove={(index) => keep(points.toSpliced(index, 1))}
      />
      <NextPoint
        key={points.length}
        bench={bench}
        index={points.length + 1}
        servoDegOf={(readDeg) => servoDegAt(protractor, card.travelDeg, readDeg)}
        onPoint={(point) => keep([...points, point])}
      />
      {fit && !fit.ok && (
        <p role="alert" className="text-sm text-error">
          {fit.problem}
        </p>
      )}
      {fit?.ok && (
        <>
          {points.length > 2 && (
            <ChoiceField
              label={advice?.says ?? "Curve"}
              value={chosen}
              choices={[
                ["advised", "as advised"],
                ["line", "straight, least squares"],
                ["piecewise", "piecewise"],
              ]}
              onChoose={setChosen}
            />
          )}
          {points.length > 2 && <ResidualChart points={points} travelDeg={card.travelDeg} />}
          <LineEquation bench={bench} curve={fit.value} points={points} />
        </>
      )}
      {!fit && (
        <p className="caption">
          Jog to one side, read the horn, type the angle. Then the other side. The further apart, the better the line in{" "}
          {unit}.
        </p>
      )}
      <button type="button" className="btn btn-primary btn-sm w-full" disabled={!fit?.ok} onClick={save}>
        Save on the card
      </button>
      {fit?.ok && (
        <OffCentreWords
          bench={bench}
          off={offCentreOf(fit.value, (card.nominal.low + card.nominal.high) / 2, card.travelDeg / 2, card.splineTeeth)}
        />
      )}
    </section>
  );
}

interface OffCentreWordsProps {
  readonly bench: JointBench;
  readonly off: ReturnType<typeof offCentreOf>;
}

/** How far the middle is off, and whether turning the horn a tooth would mend it. */
function OffCentreWords({ bench, off }: OffCentreWordsProps) {
  const teeth = Math.round(off.teeth);
  return (
    <p className="caption" data-readout="centre">
      Off centre by {formatNumber(off.setPoint, 1)} {setPointUnit(bench.card)},{" "}
      {formatNumber(Math.abs(off.angleDeg), 1)}°, which is {formatNumber(Math.abs(off.teeth), 2)} teeth of its{" "}
      {bench.card.splineTeeth}
      {teeth === 0
        ? ": less than turning the horn could mend."
        : `: turn the horn ${Math.abs(teeth)} ${Math.abs(teeth) === 1 ? "tooth" : "teeth"}.`}
    </p>
  );
}

interface NextPointProps {
  readonly bench: JointBench;
  readonly index: number;
  /** The servo's own angle for what is read in the person's convention. */
  readonly servoDegOf: (readDeg: number) => number;
  readonly onPoint: (point: MeasuredPoint) => void;
}

/** The next measured point: the set point that is being sent when the angle is typed. */
function NextPoint({ bench, index, servoDegOf, onPoint }: NextPointProps) {
  const [typed, setTyped] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = () => {
    const read = readQuantity(typed);
    const setPoint = liveJoint(bench.joint.id, "setPoint");
    if (!read.ok) setTrouble(read.problem);
    else if (read.value.unit !== null && read.value.unit !== "°") setTrouble("Type the angle you see, in degrees.");
    else if (Math.abs(read.value.value) > 3600) setTrouble("That is more than ten turns. Type the angle you see.");
    else if (!Number.isFinite(setPoint)) setTrouble("Nothing is being sent. Hold the joint first (H).");
    else onPoint({ angleDeg: servoDegOf(read.value.value), setPoint });
  };
  return (
    <form
      className="border-t border-base-300 pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        take();
      }}
    >
      <label className="flex items-center gap-2">
        <span className="font-medium">Point {index}</span>
        <span className="caption">angle seen</span>
        <span className="join ml-auto">
          <input
            className="input input-sm number join-item w-24 bg-base-100 text-right"
            aria-label={`Angle seen at point ${index}`}
            value={typed}
            autoComplete="off"
            onChange={(event) => {
              setTyped(event.target.value);
              setTrouble(null);
            }}
          />
          <button type="submit" className="btn btn-sm join-item" disabled={typed.trim() === ""}>
            Take point {index}
          </button>
        </span>
      </label>
      {trouble && (
        <p role="alert" className="mt-1 text-sm text-error">
          {trouble}
        </p>
      )}
    </form>
  );
}
