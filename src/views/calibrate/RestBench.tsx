import {
  onGrid,
  type RestAnswer,
  type RestAsk,
  type RestSearch,
  restOf,
  restSearchAfter,
  settleAtLeastMs,
  type Turning,
} from "@core/calibrate";
import { addCalibration, setAtRest } from "@core/project";
import { type ContinuousCard, spinKnown } from "@core/servo";
import { edit, newId } from "@stores/document";
import { keepDraft, readDraft } from "@stores/draft";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint, useLive } from "@stores/live";
import { notify } from "@stores/notices";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { formatNumber } from "../parts/format";
import { useIsDriven } from "../parts/useIsHeld";
import { useKeys } from "../parts/useKeys";
import { Answer } from "./Answer";
import { CreepWatch } from "./CreepWatch";
import { SetPointJog } from "./SetPointJog";
import { SetPointWords } from "./SetPointWords";

interface RestBenchProps {
  readonly bench: JointBench;
  readonly card: ContinuousCard;
}

/** A search and the answers to it; kept through a reload. */
interface RestDraft {
  readonly ask: RestAsk;
  readonly answers: readonly RestAnswer[];
}
function searchOf({ ask, answers }: RestDraft): RestSearch | null {
  const search = restSearchAfter(ask, answers);
  return search.ok ? search.value : null;
}
const looking: Record<RestSearch["kind"], string> = {
  turning: "Does it turn both ways?",
  between: "Looking for its rest",
  again: "Once more, to be sure",
  upper: "Upper edge",
  lower: "Lower edge",
  found: "",
  none: "",
};

/** Where a continuous servo rests: both edges of its deadband by one key for each answer; neutral is their middle. */
export function RestBench({ bench, card }: RestBenchProps) {
  const { joint, maker, board } = bench;
  const place = `rest.3.${card.id}`;
  const [draft, setDraft] = useState<RestDraft | null>(() => readDraft<RestDraft>(place));
  const isHeld = useIsDriven(joint);
  /** After a reload, and when it was released and is held again by other means, nothing has sent it to where it is to be looked at. */
  const [isShown, setIsShown] = useState(false);
  useEffect(() => {
    if (!isHeld) setIsShown(false);
  }, [isHeld]);
  const isDriven = isHeld && isShown;
  const search = useMemo(() => draft && searchOf(draft), [draft]);
  const probe = search?.probe ?? Number.NaN;
  // A joint's ramp takes its time: until it is there, it does what it did before.
  const isThere = useLive(
    useCallback(
      () => Math.abs(liveJoint(joint.id, "setPoint") - probe) <= maker.step / 2 + 0.01,
      [joint.id, probe, maker],
    ),
  );
  const isOver = search?.kind === "found" || search?.kind === "none";
  const isSearching = search !== null && !isOver;
  const rest = search && restOf(search);
  const known = spinKnown(card);
  /** What was sent last may be where it stands already: a key that bounced is no second look at it. */
  const sentAtMs = useRef(Number.NEGATIVE_INFINITY);
  const [isFresh, setIsFresh] = useState(false);
  const send = (setPoint: number) => {
    command({ kind: "setPoint", jointId: joint.id, setPoint });
    sentAtMs.current = performance.now();
    setIsFresh(true);
    setIsShown(true);
  };
  useEffect(() => {
    if (!isFresh) return;
    const timer = setTimeout(() => setIsFresh(false), settleAtLeastMs);
    return () => clearTimeout(timer);
  }, [isFresh]);
  /** The last answer did not fit those before it: the servo stands at its neutral, and no answer counts before it is looked at again. */
  const [isRefused, setIsRefused] = useState(false);
  const keep = (next: RestDraft | null) => {
    setIsRefused(false);
    setDraft(next);
    keepDraft(place, next);
  };
  const show = (next: RestSearch) => {
    command({ kind: "hold", jointId: joint.id });
    command({ kind: "calibrate", jointId: joint.id, isOn: true });
    send(next.probe);
  };
  useEffect(() => () => command({ kind: "calibrate", jointId: joint.id, isOn: false }), [joint.id]);

  const begin = () => {
    const grid = { origin: maker.toSetPoint(0), step: Math.max(maker.step, 0.1) };
    const ask = { begin: known.neutral, low: card.window.low, high: card.window.high, grid };
    const next = { ask, answers: [] };
    const first = searchOf(next);
    // What was shown before puts the limits back as it goes: it must be gone before they are opened.
    flushSync(() => keep(next));
    if (first) show(first);
  };
  const tell = (seen: Turning) => {
    if (!draft || !isSearching || !isDriven || !isThere || isRefused) return;
    if (performance.now() - sentAtMs.current < settleAtLeastMs) return;
    const answers = [...draft.answers, { probe: search.probe, seen }];
    const next = restSearchAfter(draft.ask, answers);
    if (!next.ok) {
      notify(next.problem, "warning");
      setIsRefused(true);
      send(onGrid(draft.ask.grid, known.neutral));
      return;
    }
    send(restOf(next.value)?.neutral ?? next.value.probe);
    keep({ ...draft, answers });
  };
  /** The last answer was a slip: what it was given to is sent again. */
  const takeBack = () => {
    if (!draft || !isDriven) return;
    if (isRefused && search) {
      // The one that was refused is the last one: it is looked at again.
      send(search.probe);
      setIsRefused(false);
      return;
    }
    if (draft.answers.length === 0) return;
    const before = { ...draft, answers: draft.answers.slice(0, -1) };
    const shown = searchOf(before);
    if (shown) send(shown.probe);
    keep(before);
  };
  useKeys({
    b: () => !isSearching && begin(),
    j: () => tell("clockwise"),
    k: () => tell("rests"),
    l: () => tell("counter"),
    z: takeBack,
  });

  const saveRest = () => {
    if (!rest) return;
    save(rest.neutral, { low: rest.low, high: rest.high }, rest.plusMinus);
    keep(null);
  };
  const save = (neutral: number, edges: { low: number; high: number } | null, restPlusMinus?: number) => {
    const { restPlusMinus: _, ...before } = known;
    const made = {
      ...before,
      id: newId(),
      madeAt: new Date().toISOString(),
      neutral,
      rest: edges,
      creepDegPerS: null,
      ...(restPlusMinus !== undefined && { restPlusMinus }),
    };
    if (edit(addCalibration(card.id, made))) notify(`${joint.label} now rests at ${formatNumber(neutral, 1)} µs.`);
  };
  const saveHere = () => {
    const neutral = liveJoint(joint.id, "setPoint");
    if (Number.isFinite(neutral)) save(neutral, null);
    else notify("Nothing is being sent. Hold the joint first (H).", "warning");
  };

  return (
    <section className="sheet space-y-3 p-3" aria-label="Neutral">
      {search === null && (
        <>
          <p className="text-sm">
            A continuous servo rests between two pulses, and turns one way above them and the other way below. Say for
            each pulse what it does; both edges are homed in on, and neutral is their middle. Humming without turning is
            rest.
          </p>
          <button type="button" className="btn btn-primary btn-sm w-full" onClick={begin}>
            Find where it rests <kbd>B</kbd>
          </button>
        </>
      )}
      {isSearching && (
        <>
          <p className="heading" role="status">
            {looking[search.kind]}, answer {search.steps + 1}:{" "}
            {!isDriven
              ? "interrupted, the servo is safe."
              : isRefused
                ? "that does not fit what was seen before. Z looks again, and Z once more at the one before."
                : isThere && !isFresh
                  ? "what does it do?"
                  : "on its way…"}
          </p>
          <p data-readout="rest">
            <SetPointWords bench={bench} value={search.probe} />
          </p>
          {isDriven ? (
            <div className="grid grid-cols-3 gap-2">
              <Answer words="Turns ↻" letter="J" onAnswer={() => tell("clockwise")} />
              <Answer words="It rests" letter="K" onAnswer={() => tell("rests")} />
              <Answer words="Turns ↺" letter="L" onAnswer={() => tell("counter")} />
              <button
                type="button"
                className="btn btn-ghost btn-sm col-span-2"
                disabled={search.steps === 0 && !isRefused}
                onClick={takeBack}
              >
                Take the last one back <kbd>Z</kbd>
              </button>
              <button type="button" className="btn btn-ghost btn-sm" onClick={() => keep(null)}>
                Give up
              </button>
            </div>
          ) : (
            <button type="button" className="btn btn-primary btn-sm w-full" onClick={() => show(search)}>
              Hold it and go on
            </button>
          )}
          <p className="caption">
            {search.kind === "again" &&
              "Asked again: not all answers can be right, or an edge hangs on this one alone. "}
            Give it a second at each: near the edge it turns slowly. Esc releases it.
          </p>
        </>
      )}
      {rest && (
        <>
          <p className="heading" role="status">
            It rests from {formatNumber(rest.low, 1)} to {formatNumber(rest.high, 1)} µs{" "}
            <small className="number">± {formatNumber(rest.plusMinus, 1)}</small>
          </p>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4" data-readout="rest">
            <dt className="caption">neutral</dt>
            <dd>
              <SetPointWords bench={bench} value={rest.neutral} />
            </dd>
            <dt className="caption">the board makes</dt>
            <dd>
              <BoardAtRest bench={bench} rest={rest} />
            </dd>
          </dl>
          <button type="button" className="btn btn-primary btn-sm w-full" onClick={saveRest}>
            Save on the card
          </button>
          <button type="button" className="btn btn-ghost btn-sm w-full" onClick={() => keep(null)}>
            Forget it
          </button>
        </>
      )}
      {search?.kind === "none" && (
        <>
          <p className="heading" role="status">
            {board.label} can make no rest
          </p>
          <p className="text-sm" data-readout="rest">
            It turns one way at {formatNumber(search.turnLow, 1)} µs and the other way at{" "}
            {formatNumber(search.turnHigh, 1)} µs, and this board makes nothing in between. Release it where it is to
            rest, or drive it from a finer board.
          </p>
          <button
            type="button"
            className="btn btn-primary btn-sm w-full"
            onClick={() => {
              save((search.turnLow + search.turnHigh) / 2, null);
              keep(null);
            }}
          >
            Save the middle as neutral
          </button>
          <button type="button" className="btn btn-ghost btn-sm w-full" onClick={() => keep(null)}>
            Forget it
          </button>
        </>
      )}
      {search === null && (
        <>
          <details>
            <summary className="caption cursor-pointer">Or jog to it by hand</summary>
            <div className="mt-2 space-y-2">
              <SetPointJog bench={bench} />
              <button type="button" className="btn btn-outline btn-sm w-full" onClick={saveHere}>
                It rests here: save as neutral
              </button>
            </div>
          </details>
          <CreepWatch bench={bench} card={card} />
          {joint.axis.kind === "spin" && (
            <fieldset className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-base-300 pt-2 text-sm">
              <legend className="caption float-left mr-3">At a spin of 0 it gets</legend>
              {(["neutral", "release"] as const).map((atRest) => (
                <label key={atRest} className="flex cursor-pointer items-center gap-1.5">
                  <input
                    type="radio"
                    name="at-rest"
                    className="radio radio-xs"
                    checked={joint.axis.kind === "spin" && joint.axis.atRest === atRest}
                    onChange={() => edit(setAtRest(joint.id, atRest))}
                  />
                  {atRest === "neutral" ? "its neutral pulse" : "no signal: it cannot creep"}
                </label>
              ))}
            </fieldset>
          )}
        </>
      )}
    </section>
  );
}

/** What the board's rounding makes of neutral, and whether that still rests. */
function BoardAtRest({
  bench,
  rest,
}: {
  readonly bench: JointBench;
  readonly rest: NonNullable<ReturnType<typeof restOf>>;
}) {
  const { maker, board } = bench;
  const made = maker.toSetPoint(maker.toCount(rest.neutral));
  const room = Math.min(made - rest.low, rest.high - made);
  return (
    <span className="number">
      {formatNumber(made, 1)} µs:{" "}
      {room > 0
        ? `${formatNumber(room, 1)} µs inside its rest`
        : `outside its rest. ${board.label} cannot make its neutral: it will creep`}
    </span>
  );
}
