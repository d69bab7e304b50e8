import type { Joint } from "@core/project";
import { endNs, type WaveChannel, writeVcd, writeWaveCsv } from "@core/waveform";
import { useProject } from "@stores/document";
import { jointBenchOf } from "@stores/jointBench";
import { liveJoint } from "@stores/live";
import { useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { saveFile } from "../parts/saveFile";
import { EdgeView } from "./EdgeView";
import type { SignalToolProps } from "./toolProps";
import { WaveRow } from "./WaveRow";

/** The pulses to scale: over some frames or close up, low, centre and high over each other, the neighbours below. */
export default function WaveformTool({ bench, target }: SignalToolProps) {
  const { joint, board, map, maker, card } = bench;
  const project = useProject((current) => current);
  const [frames, setFrames] = useState("2");
  const [view, setView] = useState<"frames" | "pulse" | "edge">("pulse");
  if (card.kind === "smart")
    return (
      <p className="caption">
        {joint.label} gets no pulses: {board.label} hands it ticks over a bus.
      </p>
    );
  const count = Number(frames);
  const spanUs = view === "frames" ? maker.periodUs * count : Math.min(card.window.high * 1.1, maker.periodUs);
  const made = (setPoint: number) => maker.toSetPoint(maker.toCount(setPoint));
  const exactUs = map.toSetPoint(target);
  const marks = [map.lowTarget, (map.lowTarget + map.highTarget) / 2, map.highTarget].map((one) => map.toSetPoint(one));
  const neighbours = project.joints.filter((one) => one.boardId === board.id && one.id !== joint.id);
  const channels: WaveChannel[] = [joint, ...neighbours].map((one) => channelOf(one, one === joint ? exactUs : null));

  function channelOf(one: Joint, setPointUs: number | null): WaveChannel {
    const own = jointBenchOf(project, one);
    const exact = setPointUs ?? own.map.toSetPoint(currentTarget(one, own.map.homeTarget));
    const pulseUs = own.maker.toSetPoint(own.maker.toCount(exact));
    return {
      label: one.label,
      pulseUs,
      periodUs: own.maker.periodUsAt(pulseUs),
      riseUs: own.maker.riseUsAt(pulseUs, one.channel),
    };
  }
  const save = (kind: "vcd" | "csv") => {
    const text = kind === "vcd" ? writeVcd(channels, count) : writeWaveCsv(channels, count);
    saveFile(`${board.label.toLowerCase()}-pulses.${kind}`, text, kind === "vcd" ? "text/plain" : "text/csv");
  };
  return (
    <div className="flex h-full flex-col gap-3">
      <div className="flex items-end gap-3">
        <ChoiceField
          label="Show"
          value={view}
          choices={[
            ["pulse", "the pulse close up"],
            ["edge", "its edge, step by step"],
            ["frames", "whole frames"],
          ]}
          onChoose={setView}
        />
        <ChoiceField
          label="Frames"
          value={frames}
          choices={["1", "2", "5", "10"].map((one) => [one, one])}
          onChoose={setFrames}
        />
        <p className="caption grow pb-1">
          {formatNumber(spanUs / 1000, 2)} ms across. Line: what leaves; dashed: what was asked (
          {formatNumber(exactUs, 2)} µs asked, {formatNumber(made(exactUs), 2)} µs made).
        </p>
        <button type="button" className="btn btn-sm btn-outline" onClick={() => save("vcd")}>
          Export VCD
        </button>
        <button type="button" className="btn btn-sm btn-outline" onClick={() => save("csv")}>
          Export CSV
        </button>
      </div>
      <div className="min-h-0 grow overflow-y-auto shows-more" data-readout="waveform">
        {view === "edge" && <EdgeView maker={maker} askedUs={exactUs} />}
        <WaveRow
          label={joint.label}
          pulseUs={made(exactUs)}
          periodUs={maker.periodUsAt(exactUs)}
          riseUs={view === "frames" ? maker.riseUsAt(made(exactUs), joint.channel) : 0}
          spanUs={spanUs}
          askedUs={exactUs}
          marksUs={marks}
          isTall
        />
        {channels.slice(1).map((channel) => (
          <WaveRow
            key={channel.label}
            label={channel.label}
            pulseUs={channel.pulseUs}
            periodUs={channel.periodUs}
            riseUs={view === "frames" ? channel.riseUs : 0}
            spanUs={spanUs}
          />
        ))}
      </div>
      <p className="caption">
        Exports hold {count} frames of {channels.length} channels, {formatNumber(endNs(channels, count) / 1e6, 3)} ms,
        exact to the nanosecond.
      </p>
    </div>
  );
}

const currentTarget = (joint: Joint, home: number): number => {
  const target = liveJoint(joint.id, "target");
  return Number.isFinite(target) ? target : home;
};
