import { Chain, settledShape } from "@core/inputs";
import { asOthers, editLead, flowsOf, type Lead, type Source, setShaper } from "@core/project";
import { type Flow, newShaper, type Shaper, type ShaperKind, shaperNames } from "@core/shapers";
import { edit, editForField, projectNow, useProject } from "@stores/document";
import { liveSource, onLive } from "@stores/live";
import { notify } from "@stores/notices";
import { useEffect, useRef } from "react";
import { draw } from "../parts/draw";
import { ShaperFields } from "./ShaperFields";

interface ChainEditorProps {
  readonly lead: Lead;
  readonly source: Source;
}

/** What a chain may look at on this side of the worker: the same sources, as they were last seen. */
export const aroundNow = {
  valueOf: liveSource,
  rangeOf: (id: string) => projectNow().sources.find((one) => one.id === id)?.range ?? { low: 0, high: 1 },
};

/** The shapers of a lead in their order, each with its picture, its numbers, and the live point on its curve. */
export function ChainEditor({ lead, source }: ChainEditorProps) {
  const sources = useProject((project) => project.sources);
  const flows = flowsOf(lead, sources);
  const ends = flows.ok ? flows.value.map(endsOf) : [];
  const last = ends.at(-1) ?? { low: 0, high: 1 };
  const change = (what: string, shapers: readonly Shaper[]) =>
    edit(editLead(lead.id, what, (one) => ({ ...one, shapers: [...shapers] })));
  const add = (kind: ShaperKind) => {
    const fresh = newShaper(kind, last.low, last.high, asOthers(sources.filter((one) => one.id !== source.id)));
    if (!fresh) {
      notify(
        `${shaperNames[kind]} needs another source to look at, and a switch among them for some. Add it first.`,
        "warning",
      );
      return;
    }
    change("chain", [...lead.shapers, fresh]);
  };
  return (
    <div className="flex min-h-0 gap-3 overflow-x-auto pb-1">
      {lead.shapers.map((shaper, at) => (
        <section
          // biome-ignore lint/suspicious/noArrayIndexKey: a shaper is its place in the chain.
          key={at}
          className="sheet w-56 shrink-0 space-y-2 p-2"
          aria-label={`${shaperNames[shaper.kind]}, ${at + 1} of ${lead.shapers.length}`}
        >
          <div className="flex items-center gap-1">
            <h3 className="heading grow text-sm">{shaperNames[shaper.kind]}</h3>
            <button
              type="button"
              className="btn btn-ghost btn-sm btn-square text-base"
              aria-label="Earlier in the chain"
              disabled={at === 0}
              onClick={() => change("order", swapped(lead.shapers, at - 1))}
            >
              ←
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-sm btn-square text-base"
              aria-label="Later in the chain"
              disabled={at === lead.shapers.length - 1}
              onClick={() => change("order", swapped(lead.shapers, at))}
            >
              →
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-sm btn-square text-base"
              aria-label={`Take ${shaperNames[shaper.kind].toLowerCase()} out`}
              onClick={() => change("chain", lead.shapers.toSpliced(at, 1))}
            >
              ×
            </button>
          </div>
          <ShaperPicture
            shapers={lead.shapers}
            at={at}
            sourceId={source.id}
            from={ends[at] ?? { low: 0, high: 1 }}
            to={ends[at + 1] ?? { low: 0, high: 1 }}
          />
          <ShaperFields
            shaper={shaper}
            sources={sources.filter((one) => one.id !== source.id)}
            onShaper={(next) => editForField(setShaper(lead.id, at, next))}
          />
        </section>
      ))}
      <div className="w-40 shrink-0">
        <label className="caption">
          Add a shaper
          <select
            className="select select-sm mt-0.5 w-full bg-base-100"
            value=""
            onChange={(event) => add(event.target.value as ShaperKind)}
          >
            <option value="" disabled>
              choose…
            </option>
            {(Object.keys(shaperNames) as ShaperKind[]).map((kind) => (
              <option key={kind} value={kind}>
                {shaperNames[kind].toLowerCase()}
              </option>
            ))}
          </select>
        </label>
        {lead.shapers.length === 0 && (
          <p className="caption mt-2">The source goes to its target as it is. A range map is the usual first shaper.</p>
        )}
      </div>
    </div>
  );
}

const endsOf = (flow: Flow) => (flow.kind === "switch" ? { low: 0, high: 1 } : { low: flow.low, high: flow.high });

function swapped(shapers: readonly Shaper[], at: number): readonly Shaper[] {
  const [a, b] = [shapers[at], shapers[at + 1]];
  return a && b ? shapers.with(at, b).with(at + 1, a) : shapers;
}

interface ShaperPictureProps {
  readonly shapers: readonly Shaper[];
  readonly at: number;
  readonly sourceId: string;
  readonly from: { readonly low: number; readonly high: number };
  readonly to: { readonly low: number; readonly high: number };
}

const width = 180;
const height = 64;
const samples = 90;

/** One shaper's curve, where what comes in has settled, and the point at which it stands now: off the curve while it is on its way. */
function ShaperPicture({ shapers, at, sourceId, from, to }: ShaperPictureProps) {
  const point = useRef<SVGCircleElement>(null);
  const shaper = shapers[at] as Shaper;
  const x = (value: number) => 4 + ((value - from.low) / (from.high - from.low || 1)) * (width - 8);
  const y = (value: number) => height - 4 - ((value - to.low) / (to.high - to.low || 1)) * (height - 8);
  const settled = settledShape([shaper], aroundNow);
  const path = Array.from({ length: samples + 1 }, (_, step) => from.low + ((from.high - from.low) * step) / samples)
    .map((value) => [x(value), y(settled(value))] as const)
    .filter(([, up]) => Number.isFinite(up))
    .map(([across, up], step) => `${step === 0 ? "M" : "L"}${across.toFixed(1)} ${up.toFixed(1)}`)
    .join("");
  useEffect(() => {
    const before = new Chain(shapers.slice(0, at), aroundNow);
    const after = new Chain([shapers[at] as Shaper], aroundNow);
    let lastMs = performance.now();
    return onLive(() => {
      const nowMs = performance.now();
      const dtMs = nowMs - lastMs;
      lastMs = nowMs;
      const into = before.step(liveSource(sourceId), dtMs);
      const out = after.step(into, dtMs);
      const isShown = Number.isFinite(into) && Number.isFinite(out);
      draw(point.current, "visibility", isShown ? "visible" : "hidden");
      if (!isShown) return;
      draw(point.current, "cx", Math.min(Math.max(x(into), 2), width - 2).toFixed(1));
      draw(point.current, "cy", Math.min(Math.max(y(out), 2), height - 2).toFixed(1));
    });
  });
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full rounded-sm bg-base-100" aria-hidden="true">
      <path d={`M4 ${height - 4}H${width - 4}M4 4V${height - 4}`} className="stroke-base-content/40" />
      <path d={path} className="fill-none stroke-primary" strokeWidth={2} />
      <circle ref={point} r={4.5} className="fill-base-100 stroke-base-content" strokeWidth={1.8} />
    </svg>
  );
}
