import type { JointBench } from "@stores/jointBench";
import { memo } from "react";
import { formatNumber } from "../parts/format";
import { arcPath, bandPath, dialDegOf, everyStep, pointAt, radius, roundTicks } from "./geometry";
import { type OuterUnit, outerMeasureOf } from "./outerScale";

interface DialFaceProps {
  readonly bench: JointBench;
  readonly outerUnit: OuterUnit;
  /** The paint of what lies outside the travel limits. */
  readonly hatch: string;
}

/** The still part of the dial: both scales, and the landmarks on the rim. Drawn again only when the joint changes. */
export const DialFace = memo(function DialFace({ bench, outerUnit, hatch }: DialFaceProps) {
  const { scale } = bench;
  const at = (target: number) => dialDegOf(scale, target);
  const end = at(scale.centre + scale.reach);
  const travelFrom = at(scale.travelLow);
  const travelTo = at(scale.travelHigh);
  return (
    <g>
      <path d={bandPath(-end, end, radius.rimInner, radius.rimOuter)} className="fill-base-300/50" />
      <path d={bandPath(-end, end, radius.rimInner, radius.rimOuter)} fill={hatch} />
      <path
        d={bandPath(travelFrom, travelTo, radius.rimInner, radius.rimOuter)}
        className="fill-base-100 stroke-base-content/60"
      />
      <InnerScale bench={bench} />
      <OuterScale bench={bench} outerUnit={outerUnit} />
      <TravelLimit dialDeg={travelFrom} side={1} />
      <TravelLimit dialDeg={travelTo} side={-1} />
      {[scale.windowLow, scale.windowHigh]
        .filter((target) => Math.abs(target - scale.centre) <= scale.reach)
        .map((target) => (
          <WindowEnd key={target} dialDeg={at(target)} />
        ))}
      {scale.stops?.map((stop) => (
        <EndStop key={stop} dialDeg={at(stop)} />
      ))}
      <Home dialDeg={at(scale.home)} />
    </g>
  );
});

/** What should be seen: degrees, evenly spaced, or shares of full speed. */
function InnerScale({ bench: { scale } }: { bench: JointBench }) {
  const low = scale.centre - scale.reach;
  const high = scale.centre + scale.reach;
  const major = scale.stops ? (scale.reach > 100 ? 30 : 15) : 0.5;
  const minor = scale.stops ? 5 : 0.1;
  return (
    <g className="stroke-base-content">
      <path
        d={arcPath(dialDegOf(scale, low), dialDegOf(scale, high), radius.innerTick)}
        fill="none"
        strokeWidth={0.8}
      />
      {everyStep(low, high, minor).map((value) => (
        <Tick key={value} dialDeg={dialDegOf(scale, value)} from={radius.innerTick} length={-6} width={0.7} />
      ))}
      {everyStep(low, high, major).map((value) => (
        <g key={value}>
          <Tick dialDeg={dialDegOf(scale, value)} from={radius.innerTick} length={-11} width={1.6} />
          <Label dialDeg={dialDegOf(scale, value)} r={radius.innerLabel} className="text-[13px] font-semibold">
            {scale.stops ? formatNumber(value, 0) : `${formatNumber(value * 100, 0)}%`}
          </Label>
        </g>
      ))}
    </g>
  );
}

/** What is sent, laid against the inner scale through the calibration: where it is off, the two do not line up. */
function OuterScale({ bench, outerUnit }: Omit<DialFaceProps, "hatch">) {
  const { scale, map } = bench;
  const measure = outerMeasureOf(bench, outerUnit);
  const isOnDial = (value: number) => Math.abs(map.toTarget(measure.toSetPoint(value)) - scale.centre) <= scale.reach;
  const ends = [scale.centre - scale.reach, scale.centre + scale.reach].map((target) =>
    measure.ofSetPoint(map.toSetPoint(target)),
  );
  const low = Math.max(Math.min(...ends), measure.ofSetPoint(bench.card.window.low));
  const high = Math.min(Math.max(...ends), measure.ofSetPoint(bench.card.window.high));
  const { values, step } = roundTicks(low, high, 9);
  const place = (value: number) => dialDegOf(scale, map.toTarget(measure.toSetPoint(value)));
  const decimals = step < 1 ? Math.ceil(-Math.log10(step)) : 0;
  return (
    <g className="stroke-primary">
      {everyStep(low, high, step / 5)
        .filter(isOnDial)
        .map((value) => (
          <Tick key={value} dialDeg={place(value)} from={radius.rimOuter} length={6} width={0.8} />
        ))}
      {values.filter(isOnDial).map((value) => (
        <g key={value}>
          <Tick dialDeg={place(value)} from={radius.rimOuter} length={12} width={1.8} />
          <Label dialDeg={place(value)} r={radius.outerLabel} className="fill-primary text-[11px]">
            {formatNumber(value, decimals)}
          </Label>
        </g>
      ))}
    </g>
  );
}

function Tick({ dialDeg, from, length, width }: { dialDeg: number; from: number; length: number; width: number }) {
  const a = pointAt(dialDeg, from);
  const b = pointAt(dialDeg, from + length);
  return <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} strokeWidth={width} />;
}

function Label({
  dialDeg,
  r,
  className,
  children,
}: {
  dialDeg: number;
  r: number;
  className: string;
  children: string;
}) {
  const { x, y } = pointAt(dialDeg, r);
  return (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      dominantBaseline="central"
      stroke="none"
      className={`number fill-base-content ${className}`}
    >
      {children}
    </text>
  );
}

/** A bracket that opens inwards: the joint may not pass here. */
function TravelLimit({ dialDeg, side }: { dialDeg: number; side: 1 | -1 }) {
  return (
    <path
      transform={`rotate(${dialDeg})`}
      d={`M${side * 5} ${-radius.rimOuter - 3}H0V${-radius.rimInner + 3}H${side * 5}`}
      fill="none"
      className="stroke-base-content"
      strokeWidth={2.6}
    />
  );
}

/** A thick bar in oxide red: the end of the hard window. */
function WindowEnd({ dialDeg }: { dialDeg: number }) {
  return (
    <rect
      transform={`rotate(${dialDeg})`}
      x={-2}
      y={-radius.rimOuter - 5}
      width={4}
      height={radius.rimOuter - radius.rimInner + 10}
      className="fill-error"
    />
  );
}

/** A small square on the inside: where the servo itself is said to stop. */
function EndStop({ dialDeg }: { dialDeg: number }) {
  return (
    <rect
      transform={`rotate(${dialDeg})`}
      x={-3.5}
      y={-radius.rimInner + 1}
      width={7}
      height={7}
      className="fill-base-100 stroke-base-content"
      strokeWidth={1.4}
    />
  );
}

/** A little roof on the rim. */
function Home({ dialDeg }: { dialDeg: number }) {
  return (
    <path
      transform={`rotate(${dialDeg})`}
      d={`M-6 ${-radius.rimInner - 1}V${-radius.rimInner - 6}L0 ${-radius.rimOuter + 1}L6 ${-radius.rimInner - 6}V${-radius.rimInner - 1}Z`}
      className="fill-secondary"
    />
  );
}
