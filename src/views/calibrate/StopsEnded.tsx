interface StopsEndedProps {
  readonly heading: string;
  readonly words: string;
  readonly onBegin: () => void;
  readonly onTakeBack: (() => void) | null;
  readonly onStop: () => void;
}

/** A search that ended with nothing found: why, and the ways on. */
export const StopsEnded = ({ heading, words, onBegin, onTakeBack, onStop }: StopsEndedProps) => (
  <>
    <p className="heading" role="status">
      {heading}
    </p>
    <p className="text-sm">{words}</p>
    <div className="flex gap-2">
      <button type="button" className="btn btn-primary btn-sm grow" onClick={onBegin}>
        Begin again
      </button>
      {onTakeBack && (
        <button type="button" className="btn btn-outline btn-sm" onClick={onTakeBack}>
          Take the last answer back
        </button>
      )}
      <button type="button" className="btn btn-ghost btn-sm" onClick={onStop}>
        Give up
      </button>
    </div>
  </>
);
