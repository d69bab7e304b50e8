import { readDegAt } from "@core/calibrate";
import { useProtractor } from "@stores/protractor";
import { everyStep, pointAt } from "./geometry";

/** Radius of the rim on paper, in mm: two horn lengths, and it fits the narrow side of A4 and of letter paper. */
const rimMm = 80;

/** A protractor in millimetres, with a rule to prove that it was not scaled. */
export function PaperProtractor({ sweepDeg }: { readonly sweepDeg: number }) {
  const protractor = useProtractor();
  const isFull = sweepDeg > 180;
  const belowMm = isFull ? rimMm + 4 : 26;
  const heightMm = rimMm + 4 + belowMm + 22;
  return (
    <svg
      width="180mm"
      height={`${heightMm}mm`}
      viewBox={`-90 ${-rimMm - 4} 180 ${heightMm}`}
      fill="none"
      stroke="#000"
      role="img"
      aria-label="Protractor, true to scale"
    >
      {isFull ? (
        <circle r={rimMm} strokeWidth={0.3} />
      ) : (
        <path d={`M${-rimMm} 0A${rimMm} ${rimMm} 0 0 1 ${rimMm} 0V8H${-rimMm}Z`} strokeWidth={0.3} />
      )}
      {everyStep(0, sweepDeg, 1).map((deg) => {
        const dialDeg = deg - sweepDeg / 2;
        const shown = readDegAt(protractor, sweepDeg, deg);
        const isTen = shown % 10 === 0;
        const from = pointAt(dialDeg, rimMm);
        const to = pointAt(dialDeg, isTen ? rimMm - 9 : shown % 5 === 0 ? rimMm - 6.5 : rimMm - 4);
        const label = pointAt(dialDeg, rimMm - 13);
        return (
          <g key={deg}>
            <line x1={from.x} y1={from.y} x2={to.x} y2={to.y} strokeWidth={isTen ? 0.25 : 0.12} />
            {isTen && (deg < 360 || !isFull) && (
              <text
                x={label.x}
                y={label.y}
                fontSize={3.4}
                textAnchor="middle"
                dominantBaseline="central"
                stroke="none"
                fill="#000"
                className="number"
              >
                {shown}
              </text>
            )}
          </g>
        );
      })}
      {/* The hub: cut out the circle, lay the cross under the shaft. */}
      <circle r={6} strokeWidth={0.2} strokeDasharray="1 1" />
      <path d="M-14 0H14M0 -14V14" strokeWidth={0.12} />
      <PaperRule x={-50} y={belowMm + 6} />
      <text x={0} y={belowMm + 16} fontSize={3.4} textAnchor="middle" stroke="none" fill="#000">
        Cut out the dashed hole, and lay the cross under the shaft.
      </text>
    </svg>
  );
}

/** A rule of 100 mm from this place on: by it one sees whether the paper is true to scale. */
export function PaperRule({ x, y }: { readonly x: number; readonly y: number }) {
  return (
    <g transform={`translate(${x} ${y})`} stroke="#000" fill="none" strokeWidth={0.2} data-rule-mm="100">
      <path d="M0 0H100" />
      {everyStep(0, 100, 10).map((mm) => (
        <line key={mm} x1={mm} x2={mm} y1={0} y2={mm % 50 === 0 ? -4 : -2.4} />
      ))}
      <text x={50} y={5} fontSize={3.4} textAnchor="middle" stroke="none" fill="#000">
        This rule is 100 mm long: if it is not, print again without scaling.
      </text>
    </g>
  );
}
