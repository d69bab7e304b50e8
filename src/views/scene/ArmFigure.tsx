import type { PartAngle } from "./parts";
import { setPart } from "./setPart";

const upperArm = 78;
const foreArm = 66;
const hand = 22;

/** Trellis: an arm seen from the side. The turntable foreshortens it and swings it to the other side. */
export function ArmFigure() {
  return (
    <g transform="translate(134 236)" stroke="#14110c" strokeWidth="1.2">
      <ellipse cx="0" cy="8" rx="36" ry="9" fill="#5c6b68" />
      <ellipse cx="0" cy="4" rx="30" ry="7" fill="#7d8f8a" />
      <circle data-part="mark" r="2.6" fill="#d9ae55" />
      <g data-part="plane">
        <g data-part="shoulder">
          <Link length={upperArm} width={15} fill="#8fa39c" />
          <g data-part="elbow">
            <Link length={foreArm} width={12} fill="#a9bab2" />
            <g data-part="wrist">
              <Link length={hand} width={10} fill="#c9d3cb" />
              <path data-part="finger-left" d="M-3 0L-6 -17L-2 -17L0 -2Z" fill="#d9ae55" />
              <path data-part="finger-right" d="M3 0L6 -17L2 -17L0 -2Z" fill="#d9ae55" />
            </g>
          </g>
        </g>
        <circle r="8" fill="#46524f" />
      </g>
    </g>
  );
}

function Link({ length, width, fill }: { readonly length: number; readonly width: number; readonly fill: string }) {
  return (
    <>
      <rect x={-width / 2} y={-length - width / 2} width={width} height={length + width} rx={width / 2} fill={fill} />
      <circle cy={-length} r={width / 3.2} fill="#46524f" />
    </>
  );
}

ArmFigure.pose = (arm: SVGGElement, angleOf: PartAngle): void => {
  const turn = (angleOf("turntable") * Math.PI) / 180;
  const open = Math.max(0, angleOf("grip"));
  setPart(arm, "mark", `translate(${(30 * Math.sin(turn)).toFixed(2)} ${(4 + 7 * Math.cos(turn)).toFixed(2)})`);
  // Never edge-on: a sliver of an arm would tell nothing.
  const width = Math.cos(turn);
  setPart(arm, "plane", `scale(${(Math.sign(width || 1) * Math.max(Math.abs(width), 0.12)).toFixed(3)} 1)`);
  setPart(arm, "shoulder", `rotate(${angleOf("shoulder").toFixed(2)})`);
  setPart(arm, "elbow", `translate(0 ${-upperArm}) rotate(${angleOf("elbow").toFixed(2)})`);
  setPart(arm, "wrist", `translate(0 ${-foreArm}) rotate(${angleOf("wrist-tilt").toFixed(2)})`);
  setPart(arm, "finger-left", `translate(-2 ${-hand}) rotate(${(-open * 0.5).toFixed(2)})`);
  setPart(arm, "finger-right", `translate(2 ${-hand}) rotate(${(open * 0.5).toFixed(2)})`);
};
