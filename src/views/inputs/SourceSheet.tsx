import { converterRanges } from "@core/inputs";
import { editSource, removeSource, type Source, setSourceRange } from "@core/project";
import { edit, editForField } from "@stores/document";
import { liveSource, useEveryTick } from "@stores/live";
import { notify } from "@stores/notices";
import { useEffect, useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { Sheet } from "../parts/Sheet";
import { SheetFoot } from "../parts/SheetFoot";
import { OriginFields } from "./OriginFields";

interface SourceSheetProps {
  readonly source: Source;
  readonly onClose: () => void;
}

/** What a source counts from and to, what moves it, and what becomes of its joints when it vanishes. */
export function SourceSheet({ source, onClose }: SourceSheetProps) {
  useEveryTick();
  const { range, ifLost } = source;
  const setRange = (low: number, high: number) => editForField(setSourceRange(source.id, { low, high }));
  const setLost = (next: Source["ifLost"]) =>
    editForField(editSource(source.id, "what it does when lost", (one) => ({ ...one, ifLost: next })));
  return (
    <Sheet label={`Settings of ${source.label}`} onClose={onClose}>
      <div className="space-y-3">
        <h2 className="heading text-lg">{source.label}</h2>
        <div className="grid grid-cols-2 gap-3">
          <QuantityField
            label="Lowest"
            value={range.low}
            unit=""
            decimals={0}
            onCommit={(low) => setRange(low, range.high)}
          />
          <QuantityField
            label="Highest"
            value={range.high}
            unit=""
            decimals={0}
            onCommit={(high) => setRange(range.low, high)}
          />
        </div>
        <div className="flex flex-wrap gap-1">
          {converterRanges.map(({ bits, low, high }) => (
            <button key={bits} type="button" className="btn btn-outline btn-xs" onClick={() => setRange(low, high)}>
              {bits} bits
            </button>
          ))}
          <LearnRange source={source} onRange={setRange} />
        </div>
        <OriginFields source={source} />
        <div className="grid grid-cols-3 gap-3 border-t border-base-300 pt-3">
          <ChoiceField
            label="When it vanishes"
            value={ifLost.kind}
            choices={[
              ["hold", "stay where it is"],
              ["value", "go to a value"],
              ["release", "release its joints"],
            ]}
            onChoose={(kind) => setLost(beginLost(kind, range.low))}
          />
          {ifLost.kind === "value" && (
            <QuantityField
              label="Value"
              value={ifLost.value}
              unit=""
              decimals={1}
              onCommit={(value) => setLost({ ...ifLost, value })}
            />
          )}
          {ifLost.kind !== "hold" && (
            <QuantityField
              label="After"
              value={ifLost.afterMs / 1000}
              unit="s"
              decimals={1}
              units={{ s: 1, ms: 0.001 }}
              onCommit={(seconds) => setLost({ ...ifLost, afterMs: seconds * 1000 })}
            />
          )}
        </div>
        <SheetFoot
          onDone={onClose}
          removeWords={`Remove ${source.label} and its leads`}
          onRemove={() => edit(removeSource(source.id))}
        />
      </div>
    </Sheet>
  );
}

const lostAfterMs = 2000;

function beginLost(kind: Source["ifLost"]["kind"], value: number): Source["ifLost"] {
  if (kind === "hold") return { kind };
  return kind === "value" ? { kind, value, afterMs: lostAfterMs } : { kind, afterMs: lostAfterMs };
}

const watchMs = 4000;
/** Less than this share of the range that it has is the trembling of something that rests. */
const leastShare = 0.05;

/** Learns a range by its being moved from end to end. */
function LearnRange({
  source,
  onRange,
}: {
  readonly source: Source;
  readonly onRange: (low: number, high: number) => void;
}) {
  const [isLearning, setIsLearning] = useState(false);
  useEffect(() => {
    if (!isLearning) return;
    let low = Number.POSITIVE_INFINITY;
    let high = Number.NEGATIVE_INFINITY;
    const look = setInterval(() => {
      const value = liveSource(source.id);
      if (!Number.isFinite(value)) return;
      low = Math.min(low, value);
      high = Math.max(high, value);
    }, 15);
    const end = setTimeout(() => {
      setIsLearning(false);
      const least = leastShare * (source.range.high - source.range.low);
      if (high - low >= least) onRange(low, high);
      else
        notify(
          high >= low
            ? `${source.label} moved from ${formatNumber(low, 2)} to ${formatNumber(high, 2)} only: that is no range. Go from end to end.`
            : `Nothing was heard of ${source.label}. Go from end to end.`,
          "warning",
        );
    }, watchMs);
    return () => {
      clearInterval(look);
      clearTimeout(end);
    };
  }, [isLearning, source.id, source.label, source.range, onRange]);
  return (
    <button type="button" className="btn btn-outline btn-xs" disabled={isLearning} onClick={() => setIsLearning(true)}>
      {isLearning ? "move from end to end…" : "learn it by moving"}
    </button>
  );
}
