import { jointOfLead, type Lead } from "@core/project";
import { projectNow, useProject } from "@stores/document";
import { liveJoint, liveLead, liveSource, onLive, useEveryTick } from "@stores/live";
import { useEffect, useRef, useState } from "react";
import { writeCsv } from "../parts/csv";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { saveFile } from "../parts/saveFile";
import { targetWords } from "./LeadLine";

interface LogRow {
  readonly key: number;
  readonly atMs: number;
  readonly leadId: string;
  readonly source: string;
  readonly target: string;
  readonly raw: number;
  readonly mapped: number;
  readonly setPoint: number;
  readonly actual: number;
}

const kept = 2000;
const shown = 200;

/** One line for each change of what comes out of any lead: raw, mapped, pulse, and where the joint really was. */
export function LogPanel() {
  useEveryTick();
  const project = useProject((current) => current);
  const [threshold, setThreshold] = useState(1);
  const [isPaused, setIsPaused] = useState(false);
  const [filter, setFilter] = useState("all");
  const [rows, setRows] = useState<readonly LogRow[]>([]);
  const all = useRef<LogRow[]>([]);
  useEffect(() => {
    if (isPaused) return;
    const last = new Map<string, number>();
    let shownMs = 0;
    let isNew = false;
    return onLive(() => {
      const now = projectNow();
      for (const lead of now.leads) {
        const mapped = liveLead(lead.id);
        if (
          isQuiet(lead) ||
          !Number.isFinite(mapped) ||
          Math.abs(mapped - (last.get(lead.id) ?? Number.POSITIVE_INFINITY)) < threshold
        )
          continue;
        last.set(lead.id, mapped);
        all.current.push(rowOf(lead, mapped));
        if (all.current.length > kept) all.current.shift();
        isNew = true;
      }
      const nowMs = performance.now();
      if (!isNew || nowMs - shownMs < 250) return;
      shownMs = nowMs;
      isNew = false;
      setRows(all.current.slice());
    });
  }, [isPaused, threshold]);
  const filtered = rows.filter((row) => filter === "all" || row.leadId === filter);
  const save = () =>
    saveFile(
      "inputs-log.csv",
      writeCsv([
        ["time_ms", "source", "target", "raw", "mapped", "set_point", "actual"],
        ...filtered.map((row) => [
          Math.round(row.atMs),
          row.source,
          row.target,
          row.raw,
          row.mapped,
          row.setPoint,
          row.actual,
        ]),
      ]),
      "text/csv",
    );
  return (
    <div className="flex h-full min-h-0 flex-col gap-2">
      <div className="flex items-end gap-3">
        <QuantityField
          label="A line for a change of"
          value={threshold}
          unit=""
          decimals={2}
          onCommit={(value) => {
            if (!(value > 0)) return "More than 0, or every frame is a line.";
            setThreshold(value);
            return null;
          }}
          className="w-36"
        />
        <label className="caption flex flex-col">
          Lead
          <select
            className="select select-sm mt-0.5 w-56 bg-base-100"
            value={filter}
            onChange={(event) => setFilter(event.target.value)}
          >
            <option value="all">all leads</option>
            {project.leads.map((lead) => (
              <option key={lead.id} value={lead.id}>
                {sourceLabel(lead)} → {targetWords(lead.target, project)}
              </option>
            ))}
          </select>
        </label>
        <button
          type="button"
          className="btn btn-outline btn-sm"
          aria-pressed={isPaused}
          onClick={() => setIsPaused(!isPaused)}
        >
          {isPaused ? "Go on" : "Pause"}
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          onClick={() => {
            all.current = [];
            setRows([]);
          }}
        >
          Clear
        </button>
        <button
          type="button"
          className="btn btn-outline btn-sm ml-auto"
          disabled={filtered.length === 0}
          onClick={save}
        >
          Export CSV
        </button>
      </div>
      <div className="min-h-0 grow overflow-y-auto shows-more" data-log="">
        <table className="w-full text-sm">
          <thead>
            <tr className="caption text-right">
              <th className="text-left font-normal">time</th>
              <th className="text-left font-normal">lead</th>
              <th className="font-normal">raw</th>
              <th className="font-normal">mapped</th>
              <th className="font-normal">pulse</th>
              <th className="font-normal">actual</th>
            </tr>
          </thead>
          <tbody className="number text-right">
            {filtered
              .slice(-shown)
              .toReversed()
              .map((row) => (
                <tr key={row.key} className="border-t border-base-300">
                  <td className="text-left">{formatNumber(row.atMs / 1000, 2)} s</td>
                  <td className="text-left">
                    {row.source} → {row.target}
                  </td>
                  <td>{formatNumber(row.raw, 1)}</td>
                  <td>{formatNumber(row.mapped, 2)}</td>
                  <td>{formatNumber(row.setPoint, 1)}</td>
                  <td>{formatNumber(row.actual, 1)}</td>
                </tr>
              ))}
          </tbody>
        </table>
        {filtered.length === 0 && <p className="caption p-3">Move a source: each change is a line here.</p>}
      </div>
    </div>
  );
}

let count = 0;
const sourceLabel = (lead: Lead) => projectNow().sources.find((one) => one.id === lead.sourceId)?.label ?? "";

/** Muted, so that nothing follows from it. */
const isQuiet = (lead: Lead) =>
  lead.isMuted || (projectNow().sources.find((one) => one.id === lead.sourceId)?.isMuted ?? true);

function rowOf(lead: Lead, mapped: number): LogRow {
  const jointId = jointOfLead(lead);
  count += 1;
  return {
    key: count,
    atMs: performance.now(),
    leadId: lead.id,
    source: sourceLabel(lead),
    target: targetWords(lead.target, projectNow()),
    raw: liveSource(lead.sourceId),
    mapped,
    setPoint: jointId ? liveJoint(jointId, "setPoint") : Number.NaN,
    actual: jointId ? liveJoint(jointId, "actual") : Number.NaN,
  };
}
