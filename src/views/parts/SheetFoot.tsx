interface SheetFootProps {
  readonly onDone: () => void;
  /** What takes the thing away that the sheet is about, in words. */
  readonly removeWords: string;
  readonly onRemove: () => void;
}

/** The foot of a sheet about one thing: done with it, or away with it. Both can be undone. */
export function SheetFoot({ onDone, removeWords, onRemove }: SheetFootProps) {
  return (
    <div className="flex gap-2">
      <button type="button" className="btn btn-primary btn-sm" onClick={onDone}>
        Done
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-sm ml-auto text-error"
        onClick={() => {
          onRemove();
          onDone();
        }}
      >
        {removeWords}
      </button>
    </div>
  );
}
