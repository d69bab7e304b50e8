import { freshShape, type Shape, type ShapeName, shapeNames } from "@core/shapes";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";
import { VectorFields } from "./VectorFields";

interface ShapeFieldsProps {
  readonly shape: Shape;
  readonly onSet: (shape: Shape) => string | null;
}

/** What a body is, and its sizes. */
export function ShapeFields({ shape, onSet }: ShapeFieldsProps) {
  const kinds = (Object.keys(shapeNames) as ShapeName[]).filter(
    (kind) => kind === shape.kind || freshShape(kind) !== null,
  );
  const size = (label: string, value: number, take: (value: number) => Shape) => (
    <QuantityField label={label} value={value} unit="mm" decimals={2} step={1} onCommit={(next) => onSet(take(next))} />
  );
  return (
    <div className="flex flex-col gap-1">
      <ChoiceField
        label="Body"
        value={shape.kind}
        choices={kinds.map((kind) => [kind, shapeNames[kind]] as const)}
        onChoose={(kind) => {
          const fresh = freshShape(kind);
          if (fresh) onSet(fresh);
        }}
      />
      {shape.kind === "box" && (
        <VectorFields
          label="Size, in mm"
          value={shape.sizeMm}
          unit="mm"
          onCommit={(sizeMm) => onSet({ ...shape, sizeMm })}
        />
      )}
      {shape.kind === "ball" && size("Radius", shape.radiusMm, (radiusMm) => ({ ...shape, radiusMm }))}
      {(shape.kind === "rod" || shape.kind === "cone") && (
        <div className="grid grid-cols-3 gap-1">
          {size("Radius", shape.radiusMm, (radiusMm) => ({ ...shape, radiusMm }))}
          {shape.kind === "cone" && size("At the top", shape.topRadiusMm, (topRadiusMm) => ({ ...shape, topRadiusMm }))}
          {size("Length", shape.lengthMm, (lengthMm) => ({ ...shape, lengthMm }))}
        </div>
      )}
      {shape.kind === "plate" && (
        <>
          {size("Thickness", shape.thickMm, (thickMm) => ({ ...shape, thickMm }))}
          <Outline shape={shape} onSet={onSet} />
        </>
      )}
      {shape.kind === "mesh" && (
        <VectorFields label="Scale" value={shape.scale} unit="mm" onCommit={(scale) => onSet({ ...shape, scale })} />
      )}
    </div>
  );
}

/** The corners of a plate as text: "x y, x y, …". */
function Outline({
  shape,
  onSet,
}: {
  readonly shape: Extract<Shape, { kind: "plate" }>;
  readonly onSet: ShapeFieldsProps["onSet"];
}) {
  const text = shape.outlineMm.map((corner) => corner.join(" ")).join(", ");
  return (
    <label className="block">
      <span className="caption">Outline, in mm: corners as x y, one after another</span>
      <textarea
        key={text}
        className="textarea textarea-sm number w-full bg-base-100"
        rows={2}
        defaultValue={text}
        onBlur={(event) => {
          const corners = event.target.value.split(/[,;\n]/).map((pair) => pair.trim().split(/\s+/).map(Number));
          const isRead =
            corners.length >= 3 && corners.every((pair) => pair.length === 2 && pair.every(Number.isFinite));
          event.target.setCustomValidity(isRead ? "" : "Write at least three corners, each as two numbers.");
          event.target.reportValidity();
          if (isRead && event.target.value !== text) onSet({ ...shape, outlineMm: corners as [number, number][] });
        }}
      />
    </label>
  );
}
