import { useCallback, useRef } from "react";
import { formatNumber } from "../parts/format";
import { useBenchState, useDesk } from "./desk";

/** Where a joint is asked to be (the bar) and where it is seen (the triangle), between its travel limits. */
export function JointScale({ jointId }: { readonly jointId: string }) {
  const { book, state } = useDesk();
  const at = book.joints.findIndex(({ id }) => id === jointId);
  const joint = book.joints[at];
  const target = useRef<HTMLSpanElement>(null);
  const actual = useRef<HTMLSpanElement>(null);
  const words = useRef<HTMLSpanElement>(null);
  useBenchState(
    useCallback(() => {
      if (!joint) return;
      const {
        target: wanted,
        actual: seen,
        isHeld,
      } = state()?.joints[at] ?? { target: null, actual: null, isHeld: false };
      place(target.current, wanted, joint);
      place(actual.current, seen, joint);
      const text =
        wanted === null ? (isHeld || state() === null ? "–" : "limp") : `${formatNumber(wanted, 1)}${joint.unit}`;
      if (words.current && words.current.textContent !== text) words.current.textContent = text;
    }, [state, at, joint]),
  );
  if (!joint) return null;
  return (
    <div className="w-full" data-joint={joint.id}>
      <p className="flex items-baseline justify-between gap-1 text-[0.72rem] leading-tight">
        <span className="truncate">{joint.label}</span>
        <span ref={words} className="number" data-target />
      </p>
      <div
        className="relative mx-1 h-2.5 border-b border-base-content/60 [container-type:inline-size]"
        aria-hidden="true"
      >
        <span className="absolute -bottom-px left-0 h-2 w-px bg-base-content/60" />
        <span className="absolute -bottom-px right-0 h-2 w-px bg-base-content/60" />
        <span
          ref={target}
          className="invisible absolute bottom-0 -left-[1.5px] h-2.5 w-[3px] bg-primary [transform:translateX(calc(var(--share)*100cqw))]"
        />
        <span
          ref={actual}
          className="invisible absolute -bottom-1.5 -left-1 border-x-4 border-b-[6px] border-x-transparent border-b-secondary [transform:translateX(calc(var(--share)*100cqw))]"
        />
      </div>
      <p className="number flex justify-between text-[0.62rem] opacity-75" aria-hidden="true">
        <span>{formatNumber(joint.low, 0)}</span>
        <span>{formatNumber(joint.high, 0)}</span>
      </p>
    </div>
  );
}

function place(
  mark: HTMLElement | null,
  value: number | null,
  { low, high }: { readonly low: number; readonly high: number },
) {
  if (!mark) return;
  const visibility = value === null ? "hidden" : "visible";
  if (mark.style.visibility !== visibility) mark.style.visibility = visibility;
  if (value === null) return;
  const share = String(Math.round(Math.min(Math.max((value - low) / (high - low), 0), 1) * 1000) / 1000);
  if (mark.style.getPropertyValue("--share") !== share) mark.style.setProperty("--share", share);
}
