import { askedBy, explain, hexBytes } from "@core/bus";
import type { Layout } from "@core/project";
import { busStore, clearLog, type LoggedEvent } from "@stores/bus";
import { useMemo, useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import { writeTsv } from "../parts/csv";
import { saveFile } from "../parts/saveFile";
import type { BusToolProps } from "./BusStation";

const filters = { all: "everything", asked: "without the bench's own frames", odd: "only what went wrong" } as const;
type Filter = keyof typeof filters;
const linesShown = 60;

const kindWords = { sent: "→ sent", heard: "← reply", noise: "← noise", silence: "silence", late: "← late" } as const;

/** What goes over the wire in both directions, each packet in words. */
export function WireLog({ bus }: BusToolProps) {
  const log = useStore(busStore, (state) => state.log);
  const [filter, setFilter] = useState<Filter>("asked");
  const [frozen, setFrozen] = useState<readonly LoggedEvent[] | null>(null);
  const rows = useMemo(() => decoded(frozen ?? log, bus.layouts), [frozen, log, bus.layouts]);
  const kept = rows.filter(
    ({ event, isFrame }) =>
      filter === "all" ||
      (filter === "asked" ? !isFrame : event.kind === "noise" || event.kind === "silence" || event.kind === "late"),
  );
  const beganUs = rows[0]?.event.atUs ?? 0;
  const time = (event: LoggedEvent) => ((event.atUs - beganUs) / 1000).toFixed(2);
  const save = () =>
    saveFile(
      "bus-log.tsv",
      writeTsv([
        ["ms", "direction", "bytes", "in words"],
        ...kept.map(({ event, words }) => [time(event), event.kind, hexBytes(event.bytes), words]),
      ]),
      "text/tab-separated-values",
    );
  return (
    <section aria-label="Log of the wire" className="sheet">
      <div className="mb-2 flex flex-wrap items-end gap-2">
        <h2 className="heading mr-auto">On the wire</h2>
        <ChoiceField
          label="Show"
          className="w-60"
          value={filter}
          choices={Object.entries(filters) as [Filter, string][]}
          onChoose={setFilter}
        />
        <button
          type="button"
          className="btn btn-sm btn-outline"
          aria-pressed={frozen !== null}
          onClick={() => setFrozen(frozen ? null : log)}
        >
          {frozen ? "Go on" : "Hold still"}
        </button>
        <button type="button" className="btn btn-sm btn-outline" onClick={clearLog}>
          Clear
        </button>
        <button type="button" className="btn btn-sm btn-outline" disabled={kept.length === 0} onClick={save}>
          Export
        </button>
      </div>
      <div className="max-h-72 overflow-y-auto">
        <table className="table table-xs">
          <thead className="text-base-content">
            <tr>
              <th className="text-right">ms</th>
              <th>Way</th>
              <th>Bytes</th>
              <th>In words</th>
            </tr>
          </thead>
          <tbody>
            {kept
              .slice(-linesShown)
              .reverse()
              .map(({ event, words }) => (
                <tr key={event.id} className={event.kind === "sent" || event.kind === "heard" ? "" : "text-error"}>
                  <td className="number text-right">{time(event)}</td>
                  <td className="whitespace-nowrap">{kindWords[event.kind]}</td>
                  <td className="number text-xs">{hexBytes(event.bytes)}</td>
                  <td>{words}</td>
                </tr>
              ))}
          </tbody>
        </table>
        {kept.length === 0 && (
          <p className="caption p-2">Nothing yet. What is sent, what comes back and what stays away is written here.</p>
        )}
      </div>
    </section>
  );
}

interface Row {
  readonly event: LoggedEvent;
  readonly words: string;
  /** It belongs to the frames and the watching that go on all the time. */
  readonly isFrame: boolean;
}

/** Each line in words; a reply is read by what was asked just before it. */
function decoded(log: readonly LoggedEvent[], layouts: readonly Layout[]): Row[] {
  const known = new Map(layouts.map((layout) => [layout.id, layout]));
  let asked: ReturnType<typeof askedBy> = null;
  return log.map((event) => {
    const layout = known.get(event.layoutId);
    if (event.kind === "silence") return { event, words: "Nobody answered.", isFrame: !event.isAsked };
    if (!layout) return { event, words: "", isFrame: false };
    if (event.kind === "noise")
      return { event, words: "No packet: its check is wrong, or it has no header.", isFrame: false };
    if (event.kind === "sent") asked = askedBy(layout, event.bytes);
    const direction = event.kind === "sent" ? "request" : "reply";
    const { sentence, spans } = explain(layout, direction, event.bytes, asked);
    const values = spans
      .filter(({ field, label }) => field === "parameters" && !["address", "count"].includes(label))
      .map(({ label, meaning }) => `${label} ${meaning}`)
      .join(", ");
    return { event, words: values ? `${sentence} ${values}` : sentence, isFrame: !event.isAsked };
  });
}
