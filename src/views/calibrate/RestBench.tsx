import { beginRestSearch, type RestSearch, restOf, tellRestSearch } from "@core/calibrate";
import { addCalibration, setAtRest } from "@core/project";
import { type ContinuousCard, spinKnown } from "@core/servo";
import { edit, newId } from "@stores/document";
import { keepDraft, readDraft } from "@stores/draft";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint } from "@stores/live";
import { notify } from "@stores/notices";
import { useEffect, useState } from "react";
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

/** Where a continuous servo rests: both edges of its deadband by one key for each answer; neutral is their middle. */
export function RestBench({ bench, card }: RestBenchProps) {
  const { joint, maker } = bench;
  const place = `rest.${card.id}`;
  const [search, setSearch] = useState<RestSearch | null>(() => readDraft<RestSearch>(place));
  const isDriven = useIsDriven(joint);
  const isSearching = search !== null && search.kind !== "found";
  const rest = search && restOf(search);
  const known = spinKnown(card);
  const send = (setPoint: number) => command({ kind: "setPoint", jointId: joint.id, setPoint });
  const keep = (next: RestSearch | null) => {
    setSearch(next);
    keepDraft(place, next);
  };
  const show = (next: RestSearch) => {
    command({ kind: "hold", jointId: joint.id });
    command({ kind: "calibrate", jointId: joint.id, isOn: true });
    send(next.probe);
  };
  useEffect(() => () => command({ kind: "calibrate", jointId: joint.id, isOn: false }), [joint.id]);

  const begin = () => {
    const next = beginRestSearch({
      begin: known.neutral,
      low: card.window.low,
      high: card.window.high,
      resolution: Math.max(1, maker.step),
    });
    show(next);
    keep(next);
  };
  const tell = (isTurning: boolean) => {
    if (!search || !isSearching || !isDriven) return;
    const next = tellRestSearch(search, isTurning);
    if (!next.ok) {
      notify(next.problem, "warning");
      keep(null);
      send(known.neutral);
      return;
    }
    send(restOf(next.value)?.neutral ?? next.value.probe);
    keep(next.value);
  };
  useKeys({
    b: () => !isSearching && begin(),
    j: () => tell(true),
    k: () => tell(false),
    l: () => tell(false),
  });

  const saveRest = () => {
    if (!rest) return;
    save(rest.neutral, { low: rest.low, high: rest.high });
    keep(null);
  };
  const save = (neutral: number, edges: { low: number; high: number } | null) => {
    const made = { ...known, id: newId(), madeAt: new Date().toISOString(), neutral, rest: edges, creepDegPerS: null };
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
            A continuous servo rests between two pulses. Say for each pulse whether it turns; both edges are homed in
            on, and neutral is their middle.
          </p>
          <button type="button" className="btn btn-primary btn-sm w-full" onClick={begin}>
            Find where it rests <kbd>B</kbd>
          </button>
        </>
      )}
      {isSearching && (
        <>
          <p className="heading" role="status">
            {search.kind === "seeking" ? "Looking for a rest" : search.kind === "upper" ? "Upper edge" : "Lower edge"},
            answer {search.steps + 1}: {isDriven ? "does it turn?" : "interrupted, the servo is safe."}
          </p>
          <p data-readout="rest">
            <SetPointWords bench={bench} value={search.probe} />
          </p>
          {isDriven ? (
            <div className="grid grid-cols-3 gap-2">
              <Answer words="It turns" letter="J" onAnswer={() => tell(true)} />
              <Answer words="It rests" letter="K" onAnswer={() => tell(false)} />
              <Answer words="It only hums" letter="L" onAnswer={() => tell(false)} />
              <button type="button" className="btn btn-ghost btn-sm col-span-3" onClick={() => keep(null)}>
                Give up
              </button>
            </div>
          ) : (
            <button type="button" className="btn btn-primary btn-sm w-full" onClick={() => show(search)}>
              Hold it and go on
            </button>
          )}
          <p className="caption">Give it a second at each: near the edge it turns slowly. Esc releases it.</p>
        </>
      )}
      {rest && (
        <>
          <p className="heading" role="status">
            It rests from {formatNumber(rest.low, 1)} to {formatNumber(rest.high, 1)} µs
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
