import type { JointBench } from "@stores/jointBench";
import { layProtractor, useProtractor } from "@stores/protractor";
import { useCallback, useState } from "react";
import { Fetched } from "../parts/Fetched";
import { lazily } from "../parts/lazily";
import { sweepOf } from "./HornView";

const ProtractorPrint = lazily(() => import("./ProtractorPrint"));

/** How the protractor is laid, and one for paper. */
export function ProtractorChoice({ bench }: { readonly bench: JointBench }) {
  const protractor = useProtractor();
  const [isPrinting, setIsPrinting] = useState(false);
  const done = useCallback(() => setIsPrinting(false), []);
  return (
    <div className="flex flex-wrap items-center justify-center gap-x-4 gap-y-1">
      <label className="caption flex items-center gap-1.5">
        0° at
        <select
          className="select select-xs w-28 bg-base-100"
          value={protractor.zeroAt}
          onChange={(event) => layProtractor({ ...protractor, zeroAt: event.target.value as "left" | "middle" })}
        >
          <option value="left">the left end</option>
          <option value="middle">the middle</option>
        </select>
      </label>
      <label className="caption flex items-center gap-1.5">
        growing
        <select
          className="select select-xs w-32 bg-base-100"
          value={protractor.grows}
          onChange={(event) =>
            layProtractor({ ...protractor, grows: event.target.value as "clockwise" | "anticlockwise" })
          }
        >
          <option value="clockwise">clockwise</option>
          <option value="anticlockwise">anticlockwise</option>
        </select>
      </label>
      <button type="button" className="btn btn-xs btn-outline" onClick={() => setIsPrinting(true)}>
        Print a protractor
      </button>
      {isPrinting && (
        <Fetched>
          <ProtractorPrint sweepDeg={sweepOf(bench)} onDone={done} />
        </Fetched>
      )}
    </div>
  );
}
