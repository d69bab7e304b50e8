import { beginnings, begun } from "@core/figure";
import { type Rig, setFigure } from "@core/project";
import { edit, newId, useProject } from "@stores/document";
import { figureView } from "@stores/figureView";
import { openTab } from "@stores/stationTabs";

/** For a rig that has no figure yet: machines to begin with. */
export function Beginnings({ rig }: { readonly rig: Rig }) {
  const joints = useProject((project) => project.joints);
  const count = joints.filter(({ rigId }) => rigId === rig.id).length;
  return (
    <div className="flex flex-col gap-2">
      <p>
        {rig.label} has no figure yet, so its {count === 1 ? "servo stands" : "servos stand"} in a row. Begin with the
        machine that is nearest to yours; lengths and masses are changed afterwards.
      </p>
      <ul className="flex flex-col gap-1">
        {beginnings.map((beginning) => (
          <li key={beginning.id}>
            <button
              type="button"
              className="w-full cursor-pointer border-l-2 border-base-300 px-2 py-1 text-left hover:border-primary hover:bg-base-200"
              onClick={() => {
                const figure = begun(beginning, rig, joints, newId);
                if (!edit(setFigure(figure))) return;
                openTab("figure", "parts");
                figureView.setState({ partId: figure.parts[1]?.id ?? null, tipId: null });
              }}
            >
              <span className="font-semibold">{beginning.name}</span>
              <span className="caption block">
                {beginning.says}
                {beginning.uses !== count && ` (uses ${beginning.uses}, this rig has ${count})`}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
