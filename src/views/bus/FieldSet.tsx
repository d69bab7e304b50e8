import { fieldNames } from "@core/bus";
import type { Field } from "@core/project";

interface FieldSetProps {
  readonly label: string;
  readonly chosen: readonly Field[];
  readonly className?: string;
  readonly onChange: (fields: Field[]) => void;
}

/** Some of the fields of a packet. */
export function FieldSet({ label, chosen, className = "", onChange }: FieldSetProps) {
  const all = Object.keys(fieldNames) as Field[];
  return (
    <fieldset className={className}>
      <legend className="caption mb-1">{label}</legend>
      <div className="flex flex-wrap gap-x-3 gap-y-1">
        {all.map((field) => (
          <label key={field} className="flex items-center gap-1 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={chosen.includes(field)}
              onChange={(event) =>
                onChange(event.target.checked ? [...chosen, field] : chosen.filter((one) => one !== field))
              }
            />
            {fieldNames[field]}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
