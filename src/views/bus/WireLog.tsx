import { askedBy, explain, hexBytes } from "@core/bus";
import type { Layout } from "@core/project";
import { busStore, clearLog, type LoggedEvent } from "@stores/bus";
import { useMemo, useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import { writeTsv } from "../parts/csv";
import { saveFile } from "../parts/saveFile";
import type { BusToolProps } from "./toolProps";

const filters = { all: "everything", asked: "without the bench's own frames", odd: "only what went wrong" } as const;
type Filter = keyof typeof filters;
const linesShown = 60;

const kindWords = { sent: "→ sent", heard: "← reply", noise: "← noise", silence: "silence", late: "← late" } as const;

/** What goes over the wire in both directions, each packet in words. */
export function WireLog({ bus }: BusToolProps) {
  const log = useStore(busStore, (state) => state.log);
  const [filter, setFilter] = useState<Filter>("asked");
  const [frozen, setFrozen] = useState<readonly LoggedEvent[] | null>(null);
  const events = frozen ?? log;
  const kept = useMemo(() => keptOf(events, filter), [events, filter]);
  const shown = useMemo(() => kept.slice(-linesShown).reverse(), [kept]);
  const beganUs = events[0]?.atUs ?? 0;
  const time = (event: LoggedEvent) => ((event.atUs - beganUs) / 1000).toFixed(2);
  const save = () =>
    saveFile(
      "bus-log.tsv",
      writeTsv([
        ["ms", "direction", "bytes", "in words"],
        ...kept.map((one) => [time(one.event), one.event.kind, hexBytes(one.event.bytes), wordsOf(one, bus.layouts)]),
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
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled with the arrow keys. */}
      <section className="max-h-72 overflow-y-auto shows-more" aria-label="Lines of the log" tabIndex={0}>
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
            {shown.map((one) => (
              <tr
                key={one.event.id}
                className={one.event.kind === "sent" || one.event.kind === "heard" ? "" : "text-error"}
              >
                <td className="number text-right">{time(one.event)}</td>
                <td className="whitespace-nowrap">{kindWords[one.event.kind]}</td>
                <td className="number text-xs">{hexBytes(one.event.bytes)}</td>
                <td>{wordsOf(one, bus.layouts)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {kept.length === 0 && (
          <p className="caption p-2">Nothing yet. What is sent, what comes back and what stays away is written here.</p>
        )}
      </section>
    </section>
  );
}

interface Line {
  readonly event: LoggedEvent;
  /** What was sent before it: a reply is read by what was asked. */
  readonly asked: Uint8Array | null;
}

/** The lines that a filter lets through. Only those that are shown are put into words. */
function keptOf(log: readonly LoggedEvent[], filter: Filter): Line[] {
  const lines: Line[] = [];
  let asked: Uint8Array | null = null;
  for (const event of log) {
    if (event.kind === "sent") asked = event.bytes;
    const isOdd = event.kind === "noise" || event.kind === "silence" || event.kind === "late";
    if (filter === "all" || (filter === "asked" ? event.isAsked : isOdd)) lines.push({ event, asked });
  }
  return lines;
}

function wordsOf({ event, asked }: Line, layouts: readonly Layout[]): string {
  const layout = layouts.find(({ id }) => id === event.layoutId);
  if (event.kind === "silence") return "Nobody answered.";
  if (event.kind === "noise") return "No packet: its check is wrong, or it has no header.";
  if (!layout) return "";
  const direction = event.kind === "sent" ? "request" : "reply";
  const { sentence, spans } = explain(layout, direction, event.bytes, asked && askedBy(layout, asked));
  const values = spans
    .filter(({ field, label }) => field === "parameters" && !["address", "count"].includes(label))
    .map(({ label, meaning }) => `${label} ${meaning}`)
    .join(", ");
  return values ? `${sentence} ${values}` : sentence;
}
