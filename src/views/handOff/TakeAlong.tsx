import { type HandedOff, leadWords } from "@core/handOff";
import { setHandOffLanguage, setHandOffNumbers, setLeftOut } from "@core/project";
import { edit, useProject } from "@stores/document";
import { counted, formatNumber } from "../parts/format";

interface Item {
  readonly id: string;
  readonly label: string;
}

/** The language, what is taken along, and what that comes to. */
export function TakeAlong({ handed }: { readonly handed: HandedOff | null }) {
  const project = useProject((current) => current);
  const { language, numbers, leftOut } = project.handOff;
  const out = new Set(leftOut);
  return (
    <section className="sheet p-3" aria-label="What is taken along">
      <h1 className="heading">Hand-off</h1>
      <p className="caption">The same counts as on this bench, without it.</p>
      <OneOf
        legend="Language"
        choices={languages}
        chosen={language}
        onChoose={(one) => edit(setHandOffLanguage(one))}
      />
      <OneOf legend="Numbers" choices={kinds} chosen={numbers} onChoose={(one) => edit(setHandOffNumbers(one))} />
      <Picks name="Routines" items={project.routines.map(({ id, name }) => ({ id, label: name }))} out={out} />
      <Picks name="Poses" items={project.poses.map(({ id, name }) => ({ id, label: name }))} out={out} />
      <Picks name="Joints" items={project.joints} out={out} />
      <Picks
        name="Leads"
        items={project.leads.map((lead) => ({ id: lead.id, label: leadWords(project, lead) }))}
        out={out}
      />
      {handed && handed.refused.length > 0 && (
        <ul className="mt-2 space-y-1 text-sm text-warning" aria-label="Not taken along">
          {handed.refused.map((sentence) => (
            <li key={sentence}>{sentence}</li>
          ))}
        </ul>
      )}
      {handed && <SumOf handed={handed} />}
    </section>
  );
}

const languages = [
  ["c", "C99"],
  ["python", "Python 3"],
] as const;
const kinds = [
  ["real", "Floating point"],
  ["whole", "Whole numbers"],
] as const;

interface OneOfProps<Value extends string> {
  readonly legend: string;
  readonly choices: readonly (readonly [Value, string])[];
  readonly chosen: Value;
  readonly onChoose: (value: Value) => void;
}

function OneOf<Value extends string>({ legend, choices, chosen, onChoose }: OneOfProps<Value>) {
  return (
    <fieldset className="join mt-2 w-full">
      <legend className="sr-only">{legend}</legend>
      {choices.map(([value, label]) => (
        <input
          key={value}
          type="radio"
          name={legend}
          aria-label={label}
          className="btn join-item btn-sm grow"
          checked={chosen === value}
          onChange={() => onChoose(value)}
        />
      ))}
    </fieldset>
  );
}

interface PicksProps {
  readonly name: string;
  readonly items: readonly Item[];
  readonly out: ReadonlySet<string>;
}

function Picks({ name, items, out }: PicksProps) {
  const taken = items.filter(({ id }) => !out.has(id)).length;
  if (items.length === 0) return null;
  return (
    <details className="mt-2" open={name === "Routines"}>
      <summary className="flex cursor-pointer items-baseline gap-2">
        <span className="font-semibold">{name}</span>
        <span className="number text-sm">
          {taken} of {items.length}
        </span>
      </summary>
      <ul className="mt-1 max-h-48 overflow-y-auto">
        {items.map(({ id, label }) => (
          <li key={id}>
            <label className="flex cursor-pointer items-center gap-2 py-0.5 text-[0.92rem]">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={!out.has(id)}
                onChange={() => edit(setLeftOut([id], !out.has(id)))}
              />
              <span className="truncate">{label}</span>
            </label>
          </li>
        ))}
      </ul>
      {items.length > 1 && (
        <button
          type="button"
          className="btn btn-ghost btn-xs"
          aria-label={taken === 0 ? `Take all ${name.toLowerCase()}` : `Leave all out: ${name.toLowerCase()}`}
          onClick={() =>
            edit(
              setLeftOut(
                items.map(({ id }) => id),
                taken > 0,
              ),
            )
          }
        >
          {taken === 0 ? "Take all" : "Leave all out"}
        </button>
      )}
    </details>
  );
}

function SumOf({ handed: { sums } }: { readonly handed: HandedOff }) {
  const kB = (bytes: number) => `${formatNumber(bytes / 1000, 1)} kB`;
  return (
    <dl className="mt-3 grid grid-cols-[1fr_auto] gap-x-2 border-t border-base-300 pt-2 text-sm">
      <dt className="caption">text</dt>
      <dd className="number text-right">
        {sums.lines} lines, {kB(sums.textBytes)}
      </dd>
      <dt className="caption">tables, in C</dt>
      <dd className="number text-right">about {kB(sums.tableBytes)}</dd>
      <dt className="caption">memory, in C</dt>
      <dd className="number text-right">about {kB(sums.memoryBytes)}</dd>
      <dt className="caption">frames</dt>
      <dd className="number text-right">{sums.frames}</dd>
      {sums.worstCounts !== null && (
        <>
          <dt className="caption">off by</dt>
          <dd className="number text-right">{counted(sums.worstCounts, "count")} at most</dd>
        </>
      )}
      {sums.worstError > 0 && (
        <>
          <dt className="caption">takes, reduced</dt>
          <dd className="number text-right">within {formatNumber(sums.worstError, 2)}°</dd>
        </>
      )}
    </dl>
  );
}
