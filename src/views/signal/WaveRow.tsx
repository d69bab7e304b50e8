import { formatNumber } from "../parts/format";

interface WaveRowProps {
  readonly label: string;
  readonly pulseUs: number;
  readonly periodUs: number;
  /** When the pulse begins in its frame; close up it is drawn from its own beginning. */
  readonly riseUs: number;
  readonly spanUs: number;
  /** The unrounded pulse, drawn dashed over what is made. */
  readonly askedUs?: number;
  /** Low, centre and high pulses, laid over each other. */
  readonly marksUs?: readonly number[];
  readonly isTall?: boolean;
}

const width = 1000;

/** One channel to scale in time. */
export function WaveRow({
  label,
  pulseUs,
  periodUs,
  riseUs,
  spanUs,
  askedUs,
  marksUs = [],
  isTall = false,
}: WaveRowProps) {
  const height = isTall ? 150 : 44;
  const top = isTall ? 34 : 8;
  const floor = height - (isTall ? 26 : 8);
  const x = (us: number) => (us / spanUs) * width;
  let path = `M0 ${floor}`;
  for (let beginUs = riseUs - periodUs; beginUs < spanUs; beginUs += periodUs) {
    const endUs = Math.min(beginUs + pulseUs, spanUs);
    if (endUs > 0) path += `H${x(Math.max(0, beginUs)).toFixed(2)}V${top}H${x(endUs).toFixed(2)}V${floor}`;
  }
  const names = ["low", "centre", "high"];
  return (
    <div className="flex items-center gap-3 border-t border-base-300">
      <span className="w-36 shrink-0 leading-tight">
        <span className={`block truncate ${isTall ? "heading" : "text-sm"}`}>{label}</span>
        <span className="number caption">{formatNumber(pulseUs, 2)} µs</span>
      </span>
      <div className="relative min-w-0 grow">
        <svg
          viewBox={`0 0 ${width} ${height}`}
          preserveAspectRatio="none"
          className="w-full"
          style={{ height }}
          aria-hidden="true"
        >
          <path
            d={`${path}H${width}`}
            className="fill-primary/15 stroke-primary"
            strokeWidth={2}
            vectorEffect="non-scaling-stroke"
          />
          {marksUs.map((us) => (
            <path
              key={us}
              d={`M${x(us)} ${top - 10}V${floor}`}
              className="stroke-base-content/70"
              strokeDasharray="1 3"
              strokeWidth={1.5}
              vectorEffect="non-scaling-stroke"
            />
          ))}
          {askedUs !== undefined && (
            <path
              d={`M${x(askedUs)} ${top - 8}V${floor + 6}`}
              className="stroke-error"
              strokeDasharray="5 3"
              strokeWidth={1.8}
              vectorEffect="non-scaling-stroke"
            />
          )}
          <line
            x1={0}
            x2={width}
            y1={floor}
            y2={floor}
            className="stroke-base-content/40"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        {marksUs.map((us, at) => (
          <span
            key={us}
            className="number caption absolute top-0 -translate-x-1/2 whitespace-nowrap"
            style={{ left: `${Math.min((us / spanUs) * 100, 96)}%` }}
          >
            {names[at]} {formatNumber(us, 0)}
          </span>
        ))}
      </div>
    </div>
  );
}
