import { readIn, type UnitTable } from "@core/signal";
import { type KeyboardEvent, useEffect, useId, useState } from "react";
import { formatNumber } from "./format";

interface QuantityFieldProps {
  readonly label: string;
  readonly value: number;
  readonly unit: string;
  readonly decimals: number;
  /** Units that may be typed and what each is worth in `unit`. */
  readonly units?: UnitTable;
  /** What the arrow keys add. */
  readonly step?: number;
  /** Takes the number; gives a sentence when it cannot be taken, and the field keeps what was typed. */
  readonly onCommit: (value: number) => string | null;
  /** Where a field may be empty: what that means, and what is done then. Its value is NaN while it is. */
  readonly emptyWords?: string;
  readonly onEmpty?: () => string | null;
  readonly hidesLabel?: boolean;
  readonly className?: string;
}

/**
 * A number field that takes arithmetic and units. What cannot be read stays as it was typed, with a sentence under it,
 * and changes nothing. Enter or leaving the field takes the number; Esc puts the old one back.
 */
export function QuantityField(props: QuantityFieldProps) {
  const { label, value, unit, decimals, units = { [unit]: 1 }, step, onCommit, hidesLabel, className } = props;
  const { emptyWords, onEmpty } = props;
  const id = useId();
  const shown = onEmpty && Number.isNaN(value) ? "" : formatNumber(value, decimals);
  const [typed, setTyped] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a number that came from elsewhere settles any trouble.
  useEffect(() => setTrouble(null), [value]);

  const settle = (refusal: string | null) => {
    setTrouble(refusal);
    if (refusal === null) setTyped(null);
  };
  const take = (next: number) => settle(onCommit(next));
  const commit = () => {
    if (typed === null || typed === shown) {
      setTyped(null);
      return;
    }
    if (onEmpty && typed.trim() === "") {
      settle(onEmpty());
      return;
    }
    const read = readIn(units, typed);
    if (read.ok) take(read.value);
    else setTrouble(read.problem);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "Enter") commit();
    else if (event.key === "Escape") {
      setTyped(null);
      setTrouble(null);
    } else if (step !== undefined && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
      event.preventDefault();
      take(value + (event.key === "ArrowUp" ? step : -step));
    }
  };

  return (
    <div className={className}>
      <label htmlFor={id} className={hidesLabel ? "sr-only" : "caption mb-0.5 block"}>
        {label}
      </label>
      <span className="input input-sm flex w-full min-w-0 items-center bg-base-100">
        <input
          id={id}
          className="number min-w-0 grow text-right text-[0.95rem]"
          value={typed ?? shown}
          placeholder={emptyWords}
          autoComplete="off"
          spellCheck={false}
          aria-invalid={trouble !== null}
          aria-describedby={trouble ? `${id}-trouble` : undefined}
          onChange={(event) => setTyped(event.target.value)}
          onFocus={(event) => event.target.select()}
          onBlur={commit}
          onKeyDown={onKeyDown}
        />
        <span className="caption shrink-0">{unit}</span>
      </span>
      {trouble && (
        <p id={`${id}-trouble`} role="alert" className="mt-1 text-sm text-error">
          {trouble}
        </p>
      )}
    </div>
  );
}
