import { type ReactNode, type SyntheticEvent, useEffect, useRef } from "react";
import { Notices } from "./Notices";
import { ReleaseAll } from "./ReleaseAll";

interface SheetProps {
  readonly label: string;
  readonly onClose: () => void;
  readonly isWide?: boolean;
  readonly children: ReactNode;
}

/** A sheet laid over the bench, with the focus on what is marked `data-first` in it. Esc puts it away (and releases everything, as Esc always does). */
export function Sheet({ label, onClose, isWide = false, children }: SheetProps) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const element = dialog.current;
    element?.showModal();
    // Only now: before it is open nothing in it can have the focus, and what it chooses itself may be no field.
    element?.querySelector<HTMLElement>("[data-first]")?.focus();
    return () => element?.close();
  }, []);
  /** At once, with the press of Esc itself: of a dialog that it has closed the browser tells a moment later, and a key in between would be lost. */
  const putAway = (event: SyntheticEvent<HTMLDialogElement>) => {
    // A file that was not chosen is also called off, and the sheet stays.
    if (event.target !== event.currentTarget) return;
    event.currentTarget.close();
    onClose();
  };
  return (
    <dialog ref={dialog} aria-label={label} className="modal" onCancel={putAway} onClose={onClose}>
      <div className={`modal-box shows-more ${isWide ? "max-w-3xl" : "max-w-xl"}`}>{children}</div>
      <form method="dialog" className="modal-backdrop">
        <button type="submit">Close</button>
      </form>
      <Notices at="top" />
      {/* Where it stands on the bench, that cannot be reached while a sheet lies on it. */}
      <ReleaseAll className="btn-sm fixed top-2.5 right-3" />
    </dialog>
  );
}
