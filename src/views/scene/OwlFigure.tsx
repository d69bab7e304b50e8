import type { PartAngle } from "./parts";
import { setPart } from "./setPart";

const lidsOpenDeg = 60;
const eyeRadius = 17;

/** Tawny: an owl's head on a post. Neck turn and nod shift the face over the head; lids, beak and tufts follow theirs. */
export function OwlFigure() {
  return (
    <g transform="translate(352 168)">
      <path d="M-9 44H9L13 82H-13Z" fill="#5b4630" />
      <ellipse cx="0" cy="46" rx="27" ry="8" fill="#3d2f20" />
      <g data-part="head">
        <ellipse cx="0" cy="0" rx="58" ry="52" fill="#8a6a48" />
        <path d="M-52 -22Q0 -78 52 -22Q0 -42 -52 -22Z" fill="#6f5236" />
        <g data-part="tuft-left">
          <path d="M-42 -34L-56 -74L-22 -48Z" fill="#6f5236" />
        </g>
        <g data-part="tuft-right">
          <path d="M42 -34L56 -74L22 -48Z" fill="#6f5236" />
        </g>
        <g data-part="face">
          <ellipse cx="-22" cy="-2" rx="28" ry="31" fill="#d8c19a" />
          <ellipse cx="22" cy="-2" rx="28" ry="31" fill="#d8c19a" />
          <Eye side="left" x={-22} />
          <Eye side="right" x={22} />
          <path d="M-8 12Q0 6 8 12L0 25Z" fill="#4b3a22" />
          <g data-part="beak">
            <path d="M-6 16Q0 20 6 16L0 27Z" fill="#6b5330" />
          </g>
          <path d="M-8 12Q0 6 8 12L2 22Q0 24 -2 22Z" fill="#4b3a22" />
        </g>
      </g>
    </g>
  );
}

function Eye({ side, x }: { readonly side: "left" | "right"; readonly x: number }) {
  const clipId = `owl-eye-${side}`;
  return (
    <g transform={`translate(${x} -4)`}>
      <clipPath id={clipId}>
        <circle r={eyeRadius} />
      </clipPath>
      <circle r={eyeRadius} fill="#f0c65a" />
      <circle r="9" fill="#15110b" />
      <circle cx="3" cy="-4" r="2.6" fill="#fff8e0" />
      <g clipPath={`url(#${clipId})`}>
        <rect
          data-part={`lid-${side}`}
          x={-eyeRadius}
          y={-eyeRadius}
          width={eyeRadius * 2}
          height={eyeRadius * 2 + 1}
          fill="#b79a70"
        />
      </g>
      <circle r={eyeRadius} fill="none" stroke="#5b4630" strokeWidth="2" />
    </g>
  );
}

OwlFigure.pose = (owl: SVGGElement, angleOf: PartAngle): void => {
  const turn = (angleOf("neck-turn") * Math.PI) / 180;
  const nod = angleOf("neck-nod");
  const tuft = angleOf("ear-tuft");
  setPart(owl, "head", `translate(${(4 * Math.sin(turn)).toFixed(2)} ${(-nod * 0.15).toFixed(2)})`);
  setPart(
    owl,
    "face",
    `translate(${(34 * Math.sin(turn)).toFixed(2)} ${(-nod * 0.55).toFixed(2)}) scale(${(0.45 + 0.55 * Math.cos(turn)).toFixed(3)} 1)`,
  );
  setPart(owl, "tuft-left", `rotate(${(-tuft * 0.6).toFixed(2)} -36 -40)`);
  setPart(owl, "tuft-right", `rotate(${(tuft * 0.6).toFixed(2)} 36 -40)`);
  const lidUp = (deg: number) => ((-Math.max(0, Math.min(lidsOpenDeg, deg)) / lidsOpenDeg) * eyeRadius * 2).toFixed(2);
  setPart(owl, "lid-left", `translate(0 ${lidUp(angleOf("left-lid"))})`);
  setPart(owl, "lid-right", `translate(0 ${lidUp(angleOf("right-lid"))})`);
  setPart(owl, "beak", `translate(0 ${(Math.max(0, angleOf("beak")) * 0.34).toFixed(2)})`);
};
