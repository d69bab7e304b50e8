import { Answer } from "./Answer";

interface HornMarkProps {
  /** Looked at again after a search, beside the mark that was made before it. */
  readonly isMarked: boolean;
  readonly isDriven: boolean;
  readonly onMarked: () => void;
  readonly onLook: (isAtMark: boolean) => void;
  readonly onAgain: () => void;
  readonly onTakeBack: (() => void) | null;
  readonly onGoOn: () => void;
  readonly onStop: () => void;
}

/** Marking where the horn points in the middle, and looking whether it still does. */
export function HornMark(props: HornMarkProps) {
  const { isMarked, isDriven, onMarked, onLook, onAgain, onTakeBack, onGoOn, onStop } = props;
  const heading = isMarked ? "Does the horn point at its mark?" : "Mark where the horn points";
  return (
    <>
      <p className="heading" role="status">
        {isDriven ? heading : `${heading} Interrupted, the servo is safe.`}
      </p>
      <p className="text-sm">
        {isMarked
          ? "It was pressed against a stop, and stands in the middle again."
          : "It stands in the middle. A strip of tape or a pencil line beside its tip will do: a horn that slips on its shaft while it is pressed takes its stops along, and only a mark shows that."}
      </p>
      {isDriven ? (
        <div className="grid grid-cols-3 gap-2">
          {isMarked ? (
            <>
              <Answer words="At its mark" letter="J" onAnswer={() => onLook(true)} />
              <Answer words="Beside it" letter="K" onAnswer={() => onLook(false)} />
            </>
          ) : (
            <Answer words="It is marked" letter="J" onAnswer={onMarked} />
          )}
          <button type="button" className="btn btn-ghost btn-sm" onClick={onAgain}>
            Show again <kbd>R</kbd>
          </button>
          {isMarked && (
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              disabled={!onTakeBack}
              onClick={() => onTakeBack?.()}
            >
              Take back <kbd>Z</kbd>
            </button>
          )}
          <button type="button" className="btn btn-ghost btn-sm" onClick={onStop}>
            Give up
          </button>
        </div>
      ) : (
        <button type="button" className="btn btn-primary btn-sm w-full" onClick={onGoOn}>
          Hold it and go on
        </button>
      )}
    </>
  );
}
