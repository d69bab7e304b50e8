import { busStore } from "@stores/bus";
import { askSimulation } from "@stores/live";
import { useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import { counted } from "../parts/format";
import type { BusToolProps } from "./toolProps";
import { WireLog } from "./WireLog";

/** What can go wrong on a bus, to be seen once on purpose: the joints must not jump, and the bench must say what it is. */
export default function FaultTool({ bus }: BusToolProps) {
  const report = useStore(busStore, (state) => state.report);
  const table = useStore(busStore, (state) => state.table);
  const [key, setKey] = useState("");
  if (!report || !table) return <p className="caption">The bus is being looked at…</p>;
  const { framesSent, framesDropped } = report;
  const { faults, devices } = table;
  const plugged = devices.filter(({ isPlugged }) => isPlugged);
  const entry = plugged.find((one) => one.key === key) ?? plugged[0];
  const boardId = bus.board.id;
  const set = (change: Partial<typeof faults>) =>
    askSimulation(boardId, { kind: "faults", faults: { ...faults, ...change } });
  const others = bus.devices.filter(({ layout }) => layout.id === entry?.layoutId);
  return (
    <div className="space-y-4">
      <div className="grid gap-4 xl:grid-cols-2">
        <section className="sheet space-y-2" aria-label="On the wire">
          <h2 className="heading">On the wire</h2>
          <Share
            label="Bytes that are flipped"
            value={faults.noise}
            highest={0.1}
            onChange={(noise) => set({ noise })}
          />
          <Share label="Replies that get lost" value={faults.lost} highest={1} onChange={(lost) => set({ lost })} />
          <Share
            label="Replies that come 8 ms late"
            value={faults.late}
            highest={1}
            onChange={(late) => set({ late })}
          />
          <label className="flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={faults.driverOffUs > 100}
              onChange={(event) => set({ driverOffUs: event.target.checked ? 900 : 20 })}
            />
            the adapter’s driver stays on for 0.9 ms after the last bit
          </label>
          <button
            type="button"
            className="btn btn-sm btn-outline"
            onClick={() => askSimulation(boardId, { kind: "brownOut" })}
          >
            Let the supply break down for a moment
          </button>
        </section>
        <section className="sheet space-y-2" aria-label="In one servo">
          <h2 className="heading">In one servo</h2>
          <ChoiceField
            label="Which"
            value={entry?.key ?? ""}
            choices={plugged.map((one) => [one.key, one.label])}
            onChoose={setKey}
          />
          {entry && (
            <div className="flex flex-wrap gap-2">
              <button
                type="button"
                className="btn btn-sm btn-outline"
                onClick={() => askSimulation(boardId, { kind: "overload", key: entry.key })}
              >
                Overload it
              </button>
              <button
                type="button"
                className="btn btn-sm btn-outline"
                aria-pressed={entry.isHot}
                onClick={() => askSimulation(boardId, { kind: "heat", key: entry.key, isHot: !entry.isHot })}
              >
                {entry.isHot ? "Let it cool" : "Heat it"}
              </button>
              {others.map((other) => (
                <button
                  key={other.id}
                  type="button"
                  className="btn btn-sm btn-outline"
                  onClick={() => askSimulation(boardId, { kind: "forceId", key: entry.key, id: other.id })}
                >
                  Make it believe it is number {other.id}
                </button>
              ))}
            </div>
          )}
          <p className="caption">
            An overload lets go after two and a half seconds, heat when the case is hotter than its register says.
          </p>
        </section>
      </div>
      <p role="status" className="text-sm">
        {counted(framesSent, "frame")} sent, {framesDropped} replaced before they got onto the wire. Each question is
        asked three times at most; who does not answer is called three times a second until it is back.
      </p>
      <WireLog bus={bus} />
    </div>
  );
}

interface ShareProps {
  readonly label: string;
  readonly value: number;
  readonly highest: number;
  readonly onChange: (value: number) => void;
}

function Share({ label, value, highest, onChange }: ShareProps) {
  return (
    <label className="grid grid-cols-[13rem_minmax(0,1fr)_4rem] items-center gap-2 text-sm">
      {label}
      <input
        type="range"
        className="range range-xs"
        min={0}
        max={highest}
        step={highest / 100}
        value={value}
        onChange={(event) => onChange(Number(event.target.value))}
      />
      <span className="number text-right">{(value * 100).toFixed(highest < 1 ? 1 : 0)} %</span>
    </label>
  );
}
