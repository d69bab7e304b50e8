import { type EncodingOf, newEncoding } from "@core/encodings";
import { frameHzOf } from "@core/project";
import { verdictOf, type WobbleReport } from "@core/wobble";
import { startWobble } from "@stores/wobble";
import { useEffect, useRef, useState } from "react";
import { ColumnsChart } from "../parts/Chart";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { EncodingFields } from "./EncodingFields";
import type { SignalToolProps } from "./toolProps";

type Running = { readonly kind: "no" } | { readonly kind: "yes"; readonly done: number };

/** How much a signal timed by software wobbles, and whether this servo would notice. */
export default function WobbleTool({ bench, target }: SignalToolProps) {
  const { board, card, joint, map } = bench;
  const [encoding, setEncoding] = useState<EncodingOf<"software">>(
    board.encoding.kind === "software" ? board.encoding : newEncoding("software"),
  );
  const [frames, setFrames] = useState("200000");
  const [running, setRunning] = useState<Running>({ kind: "no" });
  const [report, setReport] = useState<WobbleReport | null>(null);
  const cancel = useRef<() => void>(() => {});
  useEffect(() => () => cancel.current(), []);
  if (card.kind === "smart")
    return <p className="caption">{joint.label} is told ticks over a bus: no pulse, no wobble.</p>;
  const usPerDeg = map.targetUnit === "°" ? map.toSetPoint(1) - map.toSetPoint(0) : 10;

  const run = () => {
    setRunning({ kind: "yes", done: 0 });
    setReport(null);
    const ask = {
      encoding,
      frameHz: frameHzOf(board, joint.channel),
      pulseUs: map.toSetPoint(target),
      frames: Number(frames),
      seed: 1,
    };
    cancel.current = startWobble({ ask, deadbandUs: card.deadband }, (news) => {
      if (news.kind === "progress") setRunning({ kind: "yes", done: news.done });
      else {
        setReport(news.report);
        setRunning({ kind: "no" });
      }
    });
  };
  const stop = () => {
    cancel.current();
    setRunning({ kind: "no" });
  };
  return (
    <div className="grid h-full grid-cols-[24rem_minmax(0,1fr)] gap-5">
      <section className="sheet min-h-0 space-y-2 self-start overflow-y-auto shows-more p-3" aria-label="The program">
        <h2 className="heading">A program that sleeps between the edges</h2>
        <EncodingFields
          encoding={encoding}
          onEncoding={(changed) => {
            if (changed.kind === "software") setEncoding(changed);
            return null;
          }}
        />
        <div className="flex items-end gap-3">
          <ChoiceField
            label="Frames"
            value={frames}
            choices={[
              ["100000", "100 000"],
              ["200000", "200 000"],
              ["1000000", "1 000 000"],
            ]}
            onChoose={setFrames}
            className="grow"
          />
          {running.kind === "yes" ? (
            <button type="button" className="btn btn-sm btn-outline" onClick={stop}>
              Cancel
            </button>
          ) : (
            <button type="button" className="btn btn-sm btn-primary" onClick={run}>
              Simulate
            </button>
          )}
        </div>
        {running.kind === "yes" && (
          <progress
            className="progress progress-primary w-full"
            value={running.done}
            max={Number(frames)}
            aria-label="Frames simulated"
          />
        )}
      </section>
      <div className="min-h-0 overflow-y-auto shows-more">
        {report ? (
          <Report report={report} usPerDeg={usPerDeg} verdict={verdictOf(report, card.deadband, usPerDeg)} />
        ) : (
          <p className="caption">
            Sleeping programs wake late, and a late wake-up makes the pulse longer. Set how this one sleeps, then
            simulate: the pulses of {joint.label} at {formatNumber(map.toSetPoint(target), 0)} µs are held against its
            deadband of {card.deadband} µs.
          </p>
        )}
      </div>
    </div>
  );
}

interface ReportProps {
  readonly report: WobbleReport;
  readonly usPerDeg: number;
  readonly verdict: string;
}

function Report({ report, usPerDeg, verdict }: ReportProps) {
  const rows = [
    ["median", report.medianUs],
    ["95 %", report.p95Us],
    ["99.9 %", report.p999Us],
    ["worst", report.worstUs],
  ] as const;
  return (
    <div className="flex h-full flex-col gap-3" data-readout="wobble">
      <p className="heading" role="status">
        {verdict}
      </p>
      <table className="w-full text-right">
        <caption className="sr-only">Spread of the pulse</caption>
        <thead className="caption">
          <tr>
            <th className="text-left font-normal">
              of {report.frames.toLocaleString("en").replaceAll(",", " ")} pulses
            </th>
            <th className="font-normal">pulse</th>
            <th className="font-normal">too long by</th>
            <th className="font-normal">angle off by</th>
          </tr>
        </thead>
        <tbody className="number">
          {rows.map(([name, pulseUs]) => (
            <tr key={name} className="border-t border-base-300">
              <th scope="row" className="text-left font-sans font-medium">
                {name}
              </th>
              <td>{formatNumber(pulseUs, 1)} µs</td>
              <td>{formatNumber(pulseUs - report.askedUs, 1)} µs</td>
              <td>{formatNumber((pulseUs - report.askedUs) / Math.abs(usPerDeg), 2)}°</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="caption">
        Frames come every {formatNumber(report.meanPeriodUs / 1000, 3)} ms on average, the longest took{" "}
        {formatNumber(report.longestPeriodUs / 1000, 1)} ms; {report.lostFrames} frames were lost: periods that passed
        without a pulse.
      </p>
      <div className="min-h-52 grow">
        <ColumnsChart
          label="How the pulses are spread"
          columns={report.histogram.map(({ fromUs, count }) => ({ x: fromUs, count }))}
          xUnit="µs"
        />
      </div>
    </div>
  );
}
