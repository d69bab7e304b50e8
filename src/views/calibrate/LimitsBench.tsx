import { type AngleAxis, setHome, setTravel } from "@core/project";
import { travelLeft } from "@core/rig";
import type { TravellingCard } from "@core/servo";
import { edit } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint, onLive } from "@stores/live";
import { notify } from "@stores/notices";
import { useEffect, useRef } from "react";
import { draw } from "../parts/draw";
import { formatNumber } from "../parts/format";
import { LimitsPanel } from "../parts/LimitsPanel";
import { useKeys } from "../parts/useKeys";
import { Answer } from "./Answer";
import { SetPointJog } from "./SetPointJog";
import { WindowFields } from "./WindowFields";

interface LimitsBenchProps {
  readonly bench: JointBench;
  readonly card: TravellingCard;
  readonly axis: AngleAxis;
}

/** This far and no further: limits and home taken from where the joint was jogged to, and what they leave of the servo. */
export function LimitsBench({ bench, card, axis }: LimitsBenchProps) {
  const { joint } = bench;
  const here = () => Math.round(liveJoint(joint.id, "target") * 10) / 10;
  const take = (what: string, change: (deg: number) => ReturnType<typeof setHome>) => {
    const deg = here();
    if (!Number.isFinite(deg)) notify("Nothing is being sent. Hold the joint first (H).", "warning");
    else if (edit(change(deg))) notify(`${what} of ${joint.label} is ${formatNumber(deg, 1)}°.`);
  };
  const lower = () => take("The lower limit", (deg) => setTravel(joint.id, deg, axis.travel.high));
  const upper = () => take("The upper limit", (deg) => setTravel(joint.id, axis.travel.low, deg));
  const home = () => take("Home", (deg) => setHome(joint.id, deg));
  const goHome = () => command({ kind: "home", jointId: joint.id });
  useKeys({ "[": lower, "]": upper, o: home });
  return (
    <>
      <section className="sheet space-y-3 p-3" aria-label="Limits by jogging">
        <SetPointJog bench={bench} />
        <div className="grid grid-cols-2 gap-2">
          <Answer words="No further down" letter="[" onAnswer={lower} />
          <Answer words="No further up" letter="]" onAnswer={upper} />
          <Answer words="This is home" letter="O" onAnswer={home} />
          <Answer words="Go home" letter="G" onAnswer={goHome} />
        </div>
        <TravelLeftView bench={bench} card={card} axis={axis} />
      </section>
      <LimitsPanel bench={bench} />
      <WindowFields bench={bench} />
    </>
  );
}

/** The servo's own travel as a bar, with what the limits leave of it, home, and where it stands now. */
function TravelLeftView({ bench: { joint, map }, card, axis }: LimitsBenchProps) {
  const now = useRef<SVGPathElement>(null);
  const left = travelLeft(axis, card, map);
  const span = left ? left.highStopDeg - left.lowStopDeg : 1;
  const from = left?.lowStopDeg ?? 0;
  useEffect(() => {
    const show = () => {
      const deg = liveJoint(joint.id, "target");
      if (Number.isFinite(deg)) draw(now.current, "transform", `translate(${((deg - from) / span) * 360} 0)`);
    };
    show();
    return onLive(show);
  }, [joint.id, from, span]);
  if (!left) return null;
  const x = (deg: number) => ((deg - from) / span) * 360;
  const { low, high } = axis.travel;
  return (
    <figure data-readout="travel left">
      <svg viewBox="-14 -14 388 44" className="w-full" role="img" aria-label="What the limits leave of the travel">
        <rect x={0} y={0} width={360} height={10} className="fill-base-300" />
        <rect x={x(low)} y={0} width={Math.max(0, x(high) - x(low))} height={10} className="fill-primary/60" />
        <line
          x1={x(axis.homeDeg)}
          x2={x(axis.homeDeg)}
          y1={-3}
          y2={13}
          className="stroke-base-content"
          strokeWidth={2}
        />
        <path ref={now} d="M0 -2L-4 -10H4Z" className="fill-base-content" />
        {[
          [left.lowStopDeg, "start"],
          [left.highStopDeg, "end"],
        ].map(([deg, anchor]) => (
          <text
            key={anchor}
            x={x(Number(deg))}
            y={26}
            textAnchor={anchor as "start"}
            className="number fill-base-content text-[12px]"
          >
            {formatNumber(Number(deg), 0)}°
          </text>
        ))}
      </svg>
      <figcaption className="caption">
        The limits leave {formatNumber(100 * left.share, 0)} % of the {formatNumber(span, 0)}° between its{" "}
        {left.isMeasured ? "end stops" : "ends by the data sheet; nobody has looked for the real ones"}.{" "}
        {left.lowRoomDeg < 0 || left.highRoomDeg < 0 ? (
          <strong className="text-warning">
            A limit lies {formatNumber(-Math.min(left.lowRoomDeg, left.highRoomDeg), 1)}° past a stop: draw it in.
          </strong>
        ) : (
          `Room to the stops: ${formatNumber(left.lowRoomDeg, 1)}° below, ${formatNumber(left.highRoomDeg, 1)}° above.`
        )}
      </figcaption>
    </figure>
  );
}
