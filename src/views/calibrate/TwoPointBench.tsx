import { lineThrough, type MeasuredPoint } from "@core/calibrate";
import { addCalibration, setPointUnit } from "@core/project";
import { readQuantity } from "@core/signal";
import { edit, newId } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { liveJoint } from "@stores/live";
import { notify } from "@stores/notices";
import { useState } from "react";
import { formatNumber } from "../parts/format";
import { keepDraft, readDraft } from "./draft";
import { LineEquation } from "./LineEquation";
import { SetPointJog } from "./SetPointJog";

type Draft = readonly [MeasuredPoint | null, MeasuredPoint | null];
const nothingMeasured: Draft = [null, null];

/** Two points by jogging and typing the angle seen; the line through them; saved on the card. */
export function TwoPointBench({ bench }: { readonly bench: JointBench }) {
  const { card } = bench;
  const unit = setPointUnit(card);
  const [draft, setDraft] = useState<Draft>(() => readDraft<Draft>(card.id) ?? nothingMeasured);
  const [a, b] = draft;
  const line = a && b ? lineThrough(a, b) : null;

  const keep = (next: Draft) => {
    setDraft(next);
    keepDraft(card.id, next);
  };
  const save = () => {
    if (!a || !b || !line?.ok) return;
    const refused = edit(
      addCalibration(card.id, {
        kind: "line",
        id: newId(),
        madeAt: new Date().toISOString(),
        note: "",
        points: [a, b],
      }),
    );
    if (refused) return;
    keep(nothingMeasured);
    notify(`Saved on the card of ${card.label}. It stays where it is; only its angles have changed.`);
  };

  return (
    <section className="sheet space-y-3 p-3" aria-label="Two points">
      <SetPointJog bench={bench} />
      <Point bench={bench} index={1} point={a} onPoint={(point) => keep([point, b])} />
      <Point bench={bench} index={2} point={b} onPoint={(point) => keep([a, point])} />
      {line && !line.ok && (
        <p role="alert" className="text-sm text-error">
          {line.problem}
        </p>
      )}
      {line?.ok && <LineEquation bench={bench} curve={line.value} />}
      {!line && (
        <p className="caption">
          Jog to one side, read the horn, type the angle. Then the other side. The further apart, the better the line in{" "}
          {unit}.
        </p>
      )}
      <button type="button" className="btn btn-primary btn-sm w-full" disabled={!line?.ok} onClick={save}>
        Save on the card
      </button>
    </section>
  );
}

interface PointProps {
  readonly bench: JointBench;
  readonly index: 1 | 2;
  readonly point: MeasuredPoint | null;
  readonly onPoint: (point: MeasuredPoint | null) => void;
}

/** One measured point: the set point that is being sent when the angle is typed. */
function Point({ bench, index, point, onPoint }: PointProps) {
  const unit = setPointUnit(bench.card);
  const [typed, setTyped] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = () => {
    const read = readQuantity(typed);
    const setPoint = liveJoint(bench.joint.id, "setPoint");
    if (!read.ok) setTrouble(read.problem);
    else if (read.value.unit !== null && read.value.unit !== "°") setTrouble("Type the angle you see, in degrees.");
    else if (Math.abs(read.value.value) > 3600) setTrouble("That is more than ten turns. Type the angle you see.");
    else if (!Number.isFinite(setPoint)) setTrouble("Nothing is being sent. Hold the joint first (H).");
    else {
      setTrouble(null);
      setTyped("");
      onPoint({ angleDeg: read.value.value, setPoint });
    }
  };
  if (point)
    return (
      <div className="flex items-baseline justify-between gap-2 border-t border-base-300 pt-2">
        <span className="font-medium">Point {index}</span>
        <span className="number">
          {formatNumber(point.setPoint, unit === "ticks" ? 0 : 1)} {unit} → {formatNumber(point.angleDeg, 1)}°
        </span>
        <button type="button" className="btn btn-ghost btn-xs" onClick={() => onPoint(null)}>
          Measure again
        </button>
      </div>
    );
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
