import { checkLines, places } from "@core/handOff";
import { type HandOff, type OwnLines, setOwnLines } from "@core/project";
import { edit, useProject } from "@stores/document";
import { useEffect, useId, useState } from "react";

const fields: readonly { readonly name: keyof OwnLines; readonly label: string; readonly rows: number }[] = [
  { name: "set", label: "Sets a pin", rows: 2 },
  { name: "off", label: "Lets a pin go", rows: 1 },
  { name: "send", label: "Sends bytes to smart servos", rows: 1 },
  { name: "start", label: "Once, at the start", rows: 2 },
  { name: "top", label: "At the top of the file", rows: 3 },
];

/** The lines that only the person knows, with the places that they may name. */
export function OwnLinesPanel() {
  const { language, lines } = useProject((project) => project.handOff);
  const hasSmart = useProject((project) => project.cards.some(({ kind }) => kind === "smart"));
  const checked = checkLines(lines[language]);
  return (
    <section className="sheet p-3" aria-label="Your own lines">
      <h2 className="heading">Your own lines</h2>
      <p className="caption">How your platform puts a number on a pin. Kept with the project.</p>
      {fields
        .filter(({ name }) => name !== "send" || hasSmart)
        .map((field) => (
          <LineField
            key={`${language}-${field.name}`}
            language={language}
            {...field}
            text={lines[language][field.name]}
          />
        ))}
      <p className="mt-1 min-h-5 text-sm text-error" aria-live="polite">
        {checked.ok ? "" : checked.problem}
      </p>
      <details className="text-sm">
        <summary className="cursor-pointer">Places they can name</summary>
        <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-2 gap-y-0.5">
          {Object.entries(places).map(([name, words]) => (
            <div key={name} className="contents">
              <dt className="number">{`{${name}}`}</dt>
              <dd className="caption">{words}</dd>
            </div>
          ))}
        </dl>
      </details>
    </section>
  );
}

interface LineFieldProps {
  readonly language: HandOff["language"];
  readonly name: keyof OwnLines;
  readonly label: string;
  readonly rows: number;
  readonly text: string;
}

function LineField({ language, name, label, rows, text }: LineFieldProps) {
  const id = useId();
  const [typed, setTyped] = useState(text);
  useEffect(() => setTyped(text), [text]);
  return (
    <div className="mt-2">
      <label htmlFor={id} className="caption block">
        {label}
      </label>
      <textarea
        id={id}
        rows={rows}
        spellCheck={false}
        className="number textarea textarea-sm w-full px-2 py-1 text-[0.82rem] leading-snug"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          edit(setOwnLines(language, { [name]: event.target.value }));
        }}
      />
    </div>
  );
}
