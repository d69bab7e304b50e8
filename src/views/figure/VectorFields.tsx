import type { Vector } from "@core/shapes";
import { QuantityField } from "../parts/QuantityField";

interface VectorFieldsProps {
  /** What it is, for the labels of its fields. */
  readonly label: string;
  readonly names?: readonly [string, string, string];
  readonly value: Vector;
  readonly unit: "mm" | "°";
  readonly step?: number;
  readonly onCommit: (value: Vector) => string | null;
}

/** Three numbers side by side: a place, a size, or a turn. */
export function VectorFields({ label, names = ["x", "y", "z"], value, unit, step = 1, onCommit }: VectorFieldsProps) {
  return (
    <fieldset>
      <legend className="caption mb-0.5">{label}</legend>
      <div className="grid grid-cols-3 gap-1">
        {names.map((name, axis) => (
          <QuantityField
            key={name}
            label={`${label}, ${name}`}
            hidesLabel
            value={value[axis] as number}
            unit={unit === "mm" ? name : `${name} °`}
            units={unit === "mm" ? { [name]: 1, mm: 1, cm: 10, m: 1000 } : { [`${name} °`]: 1, "°": 1, deg: 1 }}
            decimals={2}
            step={step}
            onCommit={(next) => onCommit(value.map((one, at) => (at === axis ? next : one)) as unknown as Vector)}
          />
        ))}
      </div>
    </fieldset>
  );
}
