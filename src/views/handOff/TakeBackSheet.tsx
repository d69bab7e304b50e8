import type { Difference, ReadBack } from "@core/handOff";
import type { Result } from "@core/result";
import { readCode, takeNumbersBack } from "@stores/handingOff";
import { notify } from "@stores/notices";
import { type ChangeEvent, type DragEvent, useEffect, useId, useState } from "react";
import { Sheet } from "../parts/Sheet";

/** So long after the last key it is looked at. */
const afterMs = 200;

/** Code that was changed at the machine: what differs, and what of it is taken over. */
export default function TakeBackSheet({ onClose }: { readonly onClose: () => void }) {
  const id = useId();
  const [text, setText] = useState("");
  const [back, setBack] = useState<Result<ReadBack> | null>(null);
  // Looked at once nobody types any more; what was read of an earlier text is not shown.
  useEffect(() => {
    if (text.trim() === "") {
      setBack(null);
      return;
    }
    let isOver = false;
    const timer = setTimeout(async () => {
      const read = await readCode(text);
      if (!isOver) setBack(read);
    }, afterMs);
    return () => {
      isOver = true;
      clearTimeout(timer);
    };
  }, [text]);
  const onDrop = (event: DragEvent) => {
    const [file] = event.dataTransfer.files;
    if (!file) return;
    event.preventDefault();
    void file.text().then(setText);
  };
  return (
    <Sheet label="Take numbers back" onClose={onClose} isWide>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: dropping a file is a way besides the two that keys reach. */}
      <div onDrop={onDrop} onDragOver={(event) => event.preventDefault()}>
        <h2 className="heading">Take numbers back</h2>
        <p className="mt-1">
          Somebody changed limits, poses or times in the code at the machine? Paste the file here, drop it, or choose
          it. Nothing is taken over before you have looked.
        </p>
        <label htmlFor={id} className="caption mt-3 block">
          The code as it is now
        </label>
        <textarea
          id={id}
          rows={5}
          spellCheck={false}
          className="number textarea w-full text-[0.8rem] leading-snug"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <input
          type="file"
          accept=".c,.h,.py,text/plain"
          aria-label="Choose the file"
          className="file-input file-input-sm mt-2"
          onChange={(event: ChangeEvent<HTMLInputElement>) => void event.target.files?.[0]?.text().then(setText)}
        />
        <div aria-live="polite">
          {back && !back.ok && <p className="mt-3 text-error">{back.problem}</p>}
          {back?.ok && <Found key={JSON.stringify(back.value)} back={back.value} onClose={onClose} />}
        </div>
      </div>
    </Sheet>
  );
}

function Found({ back: { differences, missing }, onClose }: { readonly back: ReadBack; readonly onClose: () => void }) {
  const able = differences.filter(({ why }) => why === null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [refusal, setRefusal] = useState("");
  const chosen = able.filter(({ key }) => !left.has(key));
  const take = () => {
    const sentence = takeNumbersBack(chosen);
    if (sentence !== null) {
      setRefusal(sentence);
      return;
    }
    notify(
      `${chosen.length} number${chosen.length === 1 ? " was" : "s were"} taken over. One step of undo brings them back.`,
    );
    onClose();
  };
  const toggle = (key: string) =>
    setLeft((before) => {
      const next = new Set(before);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  return (
    <>
      <p className="mt-3 font-semibold">
        {differences.length === 0
          ? "Every number in it is the bench's own: there is nothing to take over."
          : `${differences.length} number${differences.length === 1 ? " differs" : "s differ"}.`}
      </p>
      {missing > 0 && (
        <p className="caption">
          {missing} of the bench's numbers are not in this text: it is a part of the file, or of another choice.
        </p>
      )}
      <ul className="mt-2 max-h-64 overflow-y-auto">
        {differences.map((one) => (
          <Row key={one.key} difference={one} isChosen={one.why === null && !left.has(one.key)} onToggle={toggle} />
        ))}
      </ul>
      <p className="min-h-5 text-sm text-error" role="alert">
        {refusal}
      </p>
      <div className="mt-1 flex justify-end gap-2">
        <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
          Close
        </button>
        {able.length > 0 && (
          <button type="button" className="btn btn-primary btn-sm" disabled={chosen.length === 0} onClick={take}>
            Take {chosen.length} over
          </button>
        )}
      </div>
    </>
  );
}

interface RowProps {
  readonly difference: Difference;
  readonly isChosen: boolean;
  readonly onToggle: (key: string) => void;
}

function Row({ difference: { key, what, before, now, why }, isChosen, onToggle }: RowProps) {
  return (
    <li>
      <label className="flex cursor-pointer items-baseline gap-2 py-0.5">
        <input
          type="checkbox"
          className="checkbox checkbox-xs translate-y-0.5"
          checked={isChosen}
          disabled={why !== null}
          onChange={() => onToggle(key)}
        />
        <span className="grow">
          {what}
          {why && <span className="caption block">Not taken over: {why}.</span>}
        </span>
        <span className="number shrink-0">
          {before} → <strong>{now}</strong>
        </span>
      </label>
    </li>
  );
}
