import { type Control, type ControlKind, controlNames } from "@core/controls";
import { labelOf } from "@core/pads";
import { addControl, changeControl, moveControl, type Pad, removeControl } from "@core/project";
import { edit, newId, projectNow, useProject } from "@stores/document";
import { notify } from "@stores/notices";
import { remotePlace } from "@stores/remote";
import { ArrowDown, ArrowUp, X } from "lucide-react";
import { useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import { ControlFields } from "./ControlFields";
import { beginControl } from "./newControl";

/** The controls of a pad in their order; the chosen one opens to be changed. */
export function ControlList({ pad }: { readonly pad: Pad }) {
  const project = useProject((one) => one);
  const controlId = useStore(remotePlace, (view) => view.controlId);
  return (
    <div className="flex min-h-0 flex-col gap-3 overflow-y-auto shows-more pr-1">
      <NewControl pad={pad} />
      {pad.controls.length === 0 && <p className="caption">This pad is empty. Add its first control above.</p>}
      <ol className="space-y-1" aria-label={`Controls of ${pad.label}`}>
        {pad.controls.map((control, at) => {
          const isOpen = control.id === controlId;
          const label = control.label.trim() || labelOf(project, control);
          return (
            <li
              key={control.id}
              className={`rounded-box border ${isOpen ? "border-secondary bg-base-200" : "border-base-300"}`}
            >
              <div className="flex items-center gap-1 px-2 py-1">
                <button
                  type="button"
                  aria-expanded={isOpen}
                  className="flex min-w-0 grow items-baseline gap-2 text-left"
                  onClick={() => remotePlace.setState({ controlId: isOpen ? null : control.id })}
                >
                  <span className="truncate font-medium">{label}</span>
                  <span className="caption shrink-0">{controlNames[control.kind].toLowerCase()}</span>
                </button>
                <Small
                  label={`Move ${label} up`}
                  isOff={at === 0}
                  onDo={() => edit(moveControl(pad.id, control.id, -1))}
                >
                  <ArrowUp size={14} aria-hidden="true" />
                </Small>
                <Small
                  label={`Move ${label} down`}
                  isOff={at === pad.controls.length - 1}
                  onDo={() => edit(moveControl(pad.id, control.id, 1))}
                >
                  <ArrowDown size={14} aria-hidden="true" />
                </Small>
                <Small label={`Remove ${label}`} onDo={() => edit(removeControl(pad.id, control.id))}>
                  <X size={14} aria-hidden="true" />
                </Small>
              </div>
              {isOpen && (
                <ControlFields
                  control={control}
                  onChange={(what: string, changed: Control) => edit(changeControl(pad.id, what, changed))}
                />
              )}
            </li>
          );
        })}
      </ol>
    </div>
  );
}

interface SmallProps {
  readonly label: string;
  readonly isOff?: boolean;
  readonly onDo: () => void;
  readonly children: React.ReactNode;
}

const Small = ({ label, isOff = false, onDo, children }: SmallProps) => (
  <button
    type="button"
    className="btn btn-ghost btn-xs btn-square"
    aria-label={label}
    title={label}
    disabled={isOff}
    onClick={onDo}
  >
    {children}
  </button>
);

function NewControl({ pad }: { readonly pad: Pad }) {
  const [kind, setKind] = useState<ControlKind>("slider");
  const add = () => {
    const begun = beginControl(kind, projectNow(), newId);
    if (!begun.ok) notify(begun.problem, "warning");
    else if (edit(addControl(pad.id, begun.value))) remotePlace.setState({ controlId: begun.value.id });
  };
  return (
    <div className="flex items-end gap-2">
      <ChoiceField
        label="New control"
        value={kind}
        choices={Object.entries(controlNames) as [ControlKind, string][]}
        onChoose={setKind}
        className="grow"
      />
      <button type="button" className="btn btn-primary btn-sm" onClick={add}>
        Add
      </button>
    </div>
  );
}
