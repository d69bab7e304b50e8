import {
  longestPressMs,
  markStep,
  onGrid,
  retreatOf,
  type Seen,
  type StopsAnswer,
  type StopsAsk,
  type StopsStage,
  settleAtLeastMs,
  settleMsOf,
  stopForCard,
  stopsAfter,
  windowInside,
  windowMargin,
} from "@core/calibrate";
import { pressing } from "@core/engine";
import { allOf, setEndStops, setPointUnit, setWindow } from "@core/project";
import { ratedSpeedDegPerS } from "@core/servo";
import { edit } from "@stores/document";
import { keepDraft, readDraft } from "@stores/draft";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint } from "@stores/live";
import { notify } from "@stores/notices";
import { useEffect, useMemo, useRef, useState } from "react";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { useIsDriven } from "../parts/useIsHeld";
import { useKeys } from "../parts/useKeys";
import { HornMark } from "./HornMark";
import { StopSteps } from "./StopSteps";
import { StopsEnded } from "./StopsEnded";
import { StopsFound } from "./StopsFound";
import { StopsOnCard } from "./StopsOnCard";

/** What was asked and all that was answered; kept through a reload. */
interface StopsDraft {
  readonly ask: StopsAsk;
  readonly answers: readonly StopsAnswer[];
  /** Where the next step goes, if a person chose that. */
  readonly ownProbe?: number;
}
const coarseSteps = { µs: 50, ticks: 50 } as const;
/** Time to stand still below the middle, before the horn comes to its mark. */
const markSettleMs = 350;

/** Finding both end stops by keyboard: outward from the centre, one key for what the horn did. */
export function EndStopBench({ bench }: { readonly bench: JointBench }) {
  const { joint, card, maker, map } = bench;
  const unit = setPointUnit(card);
  const place = `stops.4.${card.id}`;
  const [draft, setDraft] = useState<StopsDraft | null>(() => readDraft<StopsDraft>(place));
  const [pressMs, setPressMs] = useState(longestPressMs);
  const isDriven = useIsDriven(joint);
  const shownAtMs = useRef(0);
  const stage = useMemo(() => draft && stageOf(draft), [draft]);
  const search = stage?.kind === "search" ? stage.search : null;
  const isGoing = search !== null || stage?.kind === "mark" || stage?.kind === "look";
  const grid = { origin: maker.toSetPoint(0), step: maker.step };
  const perDeg = card.kind === "continuous" ? 1 : (card.window.high - card.window.low) / Math.max(card.travelDeg, 90);
  const centre = onGrid(grid, (card.window.low + card.window.high) / 2);
  const keep = (next: StopsDraft | null) => {
    setDraft(next);
    keepDraft(place, next);
  };
  /** One step, of which the engine keeps the time: it stands back by itself, whatever becomes of this page. */
  const press = (from: number, to: number, backTo: number, settleMs: number) => {
    shownAtMs.current = performance.now();
    command({ kind: "press", jointId: joint.id, from, to, backTo, settleMs, forMs: pressMs });
  };
  const degPerS = Math.min(
    map.targetUnit === "°" ? map.fastestPerS : Number.POSITIVE_INFINITY,
    ratedSpeedDegPerS(card),
  );
  const show = (shown: StopsStage, ask: StopsAsk) => {
    if (shown.kind === "search")
      press(shown.search.stand, shown.search.probe, retreatOf(shown.search), settleMsOf(shown.search, perDeg, degPerS));
    else if (shown.kind === "mark" || shown.kind === "look") {
      const { stand, probe } = markStep(ask);
      press(stand, probe, probe, markSettleMs);
    } else sendBack(centre);
  };
  useEffect(() => () => command({ kind: "calibrate", jointId: joint.id, isOn: false }), [joint.id]);

  const begin = () => {
    const ask = { centre, window: card.window, grid, deadband: card.deadband, perDeg, coarse: coarseSteps[unit] };
    const refusal = whyRefused(ask);
    if (refusal) {
      notify(refusal, "warning");
      return;
    }
    command({ kind: "hold", jointId: joint.id });
    show({ kind: "mark" }, ask);
    keep({ ask, answers: [] });
  };
  const again = () => {
    if (draft && stage && isGoing && isDriven) show(stage, draft.ask);
  };
  /** After an interruption: hold, and show the same step again. It begins from the safe side. */
  const goOn = () => {
    if (!draft || !stage) return;
    command({ kind: "hold", jointId: joint.id });
    show(stage, draft.ask);
  };
  const sendBack = (setPoint: number) => command({ kind: "setPoint", jointId: joint.id, setPoint });
  const tell = (answer: StopsAnswer) => {
    if (!draft || !isGoing || !isDriven) return;
    // Before the step has begun, nothing that the horn does is an answer to it, nor is the second press of a key that bounced.
    if (performance.now() - shownAtMs.current < settleAtLeastMs) return;
    if (liveJoint(joint.id, "pressing") === pressing.standing) return;
    const told: StopsDraft = { ask: draft.ask, answers: [...draft.answers, answer] };
    const next = stageOf(told);
    // At once, before anything else is tried: away from the stop. The next step begins there.
    if (answer.kind === "step" && answer.seen !== "moved" && next.kind === "search") sendBack(retreatOf(next.search));
    show(next, draft.ask);
    keep(told);
  };
  const tellSeen = (seen: Seen) => search && tell({ kind: "step", probe: search.probe, seen });
  const tellLook = (isAtMark: boolean) => stage?.kind === "look" && tell({ kind: "look", isAtMark });
  /** The last answer was a slip: what it was given to is shown again. */
  const takeBack = () => {
    if (!draft || draft.answers.length < 1 || !isDriven) return;
    const before: StopsDraft = { ask: draft.ask, answers: draft.answers.slice(0, -1) };
    show(stageOf(before), before.ask);
    keep(before);
  };
  /** The person's own next step: checked against the window, and never back behind where it begins. */
  const stepTo = (asked: number): string | null => {
    if (!draft || !search) return null;
    const probe = onGrid(grid, asked);
    if (search.way * (probe - search.stand) < search.leastStep)
      return `A step from ${formatNumber(search.stand, 0)} needs at least ${formatNumber(search.leastStep, 0)} ${unit} outward.`;
    if (search.way * (probe - search.bound) > 0)
      return `The window ends at ${formatNumber(search.bound, 0)} ${unit}. It is widened under Limits.`;
    show({ kind: "search", search: { ...search, probe } }, draft.ask);
    keep({ ...draft, ownProbe: probe });
    return null;
  };
  useKeys({
    b: () => !isGoing && begin(),
    j: () => {
      if (stage?.kind === "mark") tell({ kind: "marked" });
      else if (search) tellSeen("moved");
      else tellLook(true);
    },
    k: () => (search ? tellSeen("stopped") : tellLook(false)),
    l: () => tellSeen("hums"),
    r: again,
    z: takeBack,
  });

  const save = (narrows: boolean) => {
    if (stage?.kind !== "found") return;
    const { low, high } = stage;
    const inside = windowInside(low, high, windowMargin(card.deadband, grid, perDeg), card.window);
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
    keep(null);
    command({ kind: "calibrate", jointId: joint.id, isOn: false });
  };

  const ended = endingOf(stage, unit);
  return (
    <section className="sheet space-y-3 p-3" aria-label="End stops">
      {stage === null && (
        <>
          <p className="text-sm">
            From the centre outward, within {formatNumber(card.window.low, 0)} to {formatNumber(card.window.high, 0)}{" "}
            {unit}. After each step you say what the horn did; at a stop it backs off by itself and homes in.
          </p>
          <button type="button" className="btn btn-primary btn-sm w-full" onClick={begin}>
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
      {stage?.kind === "search" && (
        <StopSteps
          bench={bench}
          search={stage.search}
          isDriven={isDriven}
          pressMs={pressMs}
          onTell={tellSeen}
          onAgain={again}
          onTakeBack={takeBack}
          onStepTo={stepTo}
          onGoOn={goOn}
          onStop={stop}
        />
      )}
      {(stage?.kind === "mark" || stage?.kind === "look") && (
        <HornMark
          isMarked={stage.kind === "look"}
          isDriven={isDriven}
          onMarked={() => tell({ kind: "marked" })}
          onLook={tellLook}
          onAgain={again}
          onTakeBack={takeBack}
          onGoOn={goOn}
          onStop={stop}
        />
      )}
      {ended && <StopsEnded {...ended} onBegin={begin} onTakeBack={isDriven ? takeBack : null} onStop={stop} />}
      {stage?.kind === "found" && (
        <StopsFound bench={bench} low={stage.low} high={stage.high} onSave={save} onForget={stop} />
      )}
      <StopsOnCard bench={bench} />
    </section>
  );
}

/** Where the finding stands after the answers, with the next step that the person chose. */
function stageOf({ ask, answers, ownProbe }: StopsDraft): StopsStage {
  const stage = stopsAfter(ask, answers);
  if (stage.kind !== "search" || ownProbe === undefined) return stage;
  return { kind: "search", search: { ...stage.search, probe: ownProbe } };
}

/** Why nothing can be searched here; null where it can. */
function whyRefused(ask: StopsAsk): string | null {
  const first = stopsAfter(ask, [{ kind: "marked" }]);
  return first.kind === "refused" ? first.problem : null;
}

/** What a search that ended with nothing found says; null for one that goes on, or has found. */
function endingOf(stage: StopsStage | null, unit: string): { readonly heading: string; readonly words: string } | null {
  if (stage?.kind === "dead")
    return {
      heading: "It was not seen to move",
      words: `Not even by ${formatNumber(stage.search.leastStep, 0)} ${unit}: nothing was found, and nothing is kept. Is its supply on, its signal on this channel, and nothing in its way?`,
    };
  if (stage?.kind === "slipped")
    return {
      heading: "The horn has slipped",
      words:
        "It no longer points at its mark, so what was found of its stops is not true any more, and nothing is kept. Tighten the horn's screw, or see what else gave way; then begin again.",
    };
  return stage?.kind === "refused" ? { heading: "There is no room to search", words: stage.problem } : null;
}
