import { switchOnLines } from "@core/power";
import { clearSwitchOn, type Project, tickSwitchOn } from "@core/project";
import { edit } from "@stores/document";
import { useMemo } from "react";
import { formatDate } from "../parts/format";

/** The order in which to connect a machine for the first time, to be ticked off line by line. */
export function SwitchOnPanel({ project }: { readonly project: Project }) {
  const lines = useMemo(() => switchOnLines(project), [project]);
  const ticked = new Map(project.switchOn.map(({ lineId, doneAt }) => [lineId, doneAt]));
  const done = lines.filter(({ id }) => ticked.has(id)).length;
  const next = lines.find(({ id }) => !ticked.has(id));
  return (
    <section className="flex flex-col gap-2 text-sm">
      <h3 className="heading text-sm">Switch-on check</h3>
      <div className="flex items-center gap-2">
        <p className="caption mr-auto">
          {done} of {lines.length} done. One line at a time; stop where something else is seen.
        </p>
        <button
          type="button"
          className="btn btn-ghost btn-xs"
          disabled={done === 0}
          onClick={() => edit(clearSwitchOn())}
        >
          Begin anew
        </button>
      </div>
      <ol
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a long list that scrolls by itself is scrolled by keys as well.
        tabIndex={0}
        className="max-h-72 space-y-1.5 overflow-y-auto shows-more"
        aria-label="Switch-on check"
      >
        {lines.map(({ id, does, see }, at) => {
          const doneAt = ticked.get(id);
          return (
            <li
              key={id}
              className={id === next?.id ? "sheet p-2" : "px-2"}
              aria-current={id === next?.id ? "step" : undefined}
            >
              <label className="flex cursor-pointer items-start gap-2">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm mt-0.5"
                  checked={doneAt !== undefined}
                  onChange={() => edit(tickSwitchOn(id, doneAt === undefined ? new Date().toISOString() : null))}
                />
                <span>
                  <span className="number">{at + 1}.</span> {does}
                </span>
              </label>
              {(id === next?.id || doneAt !== undefined) && (
                <p className="caption pl-7">{doneAt === undefined ? `See: ${see}` : `Seen ${formatDate(doneAt)}.`}</p>
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}
