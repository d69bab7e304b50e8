import {
  beginStopSearch,
  longestPressMs,
  retreatOf,
  type Seen,
  type StopSearch,
  tellStopSearch,
} from "@core/calibrate";
import { setEndStops, setPointUnit, setWindow } from "@core/project";
import { edit } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint, useLive } from "@stores/live";
import { notify } from "@stores/notices";
import { useCallback, useEffect, useState } from "react";
import { formatNumber } from "../parts/format";
import { useKeys } from "../parts/useKeys";
import { keepDraft, readDraft } from "./draft";
import { SetPointWords } from "./SetPointWords";

/** Both searches, one after the other; kept through a reload. */
interface StopDraft {
  readonly search: StopSearch | null;
  readonly high: number | null;
  readonly low: number | null;
}
const nothing: StopDraft = { search: null, high: null, low: null };
/**
 * Time to stand still in before a step, so that only the step itself is seen. It counts as pressing too: where the step begins may
 * already lie against the stop.
 */
const settleMs = 250;
const coarseSteps = { µs: 50, ticks: 50 } as const;

/** Finding both end stops by keyboard: outward from the centre, one key for what the horn did. */
export function EndStopBench({ bench }: { readonly bench: JointBench }) {
  const { joint, card, maker } = bench;
  const unit = setPointUnit(card);
  const place = `stops.${card.id}`;
  const [draft, setDraft] = useState<StopDraft>(() => readDraft<StopDraft>(place) ?? nothing);
  const [isPressing, setIsPressing] = useState(false);
  const isHeld = useLive(useCallback(() => liveJoint(joint.id, "isHeld") === 1, [joint.id]));
  const { search } = draft;
  const isSearching = search !== null && search.kind !== "found";
  const isActive = isSearching && isHeld;
  const resolution = Math.max(card.deadband, maker.step);
  const centre = (card.window.low + card.window.high) / 2;
  const send = useCallback(
    (setPoint: number) => command({ kind: "setPoint", jointId: joint.id, setPoint }),
    [joint.id],
  );
  const keep = (next: StopDraft) => {
    setDraft(next);
    keepDraft(place, next);
  };

  // Each probe presses for so long at the most; then the servo stands back at the last place that was safe.
  useEffect(() => {
    if (!isActive) return;
    const { stand, probe } = search;
    send(stand);
    const go = setTimeout(() => {
      setIsPressing(true);
      send(probe);
    }, settleMs);
    const back = setTimeout(() => {
      setIsPressing(false);
      send(retreatOf(search));
    }, longestPressMs);
    return () => {
      clearTimeout(go);
      clearTimeout(back);
      setIsPressing(false);
    };
  }, [isActive, search, send]);
  useEffect(() => () => command({ kind: "calibrate", jointId: joint.id, isOn: false }), [joint.id]);

  const begin = (way: 1 | -1, from: number, found: Pick<StopDraft, "high" | "low">) => {
    const bound = way > 0 ? card.window.high : card.window.low;
    const started = beginStopSearch({
      from,
      way,
      bound,
      resolution,
      coarse: coarseSteps[unit],
    });
    if (!started.ok) {
      notify(started.problem, "warning");
      return;
    }
    command({ kind: "hold", jointId: joint.id });
    command({ kind: "calibrate", jointId: joint.id, isOn: true });
    send(from);
    keep({ search: started.value, high: found.high, low: found.low });
  };
  const again = () => search && keep({ ...draft, search: { ...search } });
  /** After an interruption: hold where it is safe, and ask the same question again. */
  const goOn = () => {
    if (!search) return;
    command({ kind: "hold", jointId: joint.id });
    command({ kind: "calibrate", jointId: joint.id, isOn: true });
    send(retreatOf(search));
    again();
  };
  const tell = (seen: Seen) => {
    if (!isActive) return;
    const next = tellStopSearch(search, seen);
    // At once, before anything else is tried: away from the stop.
    if (seen !== "moved") send(retreatOf(next));
    if (next.kind !== "found") keep({ ...draft, search: next });
    else if (next.way > 0) begin(-1, centre, { high: next.safe, low: null });
    else {
      keep({ search: next, high: draft.high, low: next.safe });
      send(centre);
    }
  };
  useKeys({ j: () => tell("moved"), k: () => tell("stopped"), l: () => tell("hums"), r: again });

  const save = (narrows: boolean) => {
    const { low, high } = draft;
    if (low === null || high === null) return;
    if (edit(setEndStops(card.id, low, high))) return;
    if (narrows && edit(setWindow(card.id, low + resolution, high - resolution))) return;
    notify(`The end stops are on the card of ${card.label}.`);
    stop();
  };
  const stop = () => {
    keep(nothing);
    command({ kind: "calibrate", jointId: joint.id, isOn: false });
  };

  return (
    <section className="sheet space-y-3 p-3" aria-label="End stops">
      {search === null && (
        <>
          <p className="text-sm">
            From the centre outward, within {card.window.low} to {card.window.high} {unit}. After each step you say what
            the horn did; at a stop it backs off by itself and homes in.
          </p>
          <button type="button" className="btn btn-primary btn-sm w-full" onClick={() => begin(1, centre, nothing)}>
            Find the end stops
          </button>
        </>
      )}
      {isSearching && (
        <>
          <p className="heading" role="status">
            {search.way > 0 ? "Upper" : "Lower"} stop, step {search.steps + 1}:{" "}
            {!isHeld ? "interrupted, the servo is limp." : isPressing ? "watch the horn…" : "what did the horn do?"}
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
          {isHeld ? (
            <div className="grid grid-cols-3 gap-2">
              <Answer words="It moved" letter="J" onAnswer={() => tell("moved")} />
              <Answer words="It stopped" letter="K" onAnswer={() => tell("stopped")} />
              <Answer words="It hums" letter="L" onAnswer={() => tell("hums")} />
              <button type="button" className="btn btn-ghost btn-sm col-span-2" onClick={again}>
                Show it again <kbd>R</kbd>
              </button>
              <button type="button" className="btn btn-ghost btn-sm" onClick={stop}>
                Give up
              </button>
            </div>
          ) : (
            <button type="button" className="btn btn-primary btn-sm w-full" onClick={goOn}>
              Hold it and go on from {formatNumber(search.safe, 0)} {unit}
            </button>
          )}
          <p className="caption">
            A step presses for {longestPressMs / 1000} s at most, then the servo stands back by itself. Esc releases it.
          </p>
        </>
      )}
      {search?.kind === "found" && draft.low !== null && draft.high !== null && (
        <>
          <p className="heading" role="status">
            Both stops are found
          </p>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4" data-readout="stops">
            <dt className="caption">lower</dt>
            <dd>
              <SetPointWords bench={bench} value={draft.low} />
            </dd>
            <dt className="caption">upper</dt>
            <dd>
              <SetPointWords bench={bench} value={draft.high} />
            </dd>
          </dl>
          {(draft.low === card.window.low || draft.high === card.window.high) && (
            <p className="caption">
              Where the horn still moved at the edge of the window, the servo may reach further; the window is widened
              only knowingly.
            </p>
          )}
          <button type="button" className="btn btn-primary btn-sm w-full" onClick={() => save(true)}>
            Save, and keep the hard window just inside
          </button>
          <button type="button" className="btn btn-outline btn-sm w-full" onClick={() => save(false)}>
            Save the stops only
          </button>
          <button type="button" className="btn btn-ghost btn-sm w-full" onClick={stop}>
            Forget them
          </button>
        </>
      )}
      {(card.endStops.low !== null || card.endStops.high !== null) && (
        <p className="caption">
          On the card: {formatNumber(card.endStops.low ?? Number.NaN, 0)} to{" "}
          {formatNumber(card.endStops.high ?? Number.NaN, 0)} {unit}.
        </p>
      )}
    </section>
  );
}

interface AnswerProps {
  readonly words: string;
  readonly letter: string;
  readonly onAnswer: () => void;
}

const Answer = ({ words, letter, onAnswer }: AnswerProps) => (
  <button type="button" className="btn btn-outline btn-sm flex-nowrap px-1" onClick={onAnswer}>
    {words} <kbd>{letter}</kbd>
  </button>
);
