import { type Origin, originOfKey, originWords } from "@core/origins";
import { addSources, type Source } from "@core/project";
import { edit, newId, useProject } from "@stores/document";
import { notify } from "@stores/notices";
import { remoteStore } from "@stores/remote";
import { useStore } from "zustand";
import { formatNumber } from "../parts/format";

/** What was heard last: who moves something there sees it here, and makes a source of it. */
export function Heard() {
  const doors = useStore(remoteStore, (view) => view.doors);
  const sources = useProject((project) => project.sources);
  const heard = doors?.heard ?? [];
  return (
    <section className="sheet flex min-h-0 flex-col gap-2 p-3" aria-labelledby="heard-heading">
      <div className="flex items-baseline justify-between gap-2">
        <h2 id="heard-heading" className="heading">
          Heard lately
        </h2>
        {doors && (
          <span className="caption">
            {doors.taken} taken, {doors.refused} refused
          </span>
        )}
      </div>
      {heard.length === 0 ? (
        <p className="caption">
          Nothing yet. Open a door, then move something on the other machine: it stands here, the newest first. Choose
          it to make a source of it.
        </p>
      ) : (
        <ul className="min-h-0 overflow-y-auto shows-more pr-1">
          {heard.map(({ key, value, who }) => {
            const origin = originOfKey(key);
            if (!origin) return null;
            const there = sources.find((source) => isSame(source.origin, origin));
            return (
              <li key={key} className="flex items-center gap-2 border-b border-base-300 py-1 text-sm">
                <span className="min-w-0 grow">
                  <span className="block truncate">{originWords(origin)}</span>
                  <span className="caption">{who}</span>
                </span>
                <span className="number shrink-0">{formatNumber(value, 3)}</span>
                {there ? (
                  <span className="caption w-20 shrink-0 truncate text-right">{there.label}</span>
                ) : (
                  <button
                    type="button"
                    className="btn btn-outline btn-xs shrink-0"
                    aria-label={`Make a source of ${originWords(origin)}`}
                    onClick={() => choose(origin, value)}
                  >
                    choose
                  </button>
                )}
              </li>
            );
          })}
        </ul>
      )}
    </section>
  );
}

const isSame = (one: Origin, other: Origin) => originWords(one) === originWords(other) && one.kind === other.kind;

/** A source for what was just moved. Its range is the usual one of its kind, or as wide as the number wants it. */
function choose(origin: Origin, value: number): void {
  const label = originWords(origin)
    .replace(/^message “in\/(.*)”$/, "$1")
    .slice(0, 60);
  const source: Source = {
    id: newId(),
    label,
    range: rangeFor(origin, value),
    origin,
    isMuted: false,
    ifLost: { kind: "hold" },
  };
  if (edit(addSources([source]))) notify(`“${label}” is a source now. Lead it somewhere at the station Inputs.`);
}

function rangeFor(origin: Origin, value: number): Source["range"] {
  if (origin.kind === "sacn") return { low: 0, high: origin.isFine ? 65_535 : 255 };
  if (origin.kind === "cue" || (value >= 0 && value <= 1)) return { low: 0, high: 1 };
  if (value >= -1 && value < 0) return { low: -1, high: 1 };
  const high =
    [100, 127, 255, 1000, 1023, 4095, 65_535].find((one) => Math.abs(value) <= one) ?? Math.ceil(Math.abs(value));
  return { low: value < 0 ? -high : 0, high };
}
