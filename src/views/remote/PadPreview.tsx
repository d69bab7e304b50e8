import type { PadBook } from "@core/pads";
import type { BenchState } from "@core/remote";
import { projectNow } from "@stores/document";
import { liveHead, liveJoint, liveSource, onLive, pace } from "@stores/live";
import { remotePlace, remoteStore } from "@stores/remote";
import { type MouseEvent, useMemo } from "react";
import { useStore } from "zustand";
import { DeskContext, type PadDesk } from "../pads/desk";
import { PadFace } from "../pads/PadFace";

interface PadPreviewProps {
  readonly book: PadBook;
  readonly padId: string;
  readonly isLying: boolean;
}

/** A pad as a phone shows it, as often as that is told, living with the bench. A click chooses a control to be changed; nothing moves by it. */
export function PadPreview({ book, padId, isLying }: PadPreviewProps) {
  const chosenId = useStore(remotePlace, (view) => view.controlId);
  const desk = useMemo<PadDesk>(() => {
    // Many controls ask at the same moment: it is put together once.
    let said: BenchState | null = null;
    let saidMs = Number.NEGATIVE_INFINITY;
    const state = () => {
      if (!said || performance.now() - saidMs > pace.overview / 2) {
        said = stateOf(book);
        saidMs = performance.now();
      }
      return said;
    };
    return {
      book,
      deviceId: null,
      put: () => {},
      lift: () => {},
      thumbOn: () => null,
      state,
      onState: (listener) => onLive(listener, pace.overview),
      mayUse: () => true,
    };
  }, [book]);
  const pad = book.pads.find(({ id }) => id === padId);
  if (!pad) return null;
  const choose = (event: MouseEvent<HTMLElement>) => {
    // What is inert is not met by a pointer: it is looked for by its place.
    const fields = [...event.currentTarget.querySelectorAll("[data-control]")];
    const field = fields.find((one) => {
      const { left, right, top, bottom } = one.getBoundingClientRect();
      return event.clientX >= left && event.clientX <= right && event.clientY >= top && event.clientY <= bottom;
    });
    if (field) remotePlace.setState({ controlId: field.getAttribute("data-control") });
  };
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: what is chosen here is chosen in the list as well, by keys.
    // biome-ignore lint/a11y/noStaticElementInteractions: as above.
    <div
      onClick={choose}
      className={`flex shrink-0 flex-col overflow-hidden rounded-[1.2rem] border-4 border-base-content/80 bg-base-100 ${isLying ? "h-[17rem] w-[30rem]" : "h-[29.5rem] w-[17rem]"}`}
    >
      <p className="border-b border-base-300 bg-base-200 px-2 py-0.5 text-[0.8rem] font-semibold">{pad.label}</p>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled with the arrow keys. */}
      <section className="min-h-0 grow overflow-y-auto" aria-label={`How a phone shows ${pad.label}`} tabIndex={0}>
        <div className="h-full" inert>
          {chosenId && (
            <style>{`[data-control="${CSS.escape(chosenId)}"]{outline:3px solid var(--color-secondary)}`}</style>
          )}
          <DeskContext value={desk}>
            <PadFace pad={pad} columns={isLying ? 8 : 4} />
          </DeskContext>
        </div>
      </section>
      <p className="bg-error py-1.5 text-center text-sm font-bold text-error-content">Release all</p>
    </div>
  );
}

/** How the bench stands, as a pad is told of it. */
function stateOf(book: PadBook): BenchState {
  const { sources, routines } = projectNow();
  const orNull = (value: number) => (Number.isFinite(value) ? value : null);
  return {
    revision: 0,
    joints: book.joints.map(({ id }) => {
      const isHeld = liveJoint(id, "isHeld") === 1;
      return {
        target: isHeld ? orNull(liveJoint(id, "target")) : null,
        actual: orNull(liveJoint(id, "actual")),
        isHeld,
      };
    }),
    sources: book.sources.map(({ id }) => {
      const range = sources.find((one) => one.id === id)?.range;
      return range ? orNull((liveSource(id) - range.low) / (range.high - range.low)) : null;
    }),
    touches: [...remoteStore.getState().touches],
    playing: routines[liveHead("routineIndex")]?.id ?? null,
  };
}
