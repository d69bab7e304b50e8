import type { SignalMaker } from "@core/encodings";
import { formatNumber } from "../parts/format";

interface EdgeViewProps {
  readonly maker: SignalMaker;
  /** The pulse that was asked for, in µs. */
  readonly askedUs: number;
}

const width = 1000;
const height = 150;
const stepsShown = 4;

/** The falling edge of the pulse among the only places where this board can put it. */
export function EdgeView({ maker, askedUs }: EdgeViewProps) {
  const count = maker.toCount(askedUs);
  const madeUs = maker.toSetPoint(count);
  const fromUs = madeUs - stepsShown * maker.step;
  const x = (us: number) => ((us - fromUs) / (2 * stepsShown * maker.step)) * width;
  const upward = maker.gain > 0 ? 1 : -1;
  const places = Array.from({ length: 2 * stepsShown + 1 }, (_, at) => count + upward * (at - stepsShown));
  return (
    <div className="border-t border-base-300 py-2" data-readout="edge">
      <svg viewBox={`0 0 ${width} ${height}`} className="w-full" aria-hidden="true">
        <path d={`M0 34H${x(madeUs)}V110H${width}`} className="fill-none stroke-primary" strokeWidth={3} />
        {places.map((place) => (
          <g key={place}>
            <line
              x1={x(maker.toSetPoint(place))}
              x2={x(maker.toSetPoint(place))}
              y1={110}
              y2={120}
              className="stroke-base-content"
            />
            <text
              x={x(maker.toSetPoint(place))}
              y={134}
              textAnchor="middle"
              className="number fill-base-content text-[13px]"
            >
              {formatNumber(place * maker.perCount, maker.perCount < 1 ? 2 : 0)}
            </text>
          </g>
        ))}
        <line
          x1={x(askedUs)}
          x2={x(askedUs)}
          y1={20}
          y2={116}
          className="stroke-error"
          strokeWidth={2.4}
          strokeDasharray="6 4"
        />
        <text x={x(askedUs)} y={14} textAnchor="middle" className="number fill-error text-[13px]">
          asked {formatNumber(askedUs, 2)} µs
        </text>
      </svg>
      <p className="caption">
        The falling edge can only stand on the marks below, {formatNumber(maker.step, 3)} µs apart. Asked{" "}
        {formatNumber(askedUs, 2)} µs, it stands at {formatNumber(madeUs, 2)} µs: off by{" "}
        {formatNumber(madeUs - askedUs, 2)} µs.
      </p>
    </div>
  );
}
