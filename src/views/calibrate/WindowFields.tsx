import { setPointUnit, setWindow } from "@core/project";
import { edit, editForField } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { useState } from "react";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { setPointDecimals, setPointUnits } from "./setPointField";

/** Beyond these, in µs, most servos grind; within them a search may look. Ticks end where the board's do. */
const outer = { low: 500, high: 2500 };

/** The hard window of the card. It can be drawn in freely; it is widened past the usual only by someone who says so. */
export function WindowFields({ bench }: { readonly bench: JointBench }) {
  const { card } = bench;
  const { low, high } = card.window;
  const unit = setPointUnit(card);
  const [asked, setAsked] = useState<{ low: number; high: number } | null>(null);
  const take = (next: { low: number; high: number }): string | null => {
    const isRisky = unit === "µs" && (next.low < Math.min(outer.low, low) || next.high > Math.max(outer.high, high));
    if (isRisky) {
      setAsked(next);
      return null;
    }
    setAsked(null);
    return editForField(setWindow(card.id, next.low, next.high));
  };
  const field = (label: string, value: number, at: (next: number) => { low: number; high: number }) => (
    <QuantityField
      label={label}
      value={value}
      unit={unit}
      decimals={setPointDecimals(bench)}
      units={setPointUnits(bench)}
      onCommit={(next) => take(at(next))}
      className="min-w-0"
    />
  );
  return (
    <section className="sheet space-y-2 p-3" aria-label="Hard window">
      <h2 className="heading">Hard window</h2>
      <p className="caption">Nothing outside it ever leaves for this servo, whatever asks for it.</p>
      <div className="grid grid-cols-2 gap-3">
        {field("From", low, (next) => ({ low: next, high }))}
        {field("To", high, (next) => ({ low, high: next }))}
      </div>
      {unit === "µs" && (low > outer.low || high < outer.high) && (
        <button type="button" className="btn btn-outline btn-xs" onClick={() => take(outer)}>
          Open it to {outer.low} to {outer.high} µs, to look for the stops again
        </button>
      )}
      {asked && (
        <div role="alert" className="space-y-2 border-l-4 border-warning pl-3 text-sm">
          <p>
            Past {outer.low} to {outer.high} µs most servos grind against their stops. {formatNumber(asked.low, 0)} to{" "}
            {formatNumber(asked.high, 0)} µs only makes sense if you know that this one turns on there.
          </p>
          <div className="flex gap-2">
            <button
              type="button"
              className="btn btn-warning btn-xs"
              onClick={() => {
                edit(setWindow(card.id, asked.low, asked.high));
                setAsked(null);
              }}
            >
              Widen it knowingly
            </button>
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => setAsked(null)}>
              Leave it
            </button>
          </div>
        </div>
      )}
    </section>
  );
}
