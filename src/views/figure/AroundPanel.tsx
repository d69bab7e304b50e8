import { removeThing, setThing, type Thing } from "@core/project";
import { freshShape, type ShapeName, shapeNames } from "@core/shapes";
import { edit, editForField, newId, useProject } from "@stores/document";
import { figureView, useFigureView } from "@stores/figureView";
import { ChoiceField } from "../parts/ChoiceField";
import { NameField } from "../parts/NameField";
import { ShapeFields } from "./ShapeFields";
import { VectorFields } from "./VectorFields";

const kindWords: readonly (readonly [Thing["kind"], string])[] = [
  ["solid", "a solid thing"],
  ["zone", "a zone that nothing may enter"],
  ["seen", "only to be seen"],
];

/** What stands around the figures: pots, walls, zones. */
export function AroundPanel() {
  const things = useProject((project) => project.things);
  const thingId = useFigureView((view) => view.thingId);
  const thing = things.find(({ id }) => id === thingId) ?? null;
  const add = (kind: ShapeName) => {
    const shape = freshShape(kind);
    if (!shape) return;
    const lift =
      shape.kind === "ball"
        ? shape.radiusMm
        : shape.kind === "box"
          ? shape.sizeMm[2] / 2
          : "lengthMm" in shape
            ? shape.lengthMm / 2
            : 5;
    const made: Thing = {
      id: newId(),
      label: `${shapeNames[kind]} ${things.length + 1}`,
      kind: "solid",
      place: { atMm: [150, 0, lift], turnDeg: [0, 0, 0] },
      shape,
      color: "#a0623f",
    };
    if (edit(setThing(made))) figureView.setState({ thingId: made.id });
  };
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap gap-1">
        {(["box", "rod", "ball", "cone"] as const).map((kind) => (
          <button key={kind} type="button" className="btn btn-xs btn-outline" onClick={() => add(kind)}>
            Add a {shapeNames[kind].toLowerCase()}
          </button>
        ))}
      </div>
      {things.length === 0 && (
        <p className="caption">Nothing stands around yet. What you add here is met, or kept out of, by all figures.</p>
      )}
      <ul
        className="max-h-56 overflow-y-auto shows-more border-y border-base-300 empty:hidden"
        aria-label="Things around"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keys.
        tabIndex={0}
      >
        {things.map(({ id, label, kind, color }) => (
          <li key={id}>
            <button
              type="button"
              aria-pressed={id === thingId}
              className={`flex w-full cursor-pointer items-center gap-2 px-1 py-0.5 text-left text-sm ${id === thingId ? "bg-base-200 font-semibold text-primary" : ""}`}
              onClick={() => figureView.setState({ thingId: id === thingId ? null : id })}
            >
              <span className="inline-block size-3 rounded-sm border" style={{ background: color }} />
              <span className="grow truncate">{label}</span>
              {kind !== "solid" && <span className="caption">{kind === "zone" ? "zone" : "seen"}</span>}
            </button>
          </li>
        ))}
      </ul>
      {thing && <ThingFields thing={thing} />}
    </div>
  );
}

function ThingFields({ thing }: { readonly thing: Thing }) {
  const set = (what: string, change: Partial<Thing>) => editForField(setThing({ ...thing, ...change }, what));
  return (
    <section className="flex flex-col gap-2" aria-label={thing.label}>
      <div className="flex items-center gap-2">
        <NameField
          label="Name of the thing"
          value={thing.label}
          className="min-w-0 grow font-semibold"
          onCommit={(label) => set("name of thing", { label })}
        />
        <input
          type="color"
          aria-label="Its colour"
          value={thing.color}
          className="h-6 w-9 cursor-pointer"
          onChange={(event) => void set("colour of thing", { color: event.target.value })}
        />
        <button type="button" className="btn btn-xs btn-ghost" onClick={() => edit(removeThing(thing.id))}>
          Remove
        </button>
      </div>
      <ChoiceField
        label="It is"
        value={thing.kind}
        choices={kindWords}
        onChoose={(kind) => void set("kind of thing", { kind })}
      />
      <ShapeFields shape={thing.shape} onSet={(shape) => set("shape of thing", { shape })} />
      <VectorFields
        label="Its middle is at, in mm"
        value={thing.place.atMm}
        unit="mm"
        step={5}
        onCommit={(atMm) => set("place of thing", { place: { ...thing.place, atMm } })}
      />
      <VectorFields
        label="Turned"
        names={["roll", "pitch", "yaw"]}
        value={thing.place.turnDeg}
        unit="°"
        step={5}
        onCommit={(turnDeg) => set("turn of thing", { place: { ...thing.place, turnDeg } })}
      />
    </section>
  );
}
