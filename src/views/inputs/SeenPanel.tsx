import { outcomesOf } from "@core/inputs";
import { jointOfLead, type Lead, type Source } from "@core/project";
import { useProject } from "@stores/document";
import { liveHead, liveJoint, liveLead, liveSource, onLive, pace, useEveryTick } from "@stores/live";
import { useCallback, useEffect, useRef } from "react";
import { draw } from "../parts/draw";
import { formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { useStrokes } from "../parts/strokes";
import { aroundNow } from "./ChainEditor";

interface SeenPanelProps {
  readonly lead: Lead;
  readonly source: Source;
}

/** A lead as it is seen: the whole way from source to target as a curve, the last half minute, and its numbers side by side. */
export function SeenPanel({ lead, source }: SeenPanelProps) {
  useEveryTick();
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.3fr)] gap-4">
      <div className="space-y-2">
        <TransferCurve lead={lead} source={source} />
        <LeadReadout lead={lead} source={source} />
      </div>
      <RollingChart lead={lead} source={source} />
    </div>
  );
}

const width = 360;
const height = 150;
const left = 46;
const bottom = 20;

function TransferCurve({ lead, source }: SeenPanelProps) {
  const point = useRef<SVGCircleElement>(null);
  const { values, outs, least, most } = outcomesOf(lead.shapers, source.range, aroundNow, 120);
  const { low, high } = source.range;
  const x = (value: number) => left + ((value - low) / (high - low)) * (width - left - 10);
  const y = (out: number) => height - bottom - ((out - least) / (most - least)) * (height - bottom - 10);
  const path = values
    .map((value, at) => [value, outs[at] as number] as const)
    .filter(([, out]) => Number.isFinite(out))
    .map(([value, out], at) => `${at === 0 ? "M" : "L"}${x(value).toFixed(1)} ${y(out).toFixed(1)}`)
    .join("");
  useEffect(() => {
    const show = () => {
      const value = liveSource(source.id);
      const out = liveLead(lead.id);
      const isShown = Number.isFinite(value) && Number.isFinite(out);
      draw(point.current, "visibility", isShown ? "visible" : "hidden");
      if (!isShown) return;
      draw(point.current, "cx", x(Math.min(Math.max(value, low), high)).toFixed(1));
      draw(point.current, "cy", y(Math.min(Math.max(out, least), most)).toFixed(1));
    };
    show();
    return onLive(show);
  });
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="sheet w-full p-0"
      role="img"
      aria-label="From source to target as a curve"
    >
      <path d={`M${left} 8V${height - bottom}H${width - 8}`} className="fill-none stroke-base-content/50" />
      <g className="number fill-base-content text-[11px]">
        <text x={left} y={height - 5}>
          {formatNumber(low, 0)}
        </text>
        <text x={width - 8} y={height - 5} textAnchor="end">
          {formatNumber(high, 0)}
        </text>
        <text x={left - 5} y={height - bottom} textAnchor="end">
          {formatNumber(least, most - least < 5 ? 1 : 0)}
        </text>
        <text x={left - 5} y={17} textAnchor="end">
          {formatNumber(most, most - least < 5 ? 1 : 0)}
        </text>
      </g>
      <path d={path} className="fill-none stroke-primary" strokeWidth={2.2} />
      <circle ref={point} r={5.5} className="fill-base-100 stroke-base-content" strokeWidth={2} />
    </svg>
  );
}

function LeadReadout({ lead, source }: SeenPanelProps) {
  const jointId = jointOfLead(lead);
  const joint = useProject(({ joints }) => joints.find((one) => one.id === jointId));
  const isAngle = joint?.axis.kind === "angle";
  const readRaw = useCallback(() => formatNumber(liveSource(source.id), 1), [source.id]);
  const readMapped = useCallback(() => formatNumber(liveLead(lead.id), 2), [lead.id]);
  const readSent = useCallback(() => (jointId ? formatNumber(liveJoint(jointId, "setPoint"), 1) : "—"), [jointId]);
  const readActual = useCallback(
    () => (jointId && isAngle ? `${formatNumber(liveJoint(jointId, "actual"), 1)}°` : "—"),
    [jointId, isAngle],
  );
  return (
    <dl className="sheet grid grid-cols-4 gap-2 p-2" data-readout="lead">
      <LeadNumber name="raw" read={readRaw} />
      <LeadNumber name="mapped" read={readMapped} />
      <LeadNumber name="pulse" read={readSent} />
      <LeadNumber name="actual" read={readActual} />
      <div className="col-span-4 flex items-baseline gap-2">
        <dt className="caption">from hand to pulse</dt>
        <dd>
          <LiveText read={readLag} className="text-sm" />
        </dd>
      </div>
    </dl>
  );
}

const readLag = () => {
  const middle = liveHead("inputLagMs");
  return middle > 0
    ? `${formatNumber(middle, 0)} ms in the middle, 99 of 100 under ${formatNumber(liveHead("inputLag99Ms"), 0)} ms`
    : "not measured yet: move a source";
};

function LeadNumber({ name, read }: { readonly name: string; readonly read: () => string }) {
  return (
    <div>
      <dt className="caption">{name}</dt>
      <dd>
        <LiveText read={read} box="block h-6" className="whitespace-nowrap" />
      </dd>
    </div>
  );
}

const spanMs = 30_000;

/** The last half minute: raw as a dashed line, shaped as a full one, each over its own range. */
function RollingChart({ lead, source }: SeenPanelProps) {
  const { canvas, stroke } = useStrokes();
  const { least, most } = outcomesOf(lead.shapers, source.range, aroundNow, 60);
  const { low, high } = source.range;
  useEffect(() => {
    const seen: { atMs: number; raw: number; shaped: number }[] = [];
    return onLive(() => {
      const nowMs = performance.now();
      const share = (value: number, from: number, to: number) =>
        Math.min(Math.max((value - from) / (to - from || 1), 0), 1);
      const value = liveSource(source.id);
      const out = liveLead(lead.id);
      if (Number.isFinite(value) && Number.isFinite(out))
        seen.push({ atMs: nowMs, raw: share(value, low, high), shaped: share(out, least, most) });
      while (seen[0] && nowMs - seen[0].atMs > spanMs) seen.shift();
      const points = (pick: (one: (typeof seen)[number]) => number) =>
        seen.map((one) => [1 - (nowMs - one.atMs) / spanMs, pick(one)] as const);
      stroke([
        { points: points((one) => one.raw), colour: "--color-base-content", widthPx: 1.4, dashPx: [5, 3] },
        { points: points((one) => one.shaped), colour: "--color-primary", widthPx: 2 },
      ]);
    }, pace.overview);
  }, [lead.id, source.id, low, high, least, most, stroke]);
  return (
    <figure className="sheet p-2">
      <div className="relative aspect-[46/21] w-full" role="img" aria-label="The last 30 seconds">
        <div className="absolute inset-0 flex justify-between" aria-hidden="true">
          {[0, 1, 2, 3].map((tens) => (
            <span key={tens} className="border-l border-base-300" />
          ))}
        </div>
        <canvas ref={canvas} className="absolute inset-0 size-full" />
      </div>
      <figcaption className="caption flex gap-4">
        <span>
          – – raw, {formatNumber(low, 0)} to {formatNumber(high, 0)}
        </span>
        <span>
          — shaped, {formatNumber(least, 1)} to {formatNumber(most, 1)}
        </span>
        <span className="ml-auto">30 s, a line every 10</span>
      </figcaption>
    </figure>
  );
}
