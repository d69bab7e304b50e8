import { setEndStops, setPointUnit } from "@core/project";
import { editForField } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { setPointDecimals, setPointUnits } from "./setPointField";

/** The end stops as the card has them; typed in by someone who knows them already. */
export function StopsOnCard({ bench }: { readonly bench: JointBench }) {
  const { card } = bench;
  const { low, high, plusMinus } = card.endStops;
  const within = (stop: number | null, off: number | undefined) =>
    stop === null || off === undefined ? [] : [`± ${formatNumber(off, 1)}`];
  const found = [...within(low, plusMinus?.low), ...within(high, plusMinus?.high)];
  const field = (label: string, value: number | null, take: (next: number) => ReturnType<typeof setEndStops>) => (
    <QuantityField
      label={label}
      value={value ?? Number.NaN}
      unit={setPointUnit(card)}
      decimals={setPointDecimals(bench)}
      units={setPointUnits(bench)}
      onCommit={(next) => editForField(take(next))}
      className="min-w-0"
    />
  );
  return (
    <div className="border-t border-base-300 pt-2">
      <div className="grid grid-cols-2 gap-3" data-readout="stops on card">
        {field("Lower stop on the card", low, (next) => setEndStops(card.id, next, high))}
        {field("Upper stop on the card", high, (next) => setEndStops(card.id, low, next))}
      </div>
      {found.length > 0 && (
        <p className="caption mt-1">
          Found to {found.join(" and ")} {setPointUnit(card)}.
        </p>
      )}
    </div>
  );
}
