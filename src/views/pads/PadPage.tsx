import type { BookedPad } from "@core/pads";
import { mayUse } from "@core/remote";
import {
  knockAgain,
  liftThumb,
  onPadState,
  openPad,
  padState,
  padStore,
  putThumb,
  releaseFromPad,
  thumbOn,
} from "@stores/padLine";
import { useEffect, useMemo, useState, useSyncExternalStore } from "react";
import { useStore } from "zustand";
import { Apart } from "../parts/Guard";
import { useAwake } from "../parts/useAwake";
import { DeskContext, type PadDesk } from "./desk";
import { PadFace } from "./PadFace";
import { PairForm } from "./PairForm";

/** The page of a phone or tablet: one pad of the bench, and a release of everything that is always there. */
export default function PadPage() {
  useEffect(openPad, []);
  useAwake();
  const phase = useStore(padStore, (pad) => pad.phase);
  const sentence = useStore(padStore, (pad) => pad.sentence);
  if (phase === "locked") return <PairForm />;
  if (phase === "out")
    return (
      <div className="grid h-full place-content-center gap-4 p-6 text-center">
        <h1 className="heading text-xl">This pad is out</h1>
        <p>{sentence}</p>
        <button type="button" className="btn btn-primary" onClick={knockAgain}>
          Ask to be let in again
        </button>
      </div>
    );
  return (
    <div className="flex h-full flex-col pb-[env(safe-area-inset-bottom)]">
      <div className="flex min-h-0 grow flex-col">
        <Apart>
          <Working />
        </Apart>
      </div>
      <ReleaseAll />
    </div>
  );
}

function Working() {
  const { phase, book, rights, isBenchThere, name, deviceId, lagMs, sentence } = useStore(padStore);
  const columns = useSyncExternalStore(onTurned, () => (matchMedia("(orientation: landscape)").matches ? 8 : 4));
  const pads = useMemo(
    () => (book?.pads ?? []).filter(({ id }) => rights.padId === null || rights.padId === id),
    [book, rights.padId],
  );
  const [chosen, choose] = useState("");
  const pad: BookedPad | undefined = pads.find(({ id }) => id === chosen) ?? pads[0];
  const desk = useMemo<PadDesk | null>(
    () =>
      book && {
        book,
        deviceId,
        put: putThumb,
        lift: liftThumb,
        thumbOn,
        state: padState,
        onState: onPadState,
        mayUse: (reaches) => mayUse(rights, reaches),
      },
    [book, rights, deviceId],
  );
  const trouble =
    phase !== "open"
      ? "No connection to the bench: trying again…"
      : isBenchThere
        ? null
        : "The bench is not open. Open it on its computer.";
  return (
    <>
      <header className="flex items-center gap-2 border-b border-base-300 bg-base-200 px-2 py-1 text-sm">
        <h1 className="sr-only">Pad of {book?.project ?? "a bench"}</h1>
        {pads.length > 1 ? (
          <select
            className="select select-sm w-auto min-w-0 shrink bg-base-100 text-base"
            aria-label="Pad"
            value={pad?.id ?? ""}
            onChange={(event) => choose(event.target.value)}
          >
            {pads.map(({ id, label }) => (
              <option key={id} value={id}>
                {label}
              </option>
            ))}
          </select>
        ) : (
          <span className="truncate font-semibold">{pad?.label}</span>
        )}
        <span className="ml-auto truncate">{name}</span>
        {rights.isLookOnly && <span className="badge badge-neutral badge-sm shrink-0">look only</span>}
        {Number.isFinite(lagMs) && (
          <span className="number shrink-0" title="from the thumb to the pulse">
            {Math.round(lagMs)} ms
          </span>
        )}
      </header>
      <p
        role="status"
        className={`px-3 text-center text-sm ${trouble || sentence ? "bg-warning py-1.5 text-warning-content" : "h-0"}`}
      >
        {trouble ?? sentence}
      </p>
      <main className="min-h-0 grow overflow-y-auto overscroll-none" inert={trouble !== null}>
        {desk && pad && (
          <DeskContext value={desk}>
            <PadFace pad={pad} columns={columns} />
          </DeskContext>
        )}
        {book && !pad && (
          <p className="p-6 text-center">This bench has no pad yet. Lay one out at its station Remote.</p>
        )}
      </main>
    </>
  );
}

function onTurned(listener: () => void): () => void {
  const query = matchMedia("(orientation: landscape)");
  query.addEventListener("change", listener);
  return () => query.removeEventListener("change", listener);
}

const releaseWords = {
  none: "Release all",
  asked: "Releasing…",
  done: "Everything is released",
  unanswered: "No answer. Switch the supply off!",
} as const;
const releaseShownMs = 4000;

function ReleaseAll() {
  const release = useStore(padStore, (pad) => pad.release);
  useEffect(() => {
    if (release !== "done") return;
    const timer = setTimeout(() => padStore.setState({ release: "none" }), releaseShownMs);
    return () => clearTimeout(timer);
  }, [release]);
  return (
    <button
      type="button"
      className="h-16 w-full shrink-0 touch-none bg-error text-xl font-bold text-error-content active:brightness-90"
      // At the touch itself: nobody waits for a finger to be lifted.
      onPointerDown={releaseFromPad}
      onClick={(event) => event.detail === 0 && releaseFromPad()}
    >
      <span aria-live="assertive">{releaseWords[release]}</span>
    </button>
  );
}
