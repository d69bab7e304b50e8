import type { Result } from "@core/result";
import { useState } from "react";

interface TableTextProps<Item> {
  readonly label: string;
  readonly columns: string;
  readonly text: string;
  readonly read: (text: string) => Result<Item[]>;
  readonly onTake: (items: Item[]) => string | null;
}

/** A table of the manual as lines. What cannot be read stays as it was typed, and changes nothing. */
export function TableText<Item>({ label, columns, text, read, onTake }: TableTextProps<Item>) {
  const [typed, setTyped] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = (next: string) => {
    setTyped(next);
    const items = read(next);
    setTrouble(items.ok ? onTake(items.value) : items.problem);
  };
  const shown = typed ?? text;
  return (
    <section className="sheet">
      <label className="block">
        <span className="heading">{label}</span> <span className="caption number">{columns}</span>
        <textarea
          className={`textarea number mt-1 w-full bg-base-100 text-xs whitespace-pre ${trouble ? "textarea-error" : ""}`}
          rows={Math.min(18, shown.split("\n").length + 1)}
          wrap="off"
          spellCheck={false}
          value={shown}
          aria-invalid={trouble !== null}
          onChange={(event) => take(event.target.value)}
          onBlur={() => trouble === null && setTyped(null)}
        />
      </label>
      {trouble && (
        <p role="alert" className="text-sm text-error">
          {trouble} Until then the table stays as it was.
        </p>
      )}
    </section>
  );
}
