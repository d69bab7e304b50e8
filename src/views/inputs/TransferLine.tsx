import { shapingOf } from "@core/inputs";
import type { Lead, Source } from "@core/project";
import type { JointBench } from "@stores/jointBench";
import { liveSource, onLive } from "@stores/live";
import { useEffect, useMemo, useRef } from "react";
import { formatIn, formatNumber } from "../parts/format";

interface TransferLineProps {
  readonly bench: JointBench;
  readonly source: Source;
  readonly lead: Lead;
}

const width = 560;
const height = 150;
const left = 64;
const bottom = 24;
const samples = 80;

/** The mapping as a picture: the source's number to the right, the target upward, and the live point on the line. */
export function TransferLine({ bench: { map }, source, lead }: TransferLineProps) {
  const point = useRef<SVGGElement>(null);
  const shape = useMemo(() => shapingOf(lead.shapers), [lead.shapers]);
  const { low, high } = source.range;
  const x = (value: number) => left + ((value - low) / (high - low)) * (width - left - 12);
  const y = (target: number) =>
    height - bottom - ((target - map.lowTarget) / (map.highTarget - map.lowTarget)) * (height - bottom - 10);
  const path = Array.from({ length: samples + 1 }, (_, at) => low + ((high - low) * at) / samples)
    .map((value, at) => `${at === 0 ? "M" : "L"}${x(value).toFixed(1)} ${y(shape(value)).toFixed(1)}`)
    .join("");
  useEffect(() => {
    const show = () => {
      const value = liveSource(source.id);
      point.current?.setAttribute("visibility", Number.isFinite(value) ? "visible" : "hidden");
      if (Number.isFinite(value))
        point.current?.setAttribute("transform", `translate(${x(value).toFixed(1)} ${y(shape(value)).toFixed(1)})`);
    };
    show();
    return onLive(show);
  });
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="sheet w-full p-0" role="img" aria-label="The mapping as a line">
      <line x1={left} x2={width - 12} y1={height - bottom} y2={height - bottom} className="stroke-base-content/50" />
      <line x1={left} x2={left} y1={8} y2={height - bottom} className="stroke-base-content/50" />
      <g className="number fill-base-content text-[12px]">
        <text x={left} y={height - 7} textAnchor="middle">
          {formatNumber(low, 0)}
        </text>
        <text x={width - 12} y={height - 7} textAnchor="end">
          {formatNumber(high, 0)}
        </text>
        <text x={left - 8} y={height - bottom} textAnchor="end">
          {formatIn(map.lowTarget, map.targetUnit)}
        </text>
        <text x={left - 8} y={20} textAnchor="end">
          {formatIn(map.highTarget, map.targetUnit)}
        </text>
      </g>
      <path d={path} className="fill-none stroke-primary" strokeWidth={2.4} />
      <g ref={point}>
        <circle r={6} className="fill-base-100 stroke-base-content" strokeWidth={2} />
      </g>
    </svg>
  );
}
