import { type Fault, faultsOf, mirroredParts, printedMassG } from "@core/figure";
import {
  addParts,
  changeFigure,
  changePart,
  type Figure,
  hangPart,
  here,
  type Joint,
  type Part,
  removeFigure,
  removeFromFigure,
  removePart,
  setOnFigure,
} from "@core/project";
import { type MeshOf, volumeOf } from "@core/shapes";
import { edit, editForField, newId } from "@stores/document";
import { figureView, useFigureView } from "@stores/figureView";
import { useMemo } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { NameField } from "../parts/NameField";
import { QuantityField } from "../parts/QuantityField";
import { BodyFields } from "./BodyFields";
import { MotionFields } from "./MotionFields";
import { MayTouchList, SpringFields } from "./SpringFields";
import { VectorFields } from "./VectorFields";

interface PartsPanelProps {
  readonly figure: Figure;
  readonly joints: readonly Joint[];
  readonly meshOf: MeshOf;
}

/** The parts of a figure as a tree, what each is, and what is to be said of them. */
export function PartsPanel({ figure, joints, meshOf }: PartsPanelProps) {
  const partId = useFigureView((view) => view.partId);
  const faults = useMemo(() => faultsOf(figure, joints, meshOf), [figure, joints, meshOf]);
  const part = figure.parts.find(({ id }) => id === partId) ?? null;
  const own = joints.filter(({ rigId }) => rigId === figure.rigId);
  return (
    <div className="flex flex-col gap-3">
      <Tree figure={figure} chosenId={part?.id ?? null} />
      <FaultList faults={faults} />
      <div className="flex flex-wrap gap-1">
        <button type="button" className="btn btn-xs btn-outline" onClick={() => add(figure, part)}>
          Add a part{part ? ` on ${part.label}` : ""}
        </button>
        {part && (
          <>
            <button
              type="button"
              className="btn btn-xs btn-ghost"
              title="A copy of it and of what hangs on it, on the other side"
              onClick={() => mirror(figure, part)}
            >
              Mirror
            </button>
            <button type="button" className="btn btn-xs btn-ghost" onClick={() => edit(removePart(figure.id, part.id))}>
              Remove
            </button>
          </>
        )}
        <button type="button" className="btn btn-xs btn-ghost ml-auto" onClick={() => edit(removeFigure(figure.id))}>
          Begin anew
        </button>
      </div>
      {part ? (
        <PartFields figure={figure} part={part} joints={own} meshOf={meshOf} />
      ) : (
        <p className="caption">
          Choose a part to change it; its square in the picture can be dragged, in steps of 5 mm.
        </p>
      )}
      <SpringFields figure={figure} part={part} />
      <MayTouchList figure={figure} />
      <VectorFields
        label="The figure stands at"
        value={figure.place.atMm}
        unit="mm"
        step={5}
        onCommit={(atMm) =>
          editForField(changeFigure(figure.id, "where it stands", (one) => ({ ...one, place: { ...one.place, atMm } })))
        }
      />
    </div>
  );
}

function FaultList({ faults }: { readonly faults: readonly Fault[] }) {
  if (faults.length === 0) return null;
  return (
    <ul className="flex flex-col gap-0.5" aria-label="What is to be said of it">
      {faults.map(({ partId, sentence }) => (
        <li key={sentence} className="text-sm text-warning">
          {partId === null ? (
            sentence
          ) : (
            <button
              type="button"
              className="cursor-pointer text-left underline"
              onClick={() => figureView.setState({ partId })}
            >
              {sentence}
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}

function add(figure: Figure, parent: Part | null): void {
  const part: Part = {
    id: newId(),
    label: `Part ${figure.parts.length + 1}`,
    parentId: parent?.id ?? null,
    place: { ...here, atMm: [0, 0, parent ? 60 : 20] },
    motion: { kind: "fixed" },
    bodies: [{ place: here, shape: { kind: "box", sizeMm: [20, 20, 40] }, color: "#8fa39c", isSolid: true }],
    massG: 20,
    centreMm: [0, 0, 0],
    inertiaGMm2: null,
  };
  if (edit(addParts(figure.id, [part]))) figureView.setState({ partId: part.id });
}

function mirror(figure: Figure, part: Part): void {
  const { parts, tips } = mirroredParts(figure.parts, figure.tips, part.id, newId);
  if (edit(addParts(figure.id, parts, tips))) figureView.setState({ partId: parts[0]?.id ?? null });
}

/** Each part under the one that it hangs on, with its way from it and its mass. */
function Tree({ figure, chosenId }: { readonly figure: Figure; readonly chosenId: string | null }) {
  const rows: { readonly part: Part; readonly depth: number }[] = [];
  const lay = (parentId: string | null, depth: number) => {
    for (const part of figure.parts)
      if (part.parentId === parentId) {
        rows.push({ part, depth });
        lay(part.id, depth + 1);
      }
  };
  lay(null, 0);
  return (
    <div
      className="max-h-44 overflow-y-auto shows-more border-y border-base-300"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keys.
      tabIndex={0}
    >
      <table className="w-full text-sm">
        <thead className="sr-only">
          <tr>
            <th>Part</th>
            <th>Length</th>
            <th>Mass</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ part, depth }) => (
            <tr key={part.id} className={part.id === chosenId ? "bg-base-200" : ""}>
              <td className="py-0.5">
                <button
                  type="button"
                  aria-pressed={part.id === chosenId}
                  className={`cursor-pointer truncate text-left ${part.id === chosenId ? "font-semibold text-primary" : ""}`}
                  style={{ paddingLeft: `${0.2 + depth * 0.7}rem` }}
                  onClick={() => figureView.setState({ partId: part.id === chosenId ? null : part.id })}
                >
                  {part.label}
                </button>
              </td>
              <td className="number caption text-right">{formatNumber(Math.hypot(...part.place.atMm), 0)} mm</td>
              <td className="number caption pr-1 text-right">{formatNumber(part.massG, 0)} g</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface PartFieldsProps {
  readonly figure: Figure;
  readonly part: Part;
  readonly joints: readonly Joint[];
  readonly meshOf: MeshOf;
}

function PartFields({ figure, part, joints, meshOf }: PartFieldsProps) {
  const set = (what: string, change: Partial<Part>) =>
    editForField(changePart(figure.id, part.id, what, (one) => ({ ...one, ...change })));
  const others = figure.parts.filter(({ id }) => id !== part.id).map(({ id, label }) => [id, label] as const);
  const ownTips = figure.tips.filter((tip) => tip.partId === part.id);
  const printedG = part.bodies.reduce((sum, { shape }) => sum + printedMassG(volumeOf(shape, meshOf)), 0);
  return (
    <section className="flex flex-col gap-2" aria-label={part.label}>
      <div className="grid grid-cols-2 gap-2">
        <div>
          <span className="caption mb-0.5 block">Name</span>
          <NameField
            label="Name of the part"
            value={part.label}
            className="w-full font-semibold"
            onCommit={(label) => set("name of part", { label })}
          />
        </div>
        <ChoiceField
          label="Hangs on"
          value={part.parentId ?? ""}
          choices={[["", "the foot"], ...others]}
          onChoose={(id) => edit(hangPart(figure.id, part.id, id === "" ? null : id))}
        />
      </div>
      <VectorFields
        label="From there, in mm"
        value={part.place.atMm}
        unit="mm"
        onCommit={(atMm) => set("place of part", { place: { ...part.place, atMm } })}
      />
      <VectorFields
        label="Turned"
        names={["roll", "pitch", "yaw"]}
        value={part.place.turnDeg}
        unit="°"
        step={5}
        onCommit={(turnDeg) => set("turn of part", { place: { ...part.place, turnDeg } })}
      />
      <MotionFields part={part} joints={joints} others={others} onSet={(motion) => set("motion of part", { motion })} />
      <div className="grid grid-cols-[7rem_1fr] gap-2">
        <QuantityField
          label="Mass"
          value={part.massG}
          unit="g"
          units={{ g: 1, kg: 1000 }}
          decimals={1}
          step={5}
          onCommit={(massG) => set("mass of part", { massG, inertiaGMm2: null })}
        />
        <VectorFields
          label="Its middle, in mm"
          value={part.centreMm}
          unit="mm"
          onCommit={(centreMm) => set("middle of mass", { centreMm })}
        />
      </div>
      {printedG > 0.5 && Math.abs(printedG - part.massG) > printedG * 0.1 && (
        <button
          type="button"
          className="link self-start text-sm"
          onClick={() => set("mass of part", { massG: Math.round(printedG * 10) / 10, inertiaGMm2: null })}
        >
          Printed in plastic it would weigh about {formatNumber(printedG, 0)} g
        </button>
      )}
      <BodyFields figure={figure} part={part} />
      <div className="flex flex-col gap-1">
        <span className="caption">Tips on it: places that are moved or aimed</span>
        {ownTips.map((tip) => (
          <div key={tip.id} className="flex flex-col gap-1 border-l-2 border-base-300 pl-2">
            <div className="flex items-center gap-1">
              <NameField
                label="Name of the tip"
                value={tip.label}
                className="min-w-0 grow"
                onCommit={(label) => edit(setOnFigure(figure.id, "tips", { ...tip, label }))}
              />
              <button
                type="button"
                className="btn btn-xs btn-ghost"
                aria-label={`Remove ${tip.label}`}
                onClick={() => edit(removeFromFigure(figure.id, "tips", tip.id))}
              >
                Remove
              </button>
            </div>
            <VectorFields
              label={`${tip.label} is at, in mm`}
              value={tip.place.atMm}
              unit="mm"
              onCommit={(atMm) =>
                editForField(setOnFigure(figure.id, "tips", { ...tip, place: { ...tip.place, atMm } }))
              }
            />
            <VectorFields
              label="It points along its x, turned"
              names={["roll", "pitch", "yaw"]}
              value={tip.place.turnDeg}
              unit="°"
              step={5}
              onCommit={(turnDeg) =>
                editForField(setOnFigure(figure.id, "tips", { ...tip, place: { ...tip.place, turnDeg } }))
              }
            />
          </div>
        ))}
        <div className="flex gap-1">
          {(["reach", "look"] as const).map((does) => (
            <button
              key={does}
              type="button"
              className="btn btn-xs btn-ghost"
              onClick={() =>
                edit(
                  setOnFigure(figure.id, "tips", {
                    id: newId(),
                    label: `${does === "reach" ? "Tip" : "Look"} of ${part.label}`.slice(0, 80),
                    partId: part.id,
                    place: here,
                    does,
                  }),
                )
              }
            >
              Add a {does === "reach" ? "hand" : "look"}
            </button>
          ))}
        </div>
      </div>
    </section>
  );
}
