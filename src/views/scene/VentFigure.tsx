import type { PartAngle } from "./parts";
import { setPart } from "./setPart";

/** Four turns of the crank open the vent fully. */
const fullyOpenDeg = 4 * 360;
const widestDeg = 34;

/** Vent: a crank that opens a flap in the roof. */
export function VentFigure() {
  return (
    <g>
      <g data-part="flap">
        <path d="M240 22L330 58" stroke="#9fc4bd" strokeWidth="6" />
      </g>
      <g transform="translate(276 66)">
        <circle r="12" fill="#22302f" stroke="#9fb5ae" strokeWidth="2" />
        <g data-part="crank">
          <path d="M0 0V-17" stroke="#d9ae55" strokeWidth="3.4" strokeLinecap="round" />
          <circle cy="-17" r="3.4" fill="#d9ae55" />
        </g>
      </g>
    </g>
  );
}

VentFigure.pose = (vent: SVGGElement, angleOf: PartAngle): void => {
  const crankDeg = angleOf("vent-crank");
  const openDeg = (Math.max(0, Math.min(fullyOpenDeg, crankDeg)) / fullyOpenDeg) * widestDeg;
  setPart(vent, "crank", `rotate(${(crankDeg % 360).toFixed(2)})`);
  setPart(vent, "flap", `rotate(${(-openDeg).toFixed(2)} 240 22)`);
};
