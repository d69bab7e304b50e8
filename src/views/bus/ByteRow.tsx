import { type Explained, hexByte } from "@core/bus";
import { useState } from "react";
import type { Base } from "./bases";

interface ByteRowProps {
  readonly explained: Explained;
  readonly bytes: readonly number[];
  readonly base: Base;
}

const shown = (byte: number, base: Base): string =>
  base === "hex" ? hexByte(byte) : base === "decimal" ? String(byte) : byte.toString(2).padStart(8, "0");

/** Every byte in place, under a bracket with its name; the one that is pointed at or walked to says what it means. */
export function ByteRow({ explained, bytes, base }: ByteRowProps) {
  const [at, setAt] = useState<number | null>(null);
  const { spans } = explained;
  const chosen = at === null ? null : spans[at];
  return (
    <div>
      <ol className="flex flex-wrap gap-x-1 gap-y-2" aria-label="The bytes one by one">
        {spans.map((span, place) => (
          <li key={`${span.from} ${span.label}`}>
            <button
              type="button"
              className={`flex cursor-default flex-col items-stretch rounded-sm px-1 pt-0.5 hover:bg-base-300/60 ${place === at ? "bg-base-300/60" : ""}`}
              onMouseEnter={() => setAt(place)}
              onFocus={() => setAt(place)}
            >
              <span className={`number text-base tracking-wide ${span.isWrong ? "font-semibold text-error" : ""}`}>
                {bytes
                  .slice(span.from, span.to)
                  .map((byte) => shown(byte, base))
                  .join(" ")}
              </span>
              <span
                className={`mt-0.5 border-t-2 text-center text-[0.7rem] leading-tight ${span.isWrong ? "border-dashed border-error text-error" : span.field === "parameters" ? "border-primary" : "border-base-content/60"}`}
              >
                {span.isWrong ? "! " : ""}
                {span.label}
              </span>
              <span className="sr-only">: {span.meaning}</span>
            </button>
          </li>
        ))}
      </ol>
      <p className="mt-1 min-h-6 text-sm" aria-live="polite">
        {chosen ? (
          <>
            <span className="font-semibold">{chosen.label}:</span> {chosen.meaning}
          </>
        ) : (
          <span className="caption">Point at a byte, or walk to it with Tab: it says what it means.</span>
        )}
      </p>
    </div>
  );
}
