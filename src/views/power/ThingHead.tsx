import { NameField } from "../parts/NameField";

interface ThingHeadProps {
  readonly label: string;
  readonly what: string;
  readonly onRename: (label: string) => void;
  readonly onRemove: () => void;
}

/** The name of a thing, to be typed over, and the way to remove it. */
export function ThingHead({ label, what, onRename, onRemove }: ThingHeadProps) {
  return (
    <div className="flex items-center gap-2">
      <NameField label={`Name of the ${what}`} value={label} onCommit={onRename} className="heading grow" />
      <button type="button" className="btn btn-ghost btn-xs" aria-label={`Remove ${label}`} onClick={onRemove}>
        Remove
      </button>
    </div>
  );
}
