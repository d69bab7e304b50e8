import { useId } from "react";

interface ChoiceFieldProps<Choice extends string> {
  readonly label: string;
  readonly value: Choice;
  /** Each choice with its words. */
  readonly choices: readonly (readonly [Choice, string])[];
  readonly onChoose: (choice: Choice) => void;
  readonly className?: string;
}

/** One of a few, by name. */
export function ChoiceField<Choice extends string>({
  label,
  value,
  choices,
  onChoose,
  className,
}: ChoiceFieldProps<Choice>) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="caption mb-0.5 block">
        {label}
      </label>
      <select
        id={id}
        className="select select-sm w-full bg-base-100"
        value={value}
        onChange={(event) => onChoose(event.target.value as Choice)}
      >
        {choices.map(([choice, words]) => (
          <option key={choice} value={choice}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}
