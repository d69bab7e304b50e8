import { registerFor, sensedStretch, shownOf, type WireSpan, wireUse } from "@core/bus";
import { speedWords } from "@stores/busBench";
import { useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import type { BusToolProps } from "./toolProps";

/** How long everything takes on the wire, how much of a frame that is, and how many devices there is room for. */
export default function TimeTool({ bus }: BusToolProps) {
  const { board, layouts, devices, chosen } = bus;
  const [layoutId, setLayoutId] = useState(chosen?.layout.id ?? layouts[0]?.id ?? "");
  const layout = layouts.find(({ id }) => id === layoutId) ?? layouts[0];
  const [count, setCount] = useState(Math.max(1, devices.length));
  const [bitsPerS, setBitsPerS] = useState(board.encoding.bitsPerS);
  const [frameHz, setFrameHz] = useState(board.frameHz[0] ?? 50);
  const [reads, setReads] = useState(Math.max(1, devices.length));
  const [gapUs, setGapUs] = useState(60);
  if (!layout) return null;
  const delay = registerFor(layout, "replyDelay");
  const replyDelayUs = delay ? shownOf(delay, delay.default) : 250;
  const goal = registerFor(layout, "goalPosition");
  const plan = {
    layout,
    devices: count,
    bitsPerS,
    frameHz,
    writtenBytes: goal?.size ?? 2,
    readBytes: reads > 0 ? (sensedStretch(layout)?.count ?? 0) : 0,
    readsPerFrame: Math.min(reads, count),
    replyDelayUs,
    gapUs,
  };
  const hasGroup = layout.operations.some(({ kind }) => kind === "groupWrite");
  const ways = hasGroup ? (["as a group", "one by one"] as const) : (["one by one"] as const);
  const whole = (low: number, high: number, take: (value: number) => void) => (value: number) => {
    if (!(value >= low && value <= high)) return `It goes from ${low} to ${high}.`;
    take(Math.round(value));
    return null;
  };
  return (
    <div className="space-y-4">
      <div className="sheet grid grid-cols-6 items-end gap-3">
        <ChoiceField
          label="Family"
          value={layout.id}
          choices={layouts.map(({ id, name }) => [id, name])}
          onChoose={setLayoutId}
        />
        <QuantityField
          label="Devices"
          value={count}
          unit=""
          decimals={0}
          step={1}
          onCommit={whole(1, layout.highestId, setCount)}
        />
        <QuantityField
          label="Read back in a frame"
          value={reads}
          unit=""
          decimals={0}
          step={1}
          onCommit={whole(0, 254, setReads)}
        />
        <ChoiceField
          label="Speed"
          value={String(bitsPerS)}
          choices={layout.bitRates.map((rate) => [String(rate.bitsPerS), speedWords(rate.bitsPerS)])}
          onChoose={(value) => setBitsPerS(Number(value))}
        />
        <QuantityField
          label="Frames"
          value={frameHz}
          unit="Hz"
          decimals={0}
          step={5}
          onCommit={whole(1, 1000, setFrameHz)}
        />
        <QuantityField
          label="The driver takes"
          value={gapUs}
          unit="µs"
          decimals={0}
          step={10}
          onCommit={whole(0, 5000, setGapUs)}
        />
      </div>
      {ways.map((writes) => {
        const use = wireUse({ ...plan, writes });
        const isOver = use.share > 1;
        return (
          <figure key={writes} className="sheet space-y-2" aria-label={`Goals ${writes}`}>
            <figcaption className="flex flex-wrap items-baseline gap-x-4">
              <span className="heading">Goals {writes}</span>
              <span className="number">
                {formatNumber(use.usedUs / 1000, 2)} ms of {formatNumber(use.frameUs / 1000, 1)} ms,{" "}
                {formatNumber(100 * use.share, 0)} %
              </span>
              <span className="caption">
                at most {formatNumber(use.highestHz, 0)} frames a second; room for {use.mostDevices} at {frameHz}
              </span>
            </figcaption>
            <Timeline spans={use.spans} frameUs={use.frameUs} />
            {isOver && (
              <p role="alert" className="text-sm text-error">
                The frame is overrun: goals would be late, and some left out. {remedy(writes, hasGroup)}
              </p>
            )}
            {!isOver && use.share > 0.8 && (
              <p className="text-sm text-warning">Little is left: one retry, and a frame is late.</p>
            )}
          </figure>
        );
      })}
      <section className="sheet max-w-prose text-sm">
        <h2 className="heading">Turning round</h2>
        <p>
          Host and devices share one wire, so the host turns its driver off after the last bit and listens. A device
          waits {formatNumber(replyDelayUs, 0)} µs before it answers ({layout.name}’s default). If the driver is still
          on by then, the first bytes of the answer are lost, the check is wrong, and what one sees is silence: lengthen
          the device’s reply delay, or turn the driver off sooner. One byte is {layout.bitsPerByte} bits on the wire:{" "}
          {formatNumber((layout.bitsPerByte * 1e6) / bitsPerS, 1)} µs.
        </p>
      </section>
    </div>
  );
}

const remedy = (writes: string, hasGroup: boolean): string =>
  writes === "one by one" && hasGroup
    ? "Send the goals as a group, read fewer back in a frame, or run the wire faster."
    : "Read fewer back in a frame, run the wire faster, or send fewer frames a second.";

const looks: Readonly<Record<WireSpan["kind"], string>> = {
  group: "fill-primary",
  request: "fill-secondary",
  turnRound: "fill-base-content/45",
  reply: "fill-success",
};
const kindNames: Readonly<Record<WireSpan["kind"], string>> = {
  group: "to all",
  request: "request",
  turnRound: "turning round",
  reply: "reply",
};

/** One frame to scale: what is said stands above the line, what is answered below it. */
function Timeline({ spans, frameUs }: { readonly spans: readonly WireSpan[]; readonly frameUs: number }) {
  const widthUs = Math.max(frameUs, spans.at(-1)?.toUs ?? 0) * 1.02;
  const x = (us: number) => (us / widthUs) * 1000;
  return (
    <div>
      <svg
        viewBox="0 0 1000 58"
        className="w-full"
        role="img"
        aria-label={`One frame of ${formatNumber(frameUs / 1000, 1)} ms on the wire`}
      >
        <line x1={0} x2={1000} y1={27} y2={27} className="stroke-base-content" strokeWidth={1.5} />
        {spans.map((span) => (
          <rect
            key={span.fromUs}
            x={x(span.fromUs)}
            width={Math.max(0.8, x(span.toUs) - x(span.fromUs))}
            y={span.kind === "reply" ? 28 : span.kind === "turnRound" ? 23 : 8}
            height={span.kind === "turnRound" ? 8 : 18}
            className={looks[span.kind]}
          >
            <title>
              {span.label}: {formatNumber(span.toUs - span.fromUs, 0)} µs
            </title>
          </rect>
        ))}
        <line
          x1={x(frameUs)}
          x2={x(frameUs)}
          y1={2}
          y2={50}
          className="stroke-error"
          strokeWidth={2}
          strokeDasharray="5 3"
        />
        <text x={x(frameUs) - 4} y={56} textAnchor="end" className="fill-base-content text-[11px]">
          the next frame
        </text>
      </svg>
      <p className="caption flex gap-4">
        {(Object.keys(looks) as WireSpan["kind"][])
          .filter((kind) => spans.some((span) => span.kind === kind))
          .map((kind) => (
            <span key={kind} className="flex items-center gap-1">
              <svg viewBox="0 0 10 10" className="size-3" aria-hidden="true">
                <rect width={10} height={10} className={looks[kind]} />
              </svg>
              {kindNames[kind]}
            </span>
          ))}
      </p>
    </div>
  );
}
