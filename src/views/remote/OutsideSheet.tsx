import { type Outside, setOutside } from "@core/project";
import { cueRootOf } from "@core/remote";
import { edit, editForField, useProject } from "@stores/document";
import type { ReactNode } from "react";
import { TextField } from "../parts/TextField";

/** What other machines may ask of this bench, topic by topic. It belongs to the project. */
export function OutsideSheet() {
  const outside = useProject((project) => project.outside);
  const poses = useProject((project) => project.poses);
  const routines = useProject((project) => project.routines);
  const set = (what: string, change: Partial<Outside>) => edit(setOutside(what, change));
  const { root } = outside;
  return (
    <section className="sheet flex min-h-0 flex-col gap-2 p-3" aria-labelledby="outside-heading">
      <h2 id="outside-heading" className="heading">
        What others may ask
      </h2>
      <TextField
        label="Topics of this bench begin with"
        value={root}
        maxLength={60}
        onCommit={(text) =>
          /^[a-z0-9-]+(\/[a-z0-9-]+)*$/.test(text)
            ? editForField(setOutside("root", { root: text }))
            : "Small letters, digits and hyphens, with / between."
        }
      />
      <div className="min-h-0 grow space-y-2 overflow-y-auto shows-more pr-1">
        <Asked topic={`${root}/do/…`}>
          <May words="release everything: always" isOn isFixed />
          <May words="stop what plays" isOn={outside.mayStop} onChange={(mayStop) => set("stop", { mayStop })} />
        </Asked>
        {routines.length > 0 && (
          <Asked topic={`${root}/do/play`}>
            {routines.map(({ id, name }) => (
              <May
                key={id}
                words={name}
                isOn={outside.routineIds.includes(id)}
                onChange={(isOn) => set("routines", { routineIds: toggled(outside.routineIds, id, isOn) })}
              />
            ))}
          </Asked>
        )}
        {poses.length > 0 && (
          <Asked topic={`${root}/do/pose`}>
            {poses.map(({ id, name }) => (
              <May
                key={id}
                words={name}
                isOn={outside.poseIds.includes(id)}
                onChange={(isOn) => set("poses", { poseIds: toggled(outside.poseIds, id, isOn) })}
              />
            ))}
          </Asked>
        )}
        <Asked topic={`${root}/out/…`}>
          <May
            words="hear how its joints stand"
            isOn={outside.saysStates}
            onChange={(saysStates) => set("states", { saysStates })}
          />
        </Asked>
      </div>
      <p className="caption">
        Numbers come in under <span className="number">{root}/in/…</span> for the sources that wait for them, cues under{" "}
        <span className="number">{cueRootOf(root)}/…</span>.
      </p>
    </section>
  );
}

const toggled = (ids: readonly string[], id: string, isOn: boolean): string[] => {
  const others = ids.filter((one) => one !== id);
  return isOn ? [...others, id] : others;
};

const Asked = ({ topic, children }: { readonly topic: string; readonly children: ReactNode }) => (
  <fieldset className="grid grid-cols-2 gap-x-3 gap-y-0.5">
    <legend className="number caption">{topic}</legend>
    {children}
  </fieldset>
);

interface MayProps {
  readonly words: string;
  readonly isOn: boolean;
  /** It is always so. */
  readonly isFixed?: boolean;
  readonly onChange?: (isOn: boolean) => void;
}

const May = ({ words, isOn, isFixed = false, onChange }: MayProps) => (
  <label className="flex items-baseline gap-2 text-sm">
    <input
      type="checkbox"
      className="checkbox checkbox-xs translate-y-0.5"
      checked={isOn}
      disabled={isFixed}
      onChange={(event) => onChange?.(event.target.checked)}
    />
    <span>{words}</span>
  </label>
);
