import { giveNames, newGives, placeLabel, usualLimitMa, wiringForAll } from "@core/power";
import { type Gives, type Project, setRail, setSupply, setWiring } from "@core/project";
import { edit, newId, projectNow } from "@stores/document";
import { type Chosen, choosePower, usePowerView } from "@stores/powerView";
import { BoardPowerFields, CardPowerFields, RailFields } from "./BoardAndCardFields";
import { GroundFields, RunFields } from "./RunFields";
import { SupplyFields } from "./SupplyFields";
import type { Flow } from "./useFlow";

/** All things of the wiring as a list, and the chosen one with its fields: what it is, and the wire that feeds it. */
export function ThingsPanel({ project, flow }: { readonly project: Project; readonly flow: Flow }) {
  const chosen = usePowerView((view) => view.chosen);
  const unfed = project.joints.filter(
    ({ id }) => !flow.net.isFed[flow.net.places.findIndex((place) => place.kind === "joint" && place.id === id)],
  );
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap gap-1.5">
        <select
          className="select select-sm w-40 bg-base-100"
          aria-label="Add a supply"
          value=""
          onChange={(event) => addSupply(event.target.value as Gives["kind"])}
        >
          <option value="" disabled>
            add a supply…
          </option>
          {(Object.keys(giveNames) as Gives["kind"][])
            .filter((kind) => kind !== "pin" || project.boards.length > 0)
            .map((kind) => (
              <option key={kind} value={kind}>
                {giveNames[kind].toLowerCase()}
              </option>
            ))}
        </select>
        <button type="button" className="btn btn-sm btn-outline" onClick={addRail}>
          Add a rail
        </button>
        {unfed.length > 0 && (
          <button
            type="button"
            className="btn btn-sm btn-primary"
            onClick={() => edit(setWiring("Wire what is not fed", wiringForAll(projectNow(), newId)))}
          >
            Wire the {unfed.length} that {unfed.length === 1 ? "is" : "are"} not fed
          </button>
        )}
      </div>
      <select
        className="select select-sm w-full bg-base-100"
        aria-label="Thing"
        value={chosen && chosen.kind !== "run" ? `${chosen.kind}:${chosen.id}` : ""}
        onChange={(event) => {
          const [kind = "", id = ""] = event.target.value.split(/:(.*)/);
          choosePower({ kind: kind as Chosen["kind"], id });
        }}
      >
        <option value="" disabled>
          choose a thing…
        </option>
        <ThingGroup label="Supplies" kind="supply" items={project.supplies} />
        <ThingGroup label="Rails" kind="rail" items={project.rails} />
        <ThingGroup label="Boards" kind="board" items={project.boards} />
        <ThingGroup label="Servos" kind="joint" items={project.joints} />
      </select>
      {chosen ? (
        <ChosenFields project={project} chosen={chosen} flow={flow} />
      ) : (
        <p className="caption">Choose a thing here, or press one in the drawing.</p>
      )}
    </div>
  );
}

interface ThingGroupProps {
  readonly label: string;
  readonly kind: Chosen["kind"];
  readonly items: readonly { readonly id: string; readonly label: string }[];
}

const ThingGroup = ({ label, kind, items }: ThingGroupProps) => (
  <optgroup label={label}>
    {items.map((item) => (
      <option key={item.id} value={`${kind}:${item.id}`}>
        {item.label}
      </option>
    ))}
  </optgroup>
);

function addSupply(kind: Gives["kind"]): void {
  const { supplies } = projectNow();
  const label = `${giveNames[kind]} ${supplies.length + 1}`;
  const id = newId();
  if (edit(setSupply({ id, label, limitMa: usualLimitMa[kind], gives: newGives(kind, projectNow()) })))
    choosePower({ kind: "supply", id });
}

function addRail(): void {
  const id = newId();
  if (edit(setRail({ id, label: `Rail ${projectNow().rails.length + 1}` }))) choosePower({ kind: "rail", id });
}

interface ChosenFieldsProps {
  readonly project: Project;
  readonly chosen: Chosen;
  readonly flow: Flow;
}

function ChosenFields({ project, chosen, flow }: ChosenFieldsProps) {
  const { kind, id } = chosen;
  if (kind === "run") {
    const run = project.runs.find((one) => one.id === id);
    if (!run) return null;
    return (
      <section className="flex flex-col gap-2">
        <h3 className="heading text-sm">
          Wire from {placeLabel(project, run.from)} to {placeLabel(project, run.to)}
        </h3>
        <RunFields project={project} to={run.to} run={run} />
      </section>
    );
  }
  const items = { supply: project.supplies, rail: project.rails, board: project.boards, joint: project.joints }[kind];
  if (!items.some((one) => one.id === id)) return null;
  const supply = kind === "supply" ? project.supplies.find((one) => one.id === id) : undefined;
  const isRoot = supply && supply.gives.kind !== "regulator";
  const run = project.runs.find(({ to, carries }) => to.kind === kind && to.id === id && carries !== "ground") ?? null;
  return (
    <section className="flex flex-col gap-3" data-things={`${kind}:${id}`}>
      {supply && <SupplyFields key={supply.id} project={project} supply={supply} />}
      {kind === "rail" && <RailFields project={project} railId={id} />}
      {kind === "board" && <BoardPowerFields project={project} boardId={id} />}
      {kind === "joint" && <CardPowerFields project={project} jointId={id} flow={flow} />}
      {!isRoot && (
        <div className="flex flex-col gap-2 border-t border-base-300 pt-2">
          <h3 className="heading text-sm">What feeds it</h3>
          <RunFields project={project} to={{ kind, id }} run={run} />
          {kind === "board" && <GroundFields project={project} boardId={id} />}
        </div>
      )}
    </section>
  );
}
