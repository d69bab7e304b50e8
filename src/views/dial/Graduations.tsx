import { pointAt } from "./geometry";

interface GraduationsProps {
  /** Each mark: the degree it stands for, and where it stands on the drawing. */
  readonly marks: readonly { readonly deg: number; readonly dialDeg: number }[];
  /** Where marks begin, and how far inward those of 1, 5 and 10 degrees reach. */
  readonly outer: number;
  readonly ones: number;
  readonly fives: number;
  readonly tens: number;
  readonly labelRadius: number;
  readonly labelEvery: number;
}

/** The marks and numbers of a protractor. */
export function Graduations({ marks, outer, ones, fives, tens, labelRadius, labelEvery }: GraduationsProps) {
  return marks.map(({ deg, dialDeg }) => {
    const isTen = deg % 10 === 0;
    const from = pointAt(dialDeg, outer);
    const to = pointAt(dialDeg, isTen ? tens : deg % 5 === 0 ? fives : ones);
    const label = pointAt(dialDeg, labelRadius);
    return (
      <g key={deg}>
        <line x1={from.x} y1={from.y} x2={to.x} y2={to.y} strokeWidth={isTen ? 1.1 : 0.6} />
        {deg % labelEvery === 0 && (
          <text
            x={label.x}
            y={label.y}
            textAnchor="middle"
            dominantBaseline="central"
            stroke="none"
            className="number fill-base-content text-[10px]"
          >
            {deg}
          </text>
        )}
      </g>
    );
  });
}
