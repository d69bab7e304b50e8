import type { Seen, StopSearch } from "@core/calibrate";
import { pressing } from "@core/engine";
import { setPointUnit } from "@core/project";
import type { JointBench } from "@stores/jointBench";
import { liveJoint, useLive } from "@stores/live";
import { useCallback } from "react";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { Answer } from "./Answer";
import { SetPointWords } from "./SetPointWords";
import { setPointDecimals, setPointUnits } from "./setPointField";

interface StopStepsProps {
  readonly bench: JointBench;
  readonly search: StopSearch;
  readonly isDriven: boolean;
  readonly pressMs: number;
  readonly onTell: (seen: Seen) => void;
  readonly onAgain: () => void;
  /** Takes the last answer back; null while there is none. */
  readonly onTakeBack: (() => void) | null;
  /** Takes a next step of the person's own; gives a sentence where it cannot be. */
  readonly onStepTo: (probe: number) => string | null;
  readonly onGoOn: () => void;
  readonly onStop: () => void;
}

/** The search as it goes: what this step is, what the servo does now, and the answers. */
export function StopSteps(props: StopStepsProps) {
  const { bench, search, isDriven, pressMs, onTell, onAgain, onTakeBack, onStepTo, onGoOn, onStop } = props;
  const { joint, card } = bench;
  const unit = setPointUnit(card);
  const phase = useLive(useCallback(() => liveJoint(joint.id, "pressing"), [joint.id]));
  return (
    <>
      <p className="heading" role="status">
        {search.kind === "trying" ? "Does it move?" : search.way > 0 ? "Upper stop" : "Lower stop"}, step{" "}
        {search.steps + 1}:{" "}
        {!isDriven
          ? "interrupted, the servo is safe."
          : phase === pressing.pressing
            ? "watch the horn…"
            : phase === pressing.standing
              ? "stands ready…"
              : "what did the horn do?"}
      </p>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 text-sm" data-readout="stops">
        <dt className="caption">steps to</dt>
        <dd>
          <SetPointWords bench={bench} value={search.probe} />
        </dd>
        <dt className="caption">from</dt>
        <dd>
          <SetPointWords bench={bench} value={search.stand} />
        </dd>
        <dt className="caption">surely free</dt>
        <dd>
          <SetPointWords bench={bench} value={search.safe} />
        </dd>
      </dl>
      {search.kind === "again" && (
        <p className="text-sm">
          An earlier step once more: the stop hangs on what you answered then, and on nothing else.
        </p>
      )}
      {isDriven ? (
        <>
          <div className="grid grid-cols-3 gap-2">
            <Answer words="It moved" letter="J" onAnswer={() => onTell("moved")} />
            <Answer words="It stopped" letter="K" onAnswer={() => onTell("stopped")} />
            <Answer words="It hums" letter="L" onAnswer={() => onTell("hums")} />
            <button type="button" className="btn btn-ghost btn-sm" onClick={onAgain}>
              Show again <kbd>R</kbd>
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              disabled={!onTakeBack}
              onClick={() => onTakeBack?.()}
            >
              Take back <kbd>Z</kbd>
            </button>
            <button type="button" className="btn btn-ghost btn-sm" onClick={onStop}>
              Give up
            </button>
          </div>
          <QuantityField
            label="Or step to a number of your own"
            value={search.probe}
            unit={unit}
            decimals={setPointDecimals(bench)}
            units={setPointUnits(bench)}
            onCommit={onStepTo}
          />
        </>
      ) : (
        <button type="button" className="btn btn-primary btn-sm w-full" onClick={onGoOn}>
          Hold it and go on from {formatNumber(search.safe, 0)} {unit}
        </button>
      )}
      <p className="caption">
        A step presses for {pressMs / 1000} s at most, then the servo stands back by itself. Esc releases it.
      </p>
    </>
  );
}
