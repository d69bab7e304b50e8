import { readDegAt, servoDegAt } from "@core/calibrate";
import { editCard, type Feedback } from "@core/project";
import { feedbackCurveOf, type TravellingCard } from "@core/servo";
import { readQuantity } from "@core/signal";
import { edit } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { liveJoint, onLive, useEveryTick } from "@stores/live";
import { useProtractor } from "@stores/protractor";
import { useCallback, useEffect, useRef, useState } from "react";
import { formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { SetPointJog } from "./SetPointJog";

interface FeedbackPointsProps {
  readonly bench: JointBench;
  readonly card: TravellingCard;
  /** Shown folded up, since something else matters more now. */
  readonly isFolded: boolean;
}

/** What a reading says of the angle: the reading as it stands, against what the person sees on the protractor. */
export function FeedbackPoints({ bench, card, isFolded }: FeedbackPointsProps) {
  useEveryTick();
  const { joint } = bench;
  const protractor = useProtractor();
  const [typed, setTyped] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const mean = useMeanReading(joint.id);
  const feedback = card.feedback;
  const details = useRef<HTMLDetailsElement>(null);
  const isUnknown = feedbackCurveOf(card) === null;
  // Folded by hand or by what happens, never taken away: what is inside would give the joint back.
  useEffect(() => {
    if (details.current) details.current.open = isUnknown && !isFolded;
  }, [isUnknown, isFolded]);
  const readReading = useCallback(() => formatNumber(mean(), 1), [mean]);
  const readCurrent = useCallback(() => `${formatNumber(liveJoint(joint.id, "currentMa"), 0)} mA`, [joint.id]);
  if (!feedback) return null;
  const curve = feedbackCurveOf(card);
  const keep = (points: Feedback["points"]) =>
    edit(
      editCard(card.id, "feedback", (before) =>
        before.kind === "continuous" || !before.feedback
          ? before
          : { ...before, feedback: { ...before.feedback, points: [...points] } },
      ),
    );
  const take = () => {
    const read = readQuantity(typed);
    const reading = mean();
    if (!read.ok) setTrouble(read.problem);
    else if (read.value.unit !== null && read.value.unit !== "°") setTrouble("Type the angle you see, in degrees.");
    else if (!Number.isFinite(reading)) setTrouble("Its board reports no reading: see to the link, then try again.");
    else {
      const angleDeg = servoDegAt(protractor, card.travelDeg, read.value.value);
      if (!keep([...feedback.points, { reading, angleDeg }])) setTyped("");
    }
  };
  return (
    <section className="sheet space-y-2 p-3" aria-label="Feedback">
      <div className="flex items-baseline gap-4">
        <h2 className="heading">What it reads</h2>
        <span className="ml-auto text-lg">
          <LiveText read={readReading} /> <span className="caption">{feedback.unit}</span>
        </span>
        <LiveText read={readCurrent} />
      </div>
      <details ref={details}>
        <summary className="caption cursor-pointer">
          {curve
            ? `${feedback.unit === "counts" ? "count" : "tick"} = ${formatNumber(curve.slopePerDeg, 3)} × angle + ${formatNumber(curve.intercept, 1)}, ${feedback.points.length < 2 ? "by its data sheet" : `from ${feedback.points.length} readings`}`
            : "A wire says nothing of angles until two readings are taken: jog, read the horn, type the angle."}
        </summary>
        <div className="mt-2 space-y-2">
          <SetPointJog bench={bench} />
          <ul aria-label="Readings">
            {feedback.points.map((point, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: two readings may be the same; their place is what they are.
              <li key={index} className="number flex items-center gap-2 border-t border-base-300 py-0.5 text-sm">
                <span className="grow">
                  {formatNumber(point.reading, 1)} {feedback.unit} →{" "}
                  {formatNumber(readDegAt(protractor, card.travelDeg, point.angleDeg), 1)}°
                </span>
                <button
                  type="button"
                  className="btn btn-ghost btn-xs btn-square text-base"
                  aria-label={`Remove reading ${index + 1}`}
                  onClick={() => keep(feedback.points.toSpliced(index, 1))}
                >
                  ×
                </button>
              </li>
            ))}
          </ul>
          <form
            className="flex items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              take();
            }}
          >
            <span className="caption">Angle seen now</span>
            <span className="join ml-auto">
              <input
                className="input input-sm number join-item w-24 bg-base-100 text-right"
                aria-label="Angle seen at this reading"
                value={typed}
                autoComplete="off"
                onChange={(event) => {
                  setTyped(event.target.value);
                  setTrouble(null);
                }}
              />
              <button type="submit" className="btn btn-sm join-item" disabled={typed.trim() === ""}>
                Take reading
              </button>
            </span>
          </form>
          {trouble && (
            <p role="alert" className="text-sm text-error">
              {trouble}
            </p>
          )}
        </div>
      </details>
    </section>
  );
}

const kept = 25;

/** The reading, evened out over about half a second. NaN while the servo cannot be read. */
function useMeanReading(jointId: string): () => number {
  const readings = useRef<number[]>([]);
  useEffect(
    () =>
      onLive(() => {
        const reading = liveJoint(jointId, "reading");
        if (Number.isNaN(reading)) readings.current.length = 0;
        else readings.current.push(reading);
        if (readings.current.length > kept) readings.current.shift();
      }),
    [jointId],
  );
  return useCallback(
    () => readings.current.reduce((sum, reading) => sum + reading, 0) / (readings.current.length || Number.NaN),
    [],
  );
}
