import { dutyOf } from "@core/encodings";
import type { Joint } from "@core/project";
import { type JointBench, useJointBench } from "@stores/jointBench";
import { liveJoint, onLive, pace } from "@stores/live";
import { useSelectedJoint } from "@stores/selection";
import { useCallback, useEffect, useRef } from "react";
import { draw } from "../parts/draw";
import { formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { Opened } from "../parts/Opened";

/** A ribbon that draws, to scale, the pulses now leaving the gate for the selected joint. */
export function Trace() {
  return (
    <Opened>
      <SelectedTrace />
    </Opened>
  );
}

function SelectedTrace() {
  const joint = useSelectedJoint();
  if (!joint) return <p className="caption p-4">The pulses of the selected joint are drawn here.</p>;
  return <JointTrace joint={joint} />;
}

function JointTrace({ joint }: { readonly joint: Joint }) {
  const bench = useJointBench(joint);
  const { card, maker, board } = bench;
  const isPulse = card.kind !== "smart";
  const readSetPoint = useCallback(
    () => formatNumber(liveJoint(joint.id, "setPoint"), isPulse ? 1 : 0),
    [joint.id, isPulse],
  );
  const readDuty = useCallback(
    () => formatNumber(100 * dutyOf(liveJoint(joint.id, "setPoint"), maker.periodUs), 3),
    [joint.id, maker],
  );
  const readCount = useCallback(() => formatNumber(liveJoint(joint.id, "count"), 0), [joint.id]);
  return (
    <div className="flex h-full items-stretch gap-4 px-4 py-2">
      {isPulse ? (
        <PulseTrain bench={bench} />
      ) : (
        <p className="caption grow self-center">
          {joint.label} gets no pulses: {board.label} hands it tick positions over the bus, once a frame.
        </p>
      )}
      <dl className="grid shrink-0 grid-cols-[auto_auto] content-center gap-x-3 leading-snug">
        {isPulse ? (
          <>
            <TraceNumber name="pulse" unit="µs" read={readSetPoint} />
            <TraceNumber name="duty" unit="%" read={readDuty} />
            <TraceNumber name={maker.countName} unit={board.label} read={readCount} />
          </>
        ) : (
          <TraceNumber name="position" unit="ticks" read={readSetPoint} />
        )}
        <dt className="caption">frame</dt>
        <dd className="number text-right">
          {formatNumber(maker.periodUs, 0)} <span className="caption inline-block w-12 text-left">µs</span>
        </dd>
      </dl>
    </div>
  );
}

function TraceNumber({
  name,
  unit,
  read,
}: {
  readonly name: string;
  readonly unit: string;
  readonly read: () => string;
}) {
  return (
    <>
      <dt className="caption">{name}</dt>
      <dd className="text-right">
        <LiveText read={read} box="inline-block h-[1.2em] w-20 align-text-bottom" className="font-semibold" />{" "}
        <span className="caption inline-block w-12 text-left">{unit}</span>
      </dd>
    </>
  );
}

const framesShown = 3;
const trainWidth = 600;
const lensWidth = 260;
const high = 12;
const low = 58;

/** Three frames to scale, and beside them one pulse under a lens with the edges of the hard window. */
function PulseTrain({ bench: { joint, card, maker } }: { readonly bench: JointBench }) {
  const train = useRef<SVGPathElement>(null);
  const lens = useRef<SVGPathElement>(null);
  const lensSpanUs = Math.min(card.window.high * 1.15, maker.periodUs);
  useEffect(() => {
    let drawn = -1;
    const show = () => {
      const setPoint = liveJoint(joint.id, "setPoint");
      const pulseUs = Number.isFinite(setPoint) ? setPoint : 0;
      if (pulseUs === drawn) return;
      drawn = pulseUs;
      const usWide = trainWidth / (framesShown * maker.periodUs);
      let path = `M0 ${low}`;
      for (let frame = 0; frame < framesShown && pulseUs > 0; frame += 1) {
        const start = frame * maker.periodUs * usWide;
        path += `H${start.toFixed(2)}V${high}H${(start + pulseUs * usWide).toFixed(2)}V${low}`;
      }
      draw(train.current, "d", `${path}H${trainWidth}`);
      const lensUsWide = (lensWidth - 20) / lensSpanUs;
      const pulse = pulseUs > 0 ? `V${high}H${(10 + pulseUs * lensUsWide).toFixed(2)}V${low}` : "";
      draw(lens.current, "d", `M0 ${low}H10${pulse}H${lensWidth}`);
    };
    show();
    return onLive(show, pace.overview);
  }, [joint.id, maker.periodUs, lensSpanUs]);
  const atUs = (us: number) => 10 + (us * (lensWidth - 20)) / lensSpanUs;
  const frameTimes = Array.from({ length: framesShown + 1 }, (_, frame) => frame);
  return (
    <div className="flex min-w-0 grow gap-4">
      {/* Each alone in a box of its own: what is drawn anew is laid out without the page. */}
      <div className="h-full min-w-0 grow [contain:strict]">
        <svg aria-hidden="true" viewBox={`0 0 ${trainWidth} 78`} preserveAspectRatio="none" className="block size-full">
          {frameTimes.map((frame) => (
            <line
              key={frame}
              x1={(frame * trainWidth) / framesShown}
              x2={(frame * trainWidth) / framesShown}
              y1={4}
              y2={70}
              className="stroke-base-content/30"
              strokeDasharray="2 3"
              vectorEffect="non-scaling-stroke"
            />
          ))}
          <path
            ref={train}
            className="fill-primary/15 stroke-primary"
            strokeWidth={2}
            vectorEffect="non-scaling-stroke"
          />
        </svg>
      </div>
      <div className="h-full shrink-0 [contain:strict]" style={{ aspectRatio: lensWidth / 78 }}>
        <svg aria-hidden="true" viewBox={`0 0 ${lensWidth} 78`} className="block size-full">
          {[card.window.low, card.window.high].map((us) => (
            <g key={us}>
              <line x1={atUs(us)} x2={atUs(us)} y1={4} y2={low + 4} className="stroke-error" strokeWidth={2} />
              <text x={atUs(us)} y={74} textAnchor="middle" className="number fill-base-content text-[11px]">
                {formatNumber(us, 0)}
              </text>
            </g>
          ))}
          <path ref={lens} className="fill-primary/15 stroke-primary" strokeWidth={2.4} />
        </svg>
      </div>
    </div>
  );
}
