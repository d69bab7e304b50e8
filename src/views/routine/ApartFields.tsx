import { type Condition, removeCondition, type Side, setCondition } from "@core/project";
import { edit, editForField, newId, useProject } from "@stores/document";
import { QuantityField } from "../parts/QuantityField";

/** Joints that must not meet: while one is past an angle, the other stays on its side of another. */
export function ApartFields() {
  const conditions = useProject((project) => project.conditions);
  const joints = useProject((project) => project.joints);
  const [a, b] = joints;
  const add = () => {
    if (!a || !b) return;
    edit(
      setCondition({
        id: newId(),
        while: { jointId: a.id, side: "above", target: 0 },
        stays: { jointId: b.id, side: "below", target: 0 },
      }),
    );
  };
  return (
    <details>
      <summary className="heading cursor-pointer text-sm">What must not meet ({conditions.length})</summary>
      <div className="mt-1 space-y-2">
        {conditions.map((condition) => (
          <ConditionFields key={condition.id} condition={condition} />
        ))}
        <button type="button" className="btn btn-xs btn-outline" disabled={!a || !b} onClick={add}>
          Keep two joints apart
        </button>
      </div>
    </details>
  );
}

function ConditionFields({ condition }: { readonly condition: Condition }) {
  const set = (next: Condition) => editForField(setCondition(next));
  return (
    <div className="space-y-1 border border-base-300 p-2">
      <SideFields words="While" side={condition.while} onSide={(side) => set({ ...condition, while: side })} />
      <SideFields words="stays" side={condition.stays} onSide={(side) => set({ ...condition, stays: side })} />
      <button type="button" className="btn btn-ghost btn-xs" onClick={() => edit(removeCondition(condition.id))}>
        Remove
      </button>
    </div>
  );
}

interface SideFieldsProps {
  readonly words: string;
  readonly side: Side;
  readonly onSide: (side: Side) => string | null;
}

function SideFields({ words, side, onSide }: SideFieldsProps) {
  const joints = useProject((project) => project.joints);
  return (
    <div className="flex items-end gap-1">
      <span className="caption w-10 self-center">{words}</span>
      <select
        className="select select-sm min-w-0 grow bg-base-100"
        aria-label={`${words}: which joint`}
        value={side.jointId}
        onChange={(event) => onSide({ ...side, jointId: event.target.value })}
      >
        {joints.map((joint) => (
          <option key={joint.id} value={joint.id}>
            {joint.label}
          </option>
        ))}
      </select>
      <select
        className="select select-sm w-22 bg-base-100"
        aria-label={`${words}: which side`}
        value={side.side}
        onChange={(event) => onSide({ ...side, side: event.target.value as Side["side"] })}
      >
        <option value="above">above</option>
        <option value="below">below</option>
      </select>
      <QuantityField
        label={`${words}: angle`}
        hidesLabel
        value={side.target}
        unit="°"
        decimals={1}
        step={1}
        onCommit={(target) => onSide({ ...side, target })}
        className="w-20"
      />
    </div>
  );
}
