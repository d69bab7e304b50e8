interface AnswerProps {
  readonly words: string;
  readonly letter: string;
  readonly onAnswer: (atMs: number) => void;
}

/** One of the answers a person gives by a single key. */
export const Answer = ({ words, letter, onAnswer }: AnswerProps) => (
  <button
    type="button"
    className="btn btn-outline btn-sm flex-nowrap px-1"
    onClick={(event) => onAnswer(event.timeStamp)}
  >
    {words} <kbd>{letter}</kbd>
  </button>
);
