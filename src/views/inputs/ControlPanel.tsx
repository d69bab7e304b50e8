import { type Claimant, type Joint, type JointControl, setControl } from "@core/project";
import { editForField, useProject } from "@stores/document";
import { command, liveJoint, useLive } from "@stores/live";
import { useCallback } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { ownerWords } from "../parts/ownerWords";
import { QuantityField } from "../parts/QuantityField";

const claimantNames: Readonly<Record<Claimant, string>> = { hand: "hand", lead: "inputs", routine: "routine" };

/** Who has a joint now, who may take it, when it is given back, and how softly. */
export function ControlPanel({ joint }: { readonly joint: Joint }) {
  const { control } = joint;
  const project = useProject((current) => current);
  const isHeld = useLive(useCallback(() => liveJoint(joint.id, "isHeld") === 1, [joint.id]));
  const code = useLive(useCallback(() => liveJoint(joint.id, "owner"), [joint.id]));
  const set = (next: JointControl) => editForField(setControl(joint.id, next));
  const raise = (at: number) => {
    const [a, b] = [control.order[at - 1], control.order[at]];
    if (a && b) set({ ...control, order: control.order.with(at - 1, b).with(at, a) });
  };
  return (
    <div className="grid max-w-3xl grid-cols-2 gap-4">
      <div className="space-y-3">
        <p data-readout="owner">
          <span className="caption">{joint.label} is now with</span>{" "}
          <strong>{ownerWords(code, isHeld, project)}</strong>
          <button
            type="button"
            className="btn btn-outline btn-xs ml-3"
            onClick={() => command({ kind: "giveBack", jointId: joint.id })}
          >
            Give it back
          </button>
        </p>
        <ChoiceField
          label="It is taken"
          value={control.takes}
          choices={[
            ["touch", "by touch: whoever moves it last"],
            ["order", "by order: only by who stands above"],
          ]}
          onChoose={(takes) => set({ ...control, takes })}
        />
        <p className="caption">
          The hand can always take it, and Release all beats everybody. What goes on by itself, like a generator or a
          sensor, never takes a joint from somebody who touched it.
        </p>
      </div>
      <div className="space-y-3">
        {control.takes === "order" && (
          <ol aria-label="Order">
            {control.order.map((claimant, at) => (
              <li key={claimant} className="flex items-center gap-2 border-b border-base-300 py-0.5">
                <span className="number w-5">{at + 1}</span>
                <span className="grow">{claimantNames[claimant]}</span>
                <button
                  type="button"
                  className="btn btn-ghost btn-xs"
                  disabled={at === 0}
                  aria-label={`Raise ${claimantNames[claimant]}`}
                  onClick={() => raise(at)}
                >
                  raise
                </button>
              </li>
            ))}
          </ol>
        )}
        <label className="flex cursor-pointer items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={control.giveBackMs !== null}
            onChange={(event) => set({ ...control, giveBackMs: event.target.checked ? 3000 : null })}
          />
          it is given back by itself
        </label>
        <div className="grid grid-cols-2 gap-3">
          {control.giveBackMs !== null && (
            <QuantityField
              label="after the last touch"
              value={control.giveBackMs / 1000}
              unit="s"
              decimals={1}
              units={{ s: 1, ms: 0.001 }}
              onCommit={(seconds) => set({ ...control, giveBackMs: seconds * 1000 })}
            />
          )}
          <QuantityField
            label="Goes over softly in"
            value={control.blendMs}
            unit="ms"
            decimals={0}
            units={{ ms: 1, s: 1000 }}
            onCommit={(blendMs) => set({ ...control, blendMs })}
          />
        </div>
      </div>
    </div>
  );
}
