import { type HornDrawing, type HornsPage, hornRowMm, hornsInRow, widthMm } from "@core/handOff";
import { arcPath, everyStep, pointAt } from "../../dial/geometry";
import { PaperRule } from "../../dial/PaperProtractor";

const cellMm = widthMm / hornsInRow;
const reachMm = 34;

/** What goes under a horn: home straight up, the limits beside it, and the teeth of the shaft. True to scale. */
export function HornDrawings({ page }: { readonly page: HornsPage }) {
  const rows = Math.ceil(page.horns.length / hornsInRow);
  const heightMm = rows * hornRowMm + 12;
  return (
    <svg
      width={`${widthMm}mm`}
      height={`${heightMm}mm`}
      viewBox={`0 0 ${widthMm} ${heightMm}`}
      fill="none"
      stroke="#000"
      role="img"
      aria-label="Horn templates, true to scale"
    >
      {page.horns.map((horn, at) => (
        <g
          key={horn.joint}
          transform={`translate(${((at % hornsInRow) + 0.5) * cellMm} ${Math.floor(at / hornsInRow) * hornRowMm + 44})`}
        >
          <Horn horn={horn} />
        </g>
      ))}
      <PaperRule x={widthMm / 2 - 50} y={rows * hornRowMm + 4} />
    </svg>
  );
}

/** Where a limit lies on home there is one ray for both. */
const isHome = (deg: number) => Math.abs(deg) < 3;

function Horn({ horn }: { readonly horn: HornDrawing }) {
  const { lowDeg, highDeg, teeth } = horn;
  const atHome = isHome(lowDeg) || isHome(highDeg) ? ", a limit" : "";
  const [from, to] = [Math.min(lowDeg, highDeg), Math.max(lowDeg, highDeg)];
  return (
    <>
      <circle r={3} strokeWidth={0.2} strokeDasharray="0.8 0.8" />
      <path d="M-7 0H7M0 -7V7" strokeWidth={0.12} />
      {everyStep(0, teeth - 1, 1).map((tooth) => {
        const deg = (tooth * 360) / teeth;
        const [a, b] = [pointAt(deg, reachMm - 12), pointAt(deg, reachMm - (tooth === 0 ? 6 : 9))];
        return <line key={tooth} x1={a.x} y1={a.y} x2={b.x} y2={b.y} strokeWidth={0.12} />;
      })}
      {to - from < 359 && <path d={arcPath(from, to, reachMm - 3)} strokeWidth={0.3} />}
      <Ray deg={0} name={`home ${horn.home}${atHome}`} isHome />
      {!isHome(lowDeg) && <Ray deg={lowDeg} name={horn.low} />}
      {!isHome(highDeg) && <Ray deg={highDeg} name={horn.high} />}
      <text y={reachMm + 6} fontSize={4} fontWeight={600} textAnchor="middle" stroke="none" fill="#000">
        {horn.joint.slice(0, 30)}
      </text>
      <text y={reachMm + 11} fontSize={2.9} textAnchor="middle" stroke="none" fill="#000">
        {horn.servo.slice(0, 34)}, {teeth} teeth of {(360 / teeth).toFixed(1)}°
      </text>
    </>
  );
}

function Ray({
  deg,
  name,
  isHome = false,
}: {
  readonly deg: number;
  readonly name: string;
  readonly isHome?: boolean;
}) {
  const end = pointAt(deg, reachMm);
  const label = pointAt(deg, reachMm + 4);
  const anchor = Math.abs(label.x) < 6 ? "middle" : label.x > 0 ? "start" : "end";
  return (
    <>
      <line
        x1={0}
        y1={0}
        x2={end.x}
        y2={end.y}
        strokeWidth={isHome ? 0.5 : 0.25}
        strokeDasharray={isHome ? undefined : "2 1"}
      />
      <text
        x={Math.abs(label.x) < 6 ? label.x : label.x - Math.sign(label.x) * 2.5}
        y={label.y + 1}
        fontSize={3}
        textAnchor={anchor}
        stroke="none"
        fill="#000"
      >
        {name}
      </text>
    </>
  );
}
