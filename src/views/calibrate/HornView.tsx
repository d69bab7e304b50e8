import { readDegAt } from "@core/calibrate";
import { servoDegOf } from "@core/rig";
import type { JointBench } from "@stores/jointBench";
import { liveJoint, onLive } from "@stores/live";
import { useProtractor } from "@stores/protractor";
import { memo, useEffect, useRef } from "react";
import { Graduations } from "../dial/Graduations";
import { everyStep } from "../dial/geometry";
import { steady, turn } from "../parts/draw";
import { Layer, Layers, type View } from "../parts/Layers";

/** Less than half a pixel at the rim of the protractor. */
const seenOnHornDeg = 0.1;

/** How far a servo turns, for a protractor under it: its travel, or a full turn. */
export const sweepOf = ({ card }: JointBench): number => (card.kind === "continuous" ? 360 : card.travelDeg);

/**
 * The simulated servo seen from above, on a protractor laid as the person lays theirs: no number tells the angle, the horn has to be
 * read. The left end of the travel lies at the left.
 */
export function HornView({ bench, className }: { readonly bench: JointBench; readonly className?: string }) {
  const horn = useRef<SVGSVGElement>(null);
  const { joint } = bench;
  const { axis } = joint;
  const sweepDeg = sweepOf(bench);
  const leftDeg = sweepDeg / 2;

  useEffect(() => {
    const still = steady(seenOnHornDeg);
    const show = () => {
      const seen = still(liveJoint(joint.id, "actual"));
      const servoDeg = axis.kind === "angle" ? servoDegOf(axis, seen) : seen;
      const dialDeg = axis.kind === "angle" ? servoDeg - leftDeg : servoDeg % 360;
      turn(horn.current, dialDeg);
    };
    show();
    return onLive(show);
  }, [joint.id, axis, leftDeg]);

  const isFull = sweepDeg > 180;
  const view: View = isFull ? [-170, -170, 340, 340] : [-170, -170, 340, 240];
  return (
    <Layers
      view={view}
      className={className}
      role="img"
      aria-label="The servo’s horn on a protractor"
      still={
        <>
          <path
            d="M-158 0A158 158 0 0 1 158 0L158 12H-158Z"
            className={isFull ? "hidden" : "fill-base-100 stroke-base-content/50"}
          />
          {isFull && <circle r={158} className="fill-base-100 stroke-base-content/50" />}
          <Scale sweepDeg={sweepDeg} />
          <rect x={-26} y={-24} width={52} height={84} rx={4} className="fill-base-300 stroke-base-content/60" />
        </>
      }
    >
      <Layer view={view} ref={horn} data-horn="">
        <path
          d="M-11 14L-5 -96L0 -116L5 -96L11 14A11 11 0 0 1 -11 14Z"
          className="fill-primary/25 stroke-primary"
          strokeWidth={1.6}
        />
        <line y1={0} y2={-152} className="stroke-error" strokeWidth={0.9} />
        {[-86, -70, -54].map((y) => (
          <circle key={y} cy={y} r={2.6} className="fill-base-100 stroke-primary" />
        ))}
        <circle r={8} className="fill-base-100 stroke-primary" strokeWidth={1.6} />
      </Layer>
    </Layers>
  );
}

/** The protractor itself. Some hundred lines that change only when it is laid another way. */
const Scale = memo(function Scale({ sweepDeg }: { readonly sweepDeg: number }) {
  const protractor = useProtractor();
  // A full turn ends where it began: one mark for both.
  const marks = everyStep(0, sweepDeg < 360 ? sweepDeg : 359, 1).map((deg) => ({
    deg: readDegAt(protractor, sweepDeg, deg),
    dialDeg: deg - sweepDeg / 2,
  }));
  return (
    <g className="stroke-base-content">
      <Graduations
        marks={marks}
        outer={156}
        ones={150}
        fives={145}
        tens={140}
        labelRadius={129}
        labelEvery={sweepDeg > 180 ? 20 : 10}
      />
    </g>
  );
});
