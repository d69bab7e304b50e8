import { originWords } from "@core/origins";
import { editSource, renameSource, type Source } from "@core/project";
import { edit } from "@stores/document";
import { solo, useInputs } from "@stores/inputsView";
import { liveLost, liveSource, onLive, pace, useLive } from "@stores/live";
import { useCallback, useEffect, useMemo, useState } from "react";
import { formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { NameField } from "../parts/NameField";
import { useStrokes } from "../parts/strokes";
import { SourceControl, writes } from "./SourceControl";
import { SourceSheet } from "./SourceSheet";

interface SourceCardProps {
  readonly source: Source;
  readonly partner: Source | null;
}

/** A source as it lies on the bench: what moves it, its number, a little of its past, solo and mute. */
export function SourceCard({ source, partner }: SourceCardProps) {
  const [isOpen, setIsOpen] = useState(false);
  const isSolo = useInputs((view) => view.soloSourceId === source.id);
  const isLost = useLive(useCallback(() => liveLost(source.id), [source.id]));
  const read = useMemo(() => {
    const span = spanOf(source);
    const written = writes(source, span);
    return () => formatNumber(written(liveSource(source.id)), span > 20 ? 0 : 2);
  }, [source]);
  const readPartner = useCallback(
    () => (partner ? formatNumber(liveSource(partner.id), spanOf(partner) > 20 ? 0 : 2) : ""),
    [partner],
  );
  const close = useCallback(() => setIsOpen(false), []);
  return (
    <li className="border-b border-base-300 py-1.5" data-source={source.id}>
      <div className="flex items-center gap-2">
        <div className="min-w-0 grow">
          <NameField
            label={`Name of ${source.label}`}
            value={source.label}
            onCommit={(name) => edit(renameSource(source.id, name))}
            className="w-full text-[0.9rem] font-medium"
          />
          <p className="caption truncate pl-1">{originWords(source.origin)}</p>
          <p className="flex items-center gap-2 pl-1">
            <LiveText
              read={read}
              box={partner ? "block h-6 w-16 shrink-0" : "block h-6 w-24 shrink-0"}
              className="text-lg leading-tight"
            />
            {partner && <LiveText read={readPartner} box="block h-6 w-16 shrink-0" className="text-lg leading-tight" />}
            {isLost && <span className="text-sm font-semibold text-error">gone</span>}
          </p>
          <Past source={source} />
        </div>
        <SourceControl source={source} partner={partner} />
      </div>
      <div className="mt-0.5 flex gap-1 pl-1">
        <button
          type="button"
          className={`btn btn-xs ${isSolo ? "btn-primary" : "btn-ghost"}`}
          aria-pressed={isSolo}
          aria-label={`Solo ${source.label}`}
          onClick={() => solo("source", source.id)}
        >
          solo
        </button>
        <button
          type="button"
          className={`btn btn-xs ${source.isMuted ? "btn-neutral" : "btn-ghost"}`}
          aria-pressed={source.isMuted}
          aria-label={`Mute ${source.label}`}
          onClick={() => edit(editSource(source.id, "mute", (one) => ({ ...one, isMuted: !one.isMuted })))}
        >
          mute
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs ml-auto"
          aria-label={`Settings of ${source.label}`}
          onClick={() => setIsOpen(true)}
        >
          settings
        </button>
      </div>
      {isOpen && <SourceSheet source={source} onClose={close} />}
    </li>
  );
}

const spanOf = ({ range }: Source) => range.high - range.low;

const pastMs = 6000;

/** The last six seconds in small. */
function Past({ source }: { readonly source: Source }) {
  const { canvas, stroke } = useStrokes();
  const { low, high } = source.range;
  useEffect(() => {
    const seen: { atMs: number; share: number }[] = [];
    return onLive(() => {
      const value = liveSource(source.id);
      if (!Number.isFinite(value)) return;
      const share = Math.min(Math.max((value - low) / (high - low), 0), 1);
      const nowMs = performance.now();
      // One look beyond the left edge is kept: the line begins there.
      while (nowMs - (seen[1]?.atMs ?? nowMs) > pastMs) seen.shift();
      const isFlat = nowMs - (seen[0]?.atMs ?? nowMs) > pastMs && seen.every((one) => one.share === share);
      seen.push({ atMs: nowMs, share });
      if (isFlat) return;
      const points = seen.map((one) => [1 - (nowMs - one.atMs) / pastMs, one.share] as const);
      stroke([{ points, colour: "--color-primary", widthPx: 1.4 }]);
    }, pace.words);
  }, [source.id, low, high, stroke]);
  return (
    <div aria-hidden="true">
      <canvas ref={canvas} className="mt-0.5 ml-1 h-5 w-28 border-b border-base-300" />
    </div>
  );
}
