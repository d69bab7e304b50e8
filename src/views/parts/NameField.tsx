import { useState } from "react";

interface NameFieldProps {
  readonly label: string;
  readonly value: string;
  readonly onCommit: (name: string) => void;
  readonly className?: string;
}

/** A name that can be typed over where it stands. Enter or leaving takes it; Esc puts the old one back. */
export function NameField({ label, value, onCommit, className }: NameFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed !== value) onCommit(typed);
    setTyped(null);
  };
  return (
    <input
      aria-label={label}
      className={`min-w-0 rounded-sm border border-transparent bg-transparent px-1 hover:border-base-300 focus:border-secondary ${className ?? ""}`}
      value={typed ?? value}
      maxLength={80}
      spellCheck={false}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setTyped(null);
      }}
    />
  );
}
