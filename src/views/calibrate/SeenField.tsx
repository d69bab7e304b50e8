import { readDegAt, servoDegAt } from "@core/calibrate";
import { servoDegOf } from "@core/rig";
import type { TravellingCard } from "@core/servo";
import { readQuantity } from "@core/signal";
import type { JointBench } from "@stores/jointBench";
import { liveJoint } from "@stores/live";
import { useProtractor } from "@stores/protractor";
import { useState } from "react";
import { formatNumber } from "../parts/format";

interface SeenFieldProps {
  readonly bench: JointBench;
  readonly card: TravellingCard;
  readonly isThere: boolean;
  readonly onSeen: (servoDeg: number) => void;
}

/** What is read, in the person's own convention. Nothing can be taken while the horn is still on its way. */
export function SeenField({ bench, card, isThere, onSeen }: SeenFieldProps) {
  const protractor = useProtractor();
  const [typed, setTyped] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = () => {
    const read = readQuantity(typed);
    if (!read.ok) setTrouble(read.problem);
    else if (read.value.unit !== null && read.value.unit !== "°") setTrouble("Type the angle you see, in degrees.");
    else if (isThere) {
      const servoDeg = servoDegAt(protractor, card.travelDeg, read.value.value);
      const { axis } = bench.joint;
      const askedDeg = axis.kind === "angle" ? servoDegOf(axis, liveJoint(bench.joint.id, "target")) : servoDeg;
      if (Math.abs(servoDeg - askedDeg) > 45 && trouble === null)
        setTrouble(
          `That is ${formatNumber(Math.abs(servoDeg - askedDeg), 0)}° from where it was sent (${formatNumber(readDegAt(protractor, card.travelDeg, askedDeg), 0)}°). Press Enter again if it is so.`,
        );
      else onSeen(servoDeg);
    }
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        take();
      }}
    >
      <label className="flex items-center gap-2">
        <span className="font-medium">Angle seen</span>
        <span className="join ml-auto">
          <input
            className="input input-sm number join-item w-24 bg-base-100 text-right"
            aria-label="Angle seen"
            // biome-ignore lint/a11y/noAutofocus: the next reading is typed here, one after the other, with one hand on the bench.
            autoFocus
            value={typed}
            autoComplete="off"
            onChange={(event) => {
              setTyped(event.target.value);
              setTrouble(null);
            }}
          />
          <button type="submit" className="btn btn-sm join-item" disabled={!isThere || typed.trim() === ""}>
            Take it
          </button>
        </span>
      </label>
      {trouble && (
        <p role="alert" className="mt-1 text-sm text-warning">
          {trouble}
        </p>
      )}
    </form>
  );
}
