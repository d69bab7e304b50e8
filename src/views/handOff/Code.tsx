import { useVirtualizer } from "@tanstack/react-virtual";
import { useMemo, useRef, useState } from "react";
import { explained, sectionsOf } from "./explained";
import { type Language, pieces, type Tone, withinComments } from "./highlight";

const tones: Readonly<Record<Tone, string>> = {
  plain: "",
  comment: "text-base-content/70 italic",
  number: "text-primary",
  word: "font-semibold",
  name: "text-secondary",
  text: "text-secondary",
};
const lineHeightPx = 19;

interface CodeProps {
  readonly name: string;
  readonly text: string;
  readonly language: Language;
}

/** One file with line numbers; only what is seen is drawn. What is pointed at in code is explained underneath. */
export function Code({ name, text, language }: CodeProps) {
  const box = useRef<HTMLElement>(null);
  const lines = useMemo(() => text.split("\n"), [text]);
  const within = useMemo(() => withinComments(lines, language), [lines, language]);
  const sections = useMemo(() => sectionsOf(lines), [lines]);
  const [pointed, setPointed] = useState(0);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => lineHeightPx,
    overscan: 20,
  });
  return (
    <>
      {sections.length > 0 && (
        <nav className="flex flex-wrap gap-x-3 py-1 text-sm" aria-label="Parts of the file">
          {sections.map(({ title, line }) => (
            <button
              key={title}
              type="button"
              className="link-hover cursor-pointer"
              onClick={() => {
                rows.scrollToIndex(line, { align: "start" });
                setPointed(line);
              }}
            >
              {title}
            </button>
          ))}
        </nav>
      )}
      <section
        ref={box}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: long code is scrolled by keys as well.
        tabIndex={0}
        aria-label={name}
        className="number min-h-0 grow overflow-auto rounded-box border border-base-300 bg-base-100 text-[0.8rem] leading-[19px]"
      >
        <pre className="relative w-max min-w-full" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((row) => (
            <div
              key={row.key}
              className="absolute top-0 left-0 flex min-w-full hover:bg-base-200"
              style={{ height: lineHeightPx, transform: `translateY(${row.start}px)` }}
              onPointerEnter={() => setPointed(row.index)}
            >
              <span
                className="sticky left-0 w-12 shrink-0 bg-base-100 pr-3 text-right text-base-content/75 select-none"
                aria-hidden="true"
              >
                {row.index + 1}
              </span>
              <code>
                {pieces(lines[row.index] ?? "", language, within[row.index] ?? false).map((piece, at) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of a line have no other name.
                  <span key={at} className={tones[piece.tone]}>
                    {piece.text}
                  </span>
                ))}
              </code>
            </div>
          ))}
        </pre>
      </section>
      {language !== "none" && (
        <p className="min-h-10 pt-1 text-sm" data-readout="explained">
          {explained(lines, sections, pointed)}
        </p>
      )}
    </>
  );
}
