import { setPointUnit } from "@core/project";
import type { JointBench } from "@stores/jointBench";
import { formatNumber } from "../parts/format";

/** A set point in every unit of the person's own board: µs, per cent and counts; or ticks. */
export function SetPointWords({
  bench: { card, maker },
  value,
}: {
  readonly bench: JointBench;
  readonly value: number;
}) {
  if (setPointUnit(card) === "ticks") return <span className="number">{formatNumber(value, 0)} ticks</span>;
  return (
    <span className="number">
      {formatNumber(value, 1)} µs, {formatNumber((100 * value) / maker.periodUs, 3)} %
      {maker.countName === "count" || maker.countName === "compare"
        ? `, ${formatNumber(maker.toCount(value), 0)} ${maker.countName === "count" ? "counts" : "compare"}`
        : ""}
    </span>
  );
}
