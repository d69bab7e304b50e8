import { readingsOf, readNumbers } from "@core/position";
import { useState } from "react";
import { formatNumber } from "../parts/format";
import type { SignalToolProps } from "./toolProps";

/** Numbers from somebody else's program: what they may be, and whether they are safe for this servo. */
export default function UnitTool({ bench }: SignalToolProps) {
  const { card, maker, joint } = bench;
  const [text, setText] = useState("");
  const read = text.trim() ? readNumbers(text) : null;
  const readings = read?.ok ? readingsOf(read.value, card, maker) : [];
  return (
    <div className="h-full max-w-4xl overflow-y-auto shows-more">
      <label className="block">
        <span className="caption mb-0.5 block">Paste two or three numbers from a program or a forum</span>
        <input
          className="input number w-96 bg-base-100"
          placeholder="1640, 7864"
          value={text}
          autoComplete="off"
          spellCheck={false}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {read && !read.ok && (
        <p role="alert" className="mt-2 text-sm text-error">
          {read.problem}
        </p>
      )}
      {read?.ok && readings.length === 0 && (
        <p role="alert" className="mt-2">
          In no unit known here would these be the pulses of a servo. A servo’s pulses lie between about 500 and 2500
          µs.
        </p>
      )}
      <ol className="mt-3" data-readout="readings">
        {readings.map((reading, rank) => (
          <li
            key={reading.name}
            className="grid grid-cols-[1.5rem_14rem_17rem_minmax(0,1fr)] items-baseline gap-4 border-t border-base-300 py-2"
          >
            <span className="number text-right text-primary">{rank + 1}</span>
            <span className={rank === 0 ? "font-semibold" : undefined}>{reading.name}</span>
            <span className="number">{reading.pulsesUs.map((us) => `${formatNumber(us, 1)} µs`).join(", ")}</span>
            <span className={`text-sm ${reading.isSafe ? "" : "text-error"}`}>
              {reading.isSafe ? "Safe. " : "Not safe. "}
              {reading.says}
            </span>
          </li>
        ))}
      </ol>
      {!read && (
        <p className="caption mt-3">
          A count taken for microseconds, or a percentage for a fraction, sends {joint.label} to an end stop. Here you
          see what each reading would do before anything moves.
        </p>
      )}
    </div>
  );
}
