import { padBookOf, type ReadyPad, readyPad, readyPadNames } from "@core/pads";
import { addPad, type Pad, removePad, renamePad } from "@core/project";
import { edit, newId, projectNow, useProject } from "@stores/document";
import { notify } from "@stores/notices";
import { remotePlace } from "@stores/remote";
import { useSelectedJoint } from "@stores/selection";
import { useMemo, useState } from "react";
import { useStore } from "zustand";
import { NameField } from "../parts/NameField";
import { ControlList } from "./ControlList";
import { PadPreview } from "./PadPreview";

/** The pads of the project: which there are, their controls, and how a phone shows them. */
export function PadsPanel() {
  const pads = useProject((project) => project.pads);
  const padId = useStore(remotePlace, (view) => view.padId);
  const pad = pads.find(({ id }) => id === padId) ?? pads[0];
  return (
    <div className="grid h-full min-h-0 grid-cols-[13.5rem_minmax(0,1fr)_auto] gap-4">
      <div className="flex min-h-0 flex-col gap-3 overflow-y-auto shows-more pr-1">
        <PadList pads={pads} chosenId={pad?.id ?? null} />
        <NewPad />
      </div>
      {pad ? (
        <>
          <ControlList pad={pad} />
          <Shown pad={pad} />
        </>
      ) : (
        <div className="sheet col-span-2 grid place-content-center gap-2 text-center">
          <p>There is no pad yet.</p>
          <p className="caption max-w-96">
            A pad is a page for a phone, with sliders, sticks and buttons that work this bench. Begin with a ready one
            at the left; it is laid out in a moment, and can be changed.
          </p>
        </div>
      )}
    </div>
  );
}

function PadList({ pads, chosenId }: { readonly pads: readonly Pad[]; readonly chosenId: string | null }) {
  if (pads.length === 0) return null;
  return (
    <ul aria-label="Pads" className="space-y-1">
      {pads.map(({ id, label, controls }) => (
        <li key={id}>
          <button
            type="button"
            aria-pressed={id === chosenId}
            className={`w-full rounded-box border px-2.5 py-1.5 text-left ${id === chosenId ? "border-primary bg-base-200" : "border-base-300 hover:bg-base-200"}`}
            onClick={() => remotePlace.setState({ padId: id, controlId: null })}
          >
            <span className="block truncate font-medium">{label}</span>
            <span className="caption">{controls.length === 1 ? "1 control" : `${controls.length} controls`}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

function NewPad() {
  const joint = useSelectedJoint();
  const add = (ready: ReadyPad) => {
    const made = readyPad(ready, projectNow(), joint ?? null, newId);
    if (!made.ok) {
      notify(made.problem, "warning");
      return;
    }
    const { pad, sources, leads } = made.value;
    if (edit(addPad(pad, sources, leads))) remotePlace.setState({ padId: pad.id, controlId: null });
  };
  return (
    <section aria-labelledby="new-pad">
      <h2 id="new-pad" className="caption mb-1">
        New pad{joint ? ` for ${joint.label}` : ""}
      </h2>
      <ul className="space-y-1">
        {Object.entries(readyPadNames).map(([ready, name]) => (
          <li key={ready}>
            <button
              type="button"
              className="btn btn-outline btn-xs h-auto w-full justify-start py-1 text-left font-normal"
              onClick={() => add(ready as ReadyPad)}
            >
              {name}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Shown({ pad }: { readonly pad: Pad }) {
  const [isLying, setIsLying] = useState(false);
  const project = useProject((one) => one);
  const book = useMemo(() => padBookOf(project), [project]);
  return (
    <div className="flex min-h-0 flex-col gap-2 overflow-y-auto">
      <div className="flex items-center gap-2">
        <NameField
          label={`Name of the pad ${pad.label}`}
          value={pad.label}
          onCommit={(name) => edit(renamePad(pad.id, name))}
          className="grow font-semibold"
        />
        <button type="button" className="btn btn-ghost btn-xs" onClick={() => setIsLying(!isLying)}>
          {isLying ? "upright" : "lying"}
        </button>
        <button type="button" className="btn btn-ghost btn-xs text-error" onClick={() => edit(removePad(pad.id))}>
          remove
        </button>
      </div>
      <PadPreview book={book} padId={pad.id} isLying={isLying} />
    </div>
  );
}
