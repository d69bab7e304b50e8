import {
  type FoundStop,
  longestPressMs,
  onGrid,
  retreatOf,
  type Seen,
  type StopAnswer,
  type StopAsk,
  type StopSearch,
  settleMsOf,
  stopForCard,
  stopOf,
  stopSearchAfter,
  windowInside,
} from "@core/calibrate";
import { pressing } from "@core/engine";
import { allOf, setEndStops, setPointUnit, setWindow } from "@core/project";
import { ratedSpeedDegPerS } from "@core/servo";
import { edit } from "@stores/document";
import { keepDraft, readDraft } from "@stores/draft";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint } from "@stores/live";
import { notify } from "@stores/notices";
import { useEffect, useMemo, useState } from "react";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { useIsDriven } from "../parts/useIsHeld";
import { useKeys } from "../parts/useKeys";
import { StopSteps } from "./StopSteps";
import { StopsFound } from "./StopsFound";
import { StopsOnCard } from "./StopsOnCard";

/** Both searches, one after the other, upper first; kept through a reload. Each is its beginning and the answers to it. */
interface StopDraft {
  readonly ask: StopAsk | null;
  readonly answers: readonly StopAnswer[];
  readonly high: FoundStop | null;
  readonly low: FoundStop | null;
  /** Where the next step goes, if a person chose that. */
  readonly ownProbe?: number;
}
const nothing: StopDraft = { ask: null, answers: [], high: null, low: null };
const coarseSteps = { µs: 50, ticks: 50 } as const;

/** Finding both end stops by keyboard: outward from the centre, one key for what the horn did. */
export function EndStopBench({ bench }: { readonly bench: JointBench }) {
  const { joint, card, maker, map } = bench;
  const unit = setPointUnit(card);
  const place = `stops.2.${card.id}`;
  const [draft, setDraft] = useState<StopDraft>(() => readDraft<StopDraft>(place) ?? nothing);
  const [pressMs, setPressMs] = useState(longestPressMs);
  const isDriven = useIsDriven(joint);
  const search = useMemo(() => searchOf(draft), [draft]);
  const isSearching = search !== null && search.kind !== "found" && search.kind !== "dead";
  const grid = { origin: maker.toSetPoint(0), step: maker.step };
  const perDeg = card.kind === "continuous" ? 1 : (card.window.high - card.window.low) / Math.max(card.travelDeg, 90);
  const centre = onGrid(grid, (card.window.low + card.window.high) / 2);
  const keep = (next: StopDraft) => {
    setDraft(next);
    keepDraft(place, next);
  };
  /** One step, of which the engine keeps the time: it stands back by itself, whatever becomes of this page. */
  const press = (next: StopSearch) =>
    command({
      kind: "press",
      jointId: joint.id,
      from: next.stand,
      to: next.probe,
      backTo: retreatOf(next),
      settleMs: settleMsOf(
        next,
        perDeg,
        Math.min(map.targetUnit === "°" ? map.fastestPerS : Number.POSITIVE_INFINITY, ratedSpeedDegPerS(card)),
      ),
      forMs: pressMs,
    });
  useEffect(() => () => command({ kind: "calibrate", jointId: joint.id, isOn: false }), [joint.id]);

  const begin = (way: 1 | -1, high: FoundStop | null, noticed?: number) => {
    const bound = way > 0 ? card.window.high : card.window.low;
    const coarse = coarseSteps[unit];
    const ask = {
      from: centre,
      way,
      bound,
      grid,
      deadband: card.deadband,
      perDeg,
      coarse,
      ...(noticed && { noticed }),
    };
    const started = stopSearchAfter(ask, []);
    if (!started.ok) {
      notify(started.problem, "warning");
      return;
    }
    command({ kind: "hold", jointId: joint.id });
    press(started.value);
    keep({ ask, answers: [], high, low: null });
  };
  const again = () => {
    if (search && isSearching && isDriven) press(search);
  };
  /** After an interruption: hold, and show the same step again. It begins from the safe side. */
  const goOn = () => {
    if (!search) return;
    command({ kind: "hold", jointId: joint.id });
    press(search);
  };
  const sendBack = (setPoint: number) => command({ kind: "setPoint", jointId: joint.id, setPoint });
  const tell = (seen: Seen) => {
    if (!search || !isSearching || !isDriven) return;
    // Before the step has begun, nothing that the horn does is an answer to it.
    if (liveJoint(joint.id, "pressing") === pressing.standing) return;
    const { ownProbe: _, ...rest } = draft;
    const told: StopDraft = { ...rest, answers: [...draft.answers, { probe: search.probe, seen }] };
    const next = searchOf(told);
    if (!next) return;
    const stop = stopOf(next);
    // At once, before anything else is tried: away from the stop. The next step begins there.
    if (seen !== "moved" || stop) sendBack(retreatOf(next));
    if (next.kind === "dead") {
      sendBack(centre);
      keep(told);
    } else if (!stop) {
      press(next);
      keep(told);
    } else if (next.way > 0) begin(-1, stop, next.leastStep);
    else {
      sendBack(centre);
      keep({ ...told, low: stop });
    }
  };
  /** The last answer was a slip: the step is shown again. */
  const takeBack = () => {
    if (draft.answers.length === 0 || !isDriven) return;
    const { ownProbe: _, ...rest } = draft;
    const before: StopDraft = { ...rest, answers: draft.answers.slice(0, -1), low: null };
    const shown = searchOf(before);
    if (shown) press(shown);
    keep(before);
  };
  /** The person's own next step: checked against the window, and never back behind where it begins. */
  const stepTo = (asked: number): string | null => {
    if (!search || !isSearching) return null;
    const probe = onGrid(grid, asked);
    if (search.way * (probe - search.stand) < search.leastStep)
      return `A step from ${formatNumber(search.stand, 0)} needs at least ${formatNumber(search.leastStep, 0)} ${unit} outward.`;
    if (search.way * (probe - search.bound) > 0)
      return `The window ends at ${formatNumber(search.bound, 0)} ${unit}. It is widened under Limits.`;
    press({ ...search, probe });
    keep({ ...draft, ownProbe: probe });
    return null;
  };
  useKeys({
    b: () => !isSearching && begin(1, null),
    j: () => tell("moved"),
    k: () => tell("stopped"),
    l: () => tell("hums"),
    r: again,
    z: takeBack,
  });

  const save = (narrows: boolean) => {
    const { low, high } = draft;
    if (!low || !high) return;
    const inside = windowInside(low, high, Math.max(card.deadband, maker.step), card.window);
    const stops = setEndStops(card.id, stopForCard(low), stopForCard(high), {
      low: low.plusMinus,
      high: high.plusMinus,
    });
    const edits = narrows ? allOf("Save end stops", [stops, setWindow(card.id, inside.low, inside.high)]) : stops;
    if (!edit(edits)) return;
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
            From the centre outward, within {formatNumber(card.window.low, 0)} to {formatNumber(card.window.high, 0)}{" "}
            {unit}. After each step you say what the horn did; at a stop it backs off by itself and homes in.
          </p>
          <button type="button" className="btn btn-primary btn-sm w-full" onClick={() => begin(1, null)}>
            Find the end stops <kbd>B</kbd>
          </button>
          <QuantityField
            label="A step presses for at most"
            value={pressMs}
            unit="ms"
            decimals={0}
            units={{ ms: 1, s: 1000 }}
            onCommit={(ms) => {
              if (ms < 400 || ms > 2000) return "From 0.4 s, or nothing is seen, to 2 s, or it may strip.";
              setPressMs(ms);
              return null;
            }}
          />
        </>
      )}
      {isSearching && (
        <StopSteps
          bench={bench}
          search={search}
          isDriven={isDriven}
          pressMs={pressMs}
          onTell={tell}
          onAgain={again}
          onTakeBack={draft.answers.length > 0 ? takeBack : null}
          onStepTo={stepTo}
          onGoOn={goOn}
          onStop={stop}
        />
      )}
      {search?.kind === "dead" && (
        <>
          <p className="heading" role="status">
            It was not seen to move
          </p>
          <p className="text-sm">
            Not even by {formatNumber(search.leastStep, 0)} {unit}: nothing was found, and nothing is kept. Is its
            supply on, its signal on this channel, and nothing in its way?
          </p>
          <div className="flex gap-2">
            <button type="button" className="btn btn-primary btn-sm grow" onClick={() => begin(1, null)}>
              Begin again
            </button>
            <button type="button" className="btn btn-outline btn-sm" onClick={takeBack}>
              Take the last answer back
            </button>
            <button type="button" className="btn btn-ghost btn-sm" onClick={stop}>
              Give up
            </button>
          </div>
        </>
      )}
      {draft.low && draft.high && (
        <StopsFound bench={bench} low={draft.low} high={draft.high} onSave={save} onForget={stop} />
      )}
      <StopsOnCard bench={bench} />
    </section>
  );
}

/** The search as it stands after the answers; null while none was begun. */
function searchOf({ ask, answers, ownProbe }: StopDraft): StopSearch | null {
  const search = ask && stopSearchAfter(ask, answers);
  if (!search?.ok) return null;
  return ownProbe === undefined ? search.value : { ...search.value, probe: ownProbe };
}
