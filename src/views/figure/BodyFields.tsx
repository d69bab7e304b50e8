import { type Body, changePart, type Figure, here, type Part } from "@core/project";
import { shapeNames } from "@core/shapes";
import { edit, editForField } from "@stores/document";
import { useState } from "react";
import { ShapeFields } from "./ShapeFields";
import { VectorFields } from "./VectorFields";

/** The bodies of a part: one is open at a time. */
export function BodyFields({ figure, part }: { readonly figure: Figure; readonly part: Part }) {
  const [openAt, setOpenAt] = useState(0);
  const setAll = (what: string, bodies: readonly Body[]) =>
    editForField(changePart(figure.id, part.id, what, (one) => ({ ...one, bodies })));
  const body = part.bodies[Math.min(openAt, part.bodies.length - 1)];
  const at = body ? part.bodies.indexOf(body) : -1;
  const set = (what: string, change: Partial<Body>) =>
    setAll(
      what,
      part.bodies.map((one, index) => (index === at ? { ...one, ...change } : one)),
    );
  return (
    <div className="flex flex-col gap-1 border-l-2 border-base-300 pl-2">
      <div className="flex flex-wrap gap-1">
        {part.bodies.map((one, index) => (
          <button
            // biome-ignore lint/suspicious/noArrayIndexKey: bodies have no other name than their place.
            key={index}
            type="button"
            aria-pressed={index === at}
            className={`btn btn-xs ${index === at ? "btn-neutral" : "btn-ghost"}`}
            onClick={() => setOpenAt(index)}
          >
            <span className="inline-block size-3 rounded-sm border" style={{ background: one.color }} />
            {shapeNames[one.shape.kind]} {index + 1}
          </button>
        ))}
        <button
          type="button"
          className="btn btn-xs btn-ghost"
          onClick={() => {
            edit(
              changePart(figure.id, part.id, "bodies of part", (one) => ({
                ...one,
                bodies: [
                  ...one.bodies,
                  { place: here, shape: { kind: "box", sizeMm: [20, 20, 20] }, color: "#8fa39c", isSolid: true },
                ],
              })),
            );
            setOpenAt(part.bodies.length);
          }}
        >
          + body
        </button>
      </div>
      {body && (
        <>
          <ShapeFields shape={body.shape} onSet={(shape) => set("shape of body", { shape })} />
          <VectorFields
            label="In the part, in mm"
            value={body.place.atMm}
            unit="mm"
            onCommit={(atMm) => set("place of body", { place: { ...body.place, atMm } })}
          />
          <VectorFields
            label="Body turned"
            names={["roll", "pitch", "yaw"]}
            value={body.place.turnDeg}
            unit="°"
            step={5}
            onCommit={(turnDeg) => set("turn of body", { place: { ...body.place, turnDeg } })}
          />
          <div className="flex items-center gap-3 text-sm">
            <label className="flex items-center gap-1">
              Colour
              <input
                type="color"
                value={body.color}
                className="h-6 w-9 cursor-pointer"
                onChange={(event) => void set("colour of body", { color: event.target.value })}
              />
            </label>
            <label className="flex cursor-pointer items-center gap-1">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={body.isSolid}
                onChange={() => void set("solid body", { isSolid: !body.isSolid })}
              />
              can meet others
            </label>
            <button
              type="button"
              className="btn btn-xs btn-ghost ml-auto"
              onClick={() => void setAll("bodies of part", part.bodies.toSpliced(at, 1))}
            >
              Remove body
            </button>
          </div>
        </>
      )}
    </div>
  );
}
