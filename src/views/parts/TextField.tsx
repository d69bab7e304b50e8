import { useId, useState } from "react";

interface TextFieldProps {
  readonly label: string;
  readonly value: string;
  /** Takes the text; gives a sentence when it cannot be taken, and the field keeps what was typed. */
  readonly onCommit: (text: string) => string | null;
  readonly maxLength?: number;
  readonly placeholder?: string;
  readonly isSecret?: boolean;
  readonly className?: string;
}

/** A text that is taken with Enter, or when the field is left. What cannot be taken stays as it was typed, with a sentence under it. */
export function TextField({
  label,
  value,
  onCommit,
  maxLength = 120,
  placeholder,
  isSecret,
  className,
}: TextFieldProps) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const commit = () => {
    if (typed === null) return;
    const text = typed.trim();
    const refusal = text === value ? null : onCommit(text);
    setTrouble(refusal);
    if (refusal === null) setTyped(null);
  };
  return (
    <div className={className}>
      <label htmlFor={id} className="caption mb-0.5 block">
        {label}
      </label>
      <input
        id={id}
        type={isSecret ? "password" : "text"}
        autoComplete={isSecret ? "new-password" : "off"}
        className="input input-sm w-full bg-base-100"
        value={typed ?? value}
        placeholder={placeholder}
        maxLength={maxLength}
        spellCheck={false}
        aria-invalid={trouble !== null}
        aria-describedby={trouble ? `${id}-trouble` : undefined}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit();
          else if (event.key === "Escape") {
            setTyped(null);
            setTrouble(null);
          }
        }}
      />
      {trouble && (
        <p id={`${id}-trouble`} role="alert" className="mt-1 text-sm text-error">
          {trouble}
        </p>
      )}
    </div>
  );
}
