import {
  beginStopSearch,
  longestPressMs,
  retreatOf,
  type Seen,
  type StopSearch,
  stopFineness,
  tellStopSearch,
} from "@core/calibrate";
import { allOf, setEndStops, setPointUnit, setWindow } from "@core/project";
import { edit } from "@stores/document";
import { keepDraft, readDraft } from "@stores/draft";
import type { JointBench } from "@stores/jointBench";
import { command } from "@stores/live";
import { notify } from "@stores/notices";
import { useEffect, useState } from "react";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { useIsDriven } from "../parts/useIsHeld";
import { useKeys } from "../parts/useKeys";
import { StopSteps } from "./StopSteps";
import { StopsFound } from "./StopsFound";
import { StopsOnCard } from "./StopsOnCard";

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
  const [pressMs, setPressMs] = useState(longestPressMs);
  const isDriven = useIsDriven(joint);
  const { search } = draft;
  const isSearching = search !== null && search.kind !== "found";
  const centre = (card.window.low + card.window.high) / 2;
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
      settleMs,
      forMs: pressMs,
    });
  useEffect(() => () => command({ kind: "calibrate", jointId: joint.id, isOn: false }), [joint.id]);

  const begin = (way: 1 | -1, found: Pick<StopDraft, "high" | "low">) => {
    const perDeg = card.kind === "continuous" ? 1 : (card.window.high - card.window.low) / Math.max(card.travelDeg, 90);
    const started = beginStopSearch({
      from: centre,
      way,
      bound: way > 0 ? card.window.high : card.window.low,
      coarse: coarseSteps[unit],
      ...stopFineness(card.deadband, maker.step, perDeg),
    });
    if (!started.ok) {
      notify(started.problem, "warning");
      return;
    }
    command({ kind: "hold", jointId: joint.id });
    press(started.value);
    keep({ ...found, search: started.value });
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
  const tell = (seen: Seen) => {
    if (!search || !isSearching || !isDriven) return;
    const next = tellStopSearch(search, seen);
    if (next.kind !== "found") {
      // At once, before anything else is tried: away from the stop. The next step begins there.
      if (seen !== "moved") command({ kind: "setPoint", jointId: joint.id, setPoint: retreatOf(next) });
      press(next);
      keep({ ...draft, search: next });
    } else if (next.way > 0) {
      command({ kind: "setPoint", jointId: joint.id, setPoint: retreatOf(next) });
      begin(-1, { high: next.safe, low: null });
    } else {
      command({ kind: "setPoint", jointId: joint.id, setPoint: centre });
      keep({ search: next, high: draft.high, low: next.safe });
    }
  };
  /** The person's own next step: checked against the window, and never back behind where it begins. */
  const stepTo = (probe: number): string | null => {
    if (!search || !isSearching) return null;
    if (search.way * (probe - search.stand) < search.leastStep)
      return `A step from ${formatNumber(search.stand, 0)} needs at least ${formatNumber(search.leastStep, 0)} ${unit} outward.`;
    if (search.way * (probe - search.bound) > 0)
      return `The window ends at ${formatNumber(search.bound, 0)} ${unit}. It is widened under Limits.`;
    const next = { ...search, probe };
    press(next);
    keep({ ...draft, search: next });
    return null;
  };
  useKeys({
    b: () => !isSearching && begin(1, nothing),
    j: () => tell("moved"),
    k: () => tell("stopped"),
    l: () => tell("hums"),
    r: again,
  });

  const save = (narrows: boolean) => {
    const { low, high } = draft;
    if (low === null || high === null) return;
    const margin = Math.max(card.deadband, maker.step);
    const stops = setEndStops(card.id, low, high);
    const inside = setWindow(card.id, low + margin, high - margin);
    if (!edit(narrows ? allOf("Save end stops", [stops, inside]) : stops)) return;
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
          <button type="button" className="btn btn-primary btn-sm w-full" onClick={() => begin(1, nothing)}>
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
          onStepTo={stepTo}
          onGoOn={goOn}
          onStop={stop}
        />
      )}
      {search?.kind === "found" && draft.low !== null && draft.high !== null && (
        <StopsFound bench={bench} low={draft.low} high={draft.high} onSave={save} onForget={stop} />
      )}
      <StopsOnCard bench={bench} />
    </section>
  );
}
