import { editCard, type Joint, type ServoCard } from "@core/project";
import { currentUnitsMa } from "@core/signal";
import { edit } from "@stores/document";
import { liveJoint, useEveryTick } from "@stores/live";
import { useCallback } from "react";
import { formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { CardField } from "./RatingFields";

interface CurrentFieldsProps {
  readonly card: ServoCard;
  readonly joint: Joint | null;
}

const readings = [
  ["idleMa", "Idle"],
  ["movingMa", "Moving"],
  ["highestMa", "Highest seen"],
] as const;

/** What it was seen to draw; typed off a meter, or taken from its board where that can tell. */
export function CurrentFields({ card, joint }: CurrentFieldsProps) {
  useEveryTick();
  const isRead = joint !== null && card.kind !== "continuous" && card.feedback !== null;
  const now = useCallback(
    () => `${formatNumber(joint ? liveJoint(joint.id, "currentMa") : Number.NaN, 0)} mA`,
    [joint],
  );
  const set = (field: (typeof readings)[number][0]) => (value: number) => (before: ServoCard) => ({
    ...before,
    currents: {
      ...before.currents,
      [field]: value,
      measuredAt: new Date().toISOString(),
      // Nothing was ever seen higher than the highest.
      highestMa: Math.max(value, field === "highestMa" ? 0 : (before.currents.highestMa ?? 0)),
    },
  });
  const takeNow = (field: (typeof readings)[number][0], label: string) => {
    const value = joint ? liveJoint(joint.id, "currentMa") : Number.NaN;
    if (Number.isFinite(value)) edit(editCard(card.id, label.toLowerCase(), set(field)(value)));
  };
  return (
    <section className="sheet p-3" aria-label="Current">
      <div className="flex items-baseline gap-3">
        <h2 className="heading">What it draws</h2>
        {isRead && (
          <span className="ml-auto">
            <span className="caption">now</span> <LiveText read={now} className="text-lg" />
          </span>
        )}
      </div>
      <div className="mt-1 grid grid-cols-3 gap-3">
        {readings.map(([field, label]) => (
          <div key={field}>
            <CardField
              card={card}
              label={label}
              value={card.currents[field]}
              unit="mA"
              units={currentUnitsMa}
              take={set(field)}
            />
            {isRead && (
              <button type="button" className="btn btn-ghost btn-xs mt-0.5" onClick={() => takeNow(field, label)}>
                take it now
              </button>
            )}
          </div>
        ))}
      </div>
      {card.currents.highestMa !== null && card.currents.highestMa > card.rating.stallMa && (
        <p className="mt-1 text-sm text-warning">
          The highest that was seen is more than its rated stall current: the sheet or the meter is wrong.
        </p>
      )}
    </section>
  );
}
