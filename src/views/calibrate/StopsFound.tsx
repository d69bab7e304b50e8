import type { FoundStop } from "@core/calibrate";
import { setPointUnit } from "@core/project";
import type { JointBench } from "@stores/jointBench";
import { Fragment } from "react";
import { formatNumber } from "../parts/format";
import { SetPointWords } from "./SetPointWords";

interface StopsFoundProps {
  readonly bench: JointBench;
  readonly low: FoundStop;
  readonly high: FoundStop;
  readonly onSave: (narrows: boolean) => void;
  readonly onForget: () => void;
}

/** By how many ends of the window came before a stop. */
const headings = ["Both stops are found", "One stop is found", "No stop was met"] as const;

/** Both stops, and what may become of them. */
export function StopsFound({ bench, low, high, onSave, onForget }: StopsFoundProps) {
  const { card } = bench;
  return (
    <>
      <p className="heading" role="status">
        {headings[Number(low.isFree) + Number(high.isFree)]}
      </p>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4" data-readout="stops">
        {(
          [
            ["lower", low],
            ["upper", high],
          ] as const
        ).map(([name, stop]) => (
          <Fragment key={name}>
            <dt className="caption">{name}</dt>
            <dd>
              <SetPointWords bench={bench} value={stop.setPoint} />{" "}
              <small className="number">
                {stop.isFree ? "no stop met" : `± ${formatNumber(stop.plusMinus, 1)} ${setPointUnit(card)}`}
              </small>
            </dd>
          </Fragment>
        ))}
      </dl>
      {(low.isFree || high.isFree) && (
        <p className="caption">
          Where the horn still moved at the edge of the window, the servo may reach further; the window is widened only
          knowingly, under Limits.
        </p>
      )}
      <button type="button" className="btn btn-primary btn-sm w-full" onClick={() => onSave(true)}>
        Save, and keep the hard window just inside
      </button>
      <button type="button" className="btn btn-outline btn-sm w-full" onClick={() => onSave(false)}>
        Save the stops only
      </button>
      <button type="button" className="btn btn-ghost btn-sm w-full" onClick={onForget}>
        Forget them
      </button>
    </>
  );
}
