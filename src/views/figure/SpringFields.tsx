import { type Figure, type Part, removeFromFigure, type Spring, setMayTouch, setOnFigure } from "@core/project";
import { edit, editForField, newId } from "@stores/document";
import { ChoiceField } from "../parts/ChoiceField";
import { NameField } from "../parts/NameField";
import { QuantityField } from "../parts/QuantityField";
import { VectorFields } from "./VectorFields";

interface SpringFieldsProps {
  readonly figure: Figure;
  /** The part that is chosen: a new spring begins on it. */
  readonly part: Part | null;
}

/** Springs that pull two parts together, as arms and jaws have them against their weight. A counterweight is a part with its mass on the other side. */
export function SpringFields({ figure, part }: SpringFieldsProps) {
  const parts = figure.parts.map(({ id, label }) => [id, label] as const);
  const other =
    figure.parts.find(({ id }) => id !== part?.id && id === part?.parentId) ??
    figure.parts.find(({ id }) => id !== part?.id);
  if (figure.springs.length === 0 && (!part || !other)) return null;
  return (
    <div className="flex flex-col gap-2">
      {figure.springs.map((spring) => (
        <SpringLine key={spring.id} figure={figure} spring={spring} parts={parts} />
      ))}
      {part && other && (
        <button
          type="button"
          className="btn btn-xs btn-ghost self-start"
          onClick={() =>
            edit(
              setOnFigure(figure.id, "springs", {
                id: newId(),
                label: `Spring of ${part.label}`.slice(0, 80),
                fromPartId: other.id,
                fromMm: [0, 0, 0],
                toPartId: part.id,
                toMm: [0, 0, 30],
                freeMm: 20,
                nPerMm: 0.1,
              }),
            )
          }
        >
          Add a spring from {other.label} to {part.label}
        </button>
      )}
    </div>
  );
}

interface SpringLineProps {
  readonly figure: Figure;
  readonly spring: Spring;
  readonly parts: readonly (readonly [string, string])[];
}

function SpringLine({ figure, spring, parts }: SpringLineProps) {
  const set = (change: Partial<Spring>) => editForField(setOnFigure(figure.id, "springs", { ...spring, ...change }));
  return (
    <section className="flex flex-col gap-1 border-l-2 border-base-300 pl-2" aria-label={spring.label}>
      <div className="flex items-center gap-1">
        <NameField
          label="Name of the spring"
          value={spring.label}
          className="min-w-0 grow font-semibold"
          onCommit={(label) => void set({ label })}
        />
        <button
          type="button"
          className="btn btn-xs btn-ghost"
          aria-label={`Remove ${spring.label}`}
          onClick={() => edit(removeFromFigure(figure.id, "springs", spring.id))}
        >
          Remove
        </button>
      </div>
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField
          label="From"
          value={spring.fromPartId}
          choices={parts}
          onChoose={(fromPartId) => void set({ fromPartId })}
        />
        <ChoiceField
          label="to"
          value={spring.toPartId}
          choices={parts}
          onChoose={(toPartId) => void set({ toPartId })}
        />
      </div>
      <VectorFields
        label="On the first, in mm"
        value={spring.fromMm}
        unit="mm"
        onCommit={(fromMm) => set({ fromMm })}
      />
      <VectorFields label="On the second, in mm" value={spring.toMm} unit="mm" onCommit={(toMm) => set({ toMm })} />
      <div className="grid grid-cols-2 gap-2">
        <QuantityField
          label="Length when slack"
          value={spring.freeMm}
          unit="mm"
          decimals={1}
          step={1}
          onCommit={(freeMm) => set({ freeMm })}
        />
        <QuantityField
          label="Stiffness"
          value={spring.nPerMm}
          unit="N/mm"
          decimals={3}
          step={0.01}
          onCommit={(nPerMm) => set({ nPerMm })}
        />
      </div>
    </section>
  );
}

/** Pairs of parts that may touch, each to be taken back. */
export function MayTouchList({ figure }: { readonly figure: Figure }) {
  const labelOf = (partId: string) => figure.parts.find(({ id }) => id === partId)?.label ?? "?";
  if (figure.mayTouch.length === 0) return null;
  return (
    <details>
      <summary className="caption cursor-pointer">Parts that may touch ({figure.mayTouch.length})</summary>
      <ul>
        {figure.mayTouch.map(([a, b]) => (
          <li key={`${a} ${b}`} className="flex items-center gap-2 text-sm">
            <span className="grow">
              {labelOf(a)} and {labelOf(b)}
            </span>
            <button
              type="button"
              className="btn btn-xs btn-ghost"
              onClick={() => edit(setMayTouch(figure.id, a, b, false))}
            >
              They must not
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
