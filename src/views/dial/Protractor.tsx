import { servoDegOf } from "@core/rig";
import type { JointBench } from "@stores/jointBench";
import { dialDegOf, everyStep, pointAt } from "./geometry";

/** A clear protractor over the dial, in the servo's own degrees: for reading a real horn held against the screen. */
export function Protractor({ bench: { joint, card, scale } }: { readonly bench: JointBench }) {
  const { axis } = joint;
  if (axis.kind !== "angle" || card.kind === "continuous") return null;
  const jointDegs = everyStep(0, card.travelDeg, 1).map((servoDeg) => axis.direction * (servoDeg - axis.zeroDeg));
  return (
    <g className="stroke-secondary" pointerEvents="none">
      {jointDegs.map((jointDeg) => {
        const servoDeg = Math.round(servoDegOf(axis, jointDeg));
        const dialDeg = dialDegOf(scale, jointDeg);
        const inner = servoDeg % 10 === 0 ? 60 : servoDeg % 5 === 0 ? 84 : 92;
        const from = pointAt(dialDeg, 100);
        const to = pointAt(dialDeg, inner);
        const label = pointAt(dialDeg, 50);
        return (
          <g key={servoDeg}>
            <line x1={from.x} y1={from.y} x2={to.x} y2={to.y} strokeWidth={servoDeg % 10 === 0 ? 0.9 : 0.5} />
            {servoDeg % 30 === 0 && (
              <text
                x={label.x}
                y={label.y}
                textAnchor="middle"
                dominantBaseline="central"
                stroke="none"
                className="number fill-secondary text-[10px]"
              >
                {servoDeg}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
