import { ghostNow, onGhost } from "@stores/ghost";
import { liveJoint, onLive } from "@stores/live";
import { useEffect, useRef } from "react";
import { steady } from "../parts/draw";
import { ArmFigure } from "./ArmFigure";
import { OwlFigure } from "./OwlFigure";
import { type PartAngle, partIds, restDeg } from "./parts";
import { VentFigure } from "./VentFigure";

/** What trembles by less is not seen to move at the size of the picture. */
const seenInSceneDeg = 0.3;

interface GreenhouseProps {
  readonly className?: string;
  /** Shows joints where the ghost has them, where there is one: a moment of a routine that does not play. */
  readonly showsGhost?: boolean;
}

/**
 * The night greenhouse as a picture: Tawny on the post, Trellis at the bench, Vent in the roof, moved by where the
 * simulated servos really stand. Figures move by hand-set transforms, not by rendering.
 */
export function Greenhouse({ className, showsGhost = false }: GreenhouseProps) {
  const owl = useRef<SVGGElement>(null);
  const arm = useRef<SVGGElement>(null);
  const vent = useRef<SVGGElement>(null);

  useEffect(() => {
    const still = new Map(partIds.map((part) => [part, steady(seenInSceneDeg)]));
    const angleOf: PartAngle = (part) => {
      const seen = (showsGhost ? ghostNow()?.[part] : undefined) ?? liveJoint(part, "actual");
      const shown = Number.isFinite(seen) ? seen : restDeg[part];
      return still.get(part)?.(shown) ?? shown;
    };
    const show = () => {
      if (owl.current) OwlFigure.pose(owl.current, angleOf);
      if (arm.current) ArmFigure.pose(arm.current, angleOf);
      if (vent.current) VentFigure.pose(vent.current, angleOf);
    };
    show();
    const stops = [onLive(show), onGhost(show)];
    return () => {
      for (const stop of stops) stop();
    };
  }, [showsGhost]);

  return (
    <svg
      viewBox="0 0 480 280"
      preserveAspectRatio="xMidYMax slice"
      className={className}
      role="img"
      aria-label="The night greenhouse with the owl, the arm and the roof vent"
    >
      <rect width="480" height="300" fill="#141c1f" />
      <circle cx="76" cy="50" r="19" fill="#e9e2c4" />
      <circle cx="84" cy="45" r="17" fill="#141c1f" />
      <Panes />
      <g ref={vent}>
        <VentFigure />
      </g>
      <rect y="246" width="480" height="54" fill="#2b231a" />
      <rect y="246" width="480" height="5" fill="#4a3b28" />
      <SeedTrays />
      <g ref={arm}>
        <ArmFigure />
      </g>
      <g ref={owl}>
        <OwlFigure />
      </g>
    </svg>
  );
}

function Panes() {
  return (
    <g stroke="#33484a" strokeWidth="2.5" fill="none">
      <path d="M0 118L240 22L480 118" stroke="#46605f" strokeWidth="4" />
      <path d="M0 118H480M60 94V246M150 58V246M330 58V246M420 94V246M0 182H480" />
    </g>
  );
}

function SeedTrays() {
  return (
    <g>
      {[28, 190, 262].map((x) => (
        <g key={x} transform={`translate(${x} 238)`}>
          <path d="M0 0H44L40 12H4Z" fill="#6d4c31" />
          {[7, 16, 25, 34].map((stem) => (
            <path
              key={stem}
              d={`M${stem} 0v-7m0 2q-5 -1 -5 -5q5 0 5 4q0 -5 5 -6q0 5 -5 6`}
              stroke="#7fae78"
              strokeWidth="1.4"
              fill="none"
            />
          ))}
        </g>
      ))}
    </g>
  );
}
