import { pulseUsOfDuty } from "@core/encodings";
import { readQuantity } from "@core/signal";
import type { JointBench } from "@stores/jointBench";
import { command } from "@stores/live";
import { useId, useState } from "react";
import { formatIn } from "../parts/format";

/** One field to send the joint somewhere: an angle, or a pulse, duty, count or tick when its unit is typed. */
export function AskField({ bench }: { readonly bench: JointBench }) {
  const id = useId();
  const [typed, setTyped] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const { joint, card, map, maker } = bench;
  const isSpin = map.targetUnit === "spin";

  /** The target that was typed, or a sentence. */
  const targetOf = (text: string): number | string => {
    const read = readQuantity(text);
    if (!read.ok) return read.problem;
    const { value, unit } = read.value;
    if (unit === null || unit === "°") return isSpin && unit === "°" ? "It spins; ask for −1 to 1, or a pulse." : value;
    if (unit === "ticks") return card.kind === "smart" ? map.toTarget(value) : "Only a smart servo takes ticks.";
    if (card.kind === "smart") return "A smart servo takes degrees or ticks.";
    if (unit === "µs") return map.toTarget(value);
    if (unit === "ms") return map.toTarget(value * 1000);
    if (unit === "%") return map.toTarget(pulseUsOfDuty(value / 100, maker.periodUs));
    if (unit === "counts") return map.toTarget(maker.toSetPoint(value));
    return `“${unit}” does not say where to go.`;
  };

  const ask = () => {
    const target = targetOf(typed);
    if (typeof target === "string") {
      setTrouble(target);
      return;
    }
    if (target < map.lowTarget || target > map.highTarget) {
      const range = `${formatIn(map.lowTarget, map.targetUnit)} to ${formatIn(map.highTarget, map.targetUnit)}`;
      setTrouble(
        `${formatIn(target, map.targetUnit)} is outside the travel limits, ${range}. Ask for less, or widen the limits.`,
      );
      return;
    }
    setTrouble(null);
    command({ kind: "target", jointId: joint.id, target });
  };

  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        ask();
      }}
    >
      <label htmlFor={id} className="caption">
        Go to {isSpin ? "a spin (−1…1) or pulse" : card.kind === "smart" ? "an angle or tick" : "an angle or pulse"}
      </label>
      <div className="join mt-0.5 flex">
        <input
          id={id}
          className="input input-sm number join-item grow bg-base-100"
          placeholder={isSpin ? "0.5 or 1600us" : card.kind === "smart" ? "45 or 2048 ticks" : "45 or 1600us or 7.5%"}
          value={typed}
          autoComplete="off"
          aria-invalid={trouble !== null}
          aria-describedby={trouble ? `${id}-trouble` : undefined}
          onChange={(event) => {
            setTyped(event.target.value);
            setTrouble(null);
          }}
        />
        <button type="submit" className="btn btn-sm btn-primary join-item">
          Go
        </button>
      </div>
      {trouble && (
        <p id={`${id}-trouble`} role="alert" className="mt-1 text-sm text-error">
          {trouble}
        </p>
      )}
    </form>
  );
}
