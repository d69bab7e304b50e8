import { amps, connectors, gaugeOfArea, mayCarryA, reelAreasMm2, runOhm, soldFusesMa } from "@core/power";
import { connectorKinds, feedFrom, type Project, type Run, removeRun, servoCable, setRun } from "@core/project";
import { edit, editForField, newId } from "@stores/document";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";

interface RunFieldsProps {
  readonly project: Project;
  readonly to: Run["to"];
  /** The wire that feeds it; null for none yet. */
  readonly run: Run | null;
}

const nothing = "nothing";
const metres = { mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8 };

/** From where a thing is fed, and by which wire. */
export function RunFields({ project, to, run }: RunFieldsProps) {
  const change = (part: Partial<Run>) => (run ? editForField(setRun({ ...run, ...part })) : "Nothing feeds it yet.");
  const feed = (place: string) => {
    const [kind, id = ""] = place.split(/:(.*)/);
    edit(feedFrom(to, place === nothing ? null : { kind: kind as Run["from"]["kind"], id }, newId()));
  };
  const places = [
    ...project.rails
      .filter(({ id }) => to.kind !== "rail" || to.id !== id)
      .map(({ id, label }) => [`rail:${id}`, label] as const),
    ...project.supplies
      .filter(({ id }) => to.kind !== "supply" || to.id !== id)
      .map(({ id, label }) => [`supply:${id}`, label] as const),
  ];
  return (
    <>
      <ChoiceField
        label="Fed from"
        value={run ? `${run.from.kind}:${run.from.id}` : nothing}
        choices={[[nothing, "nothing"], ...places]}
        onChoose={feed}
      />
      {run && (
        <>
          <div className="grid grid-cols-2 gap-2">
            <QuantityField
              label="Length"
              value={run.lengthMm / 10}
              unit="cm"
              units={Object.fromEntries(Object.entries(metres).map(([unit, mm]) => [unit, mm / 10]))}
              decimals={1}
              step={5}
              onCommit={(cm) => change({ lengthMm: cm * 10 })}
            />
            <QuantityField
              label={`Copper: gauge ${gaugeOfArea(run.areaMm2)}`}
              value={run.areaMm2}
              unit="mm²"
              decimals={3}
              onCommit={(areaMm2) => change({ areaMm2 })}
            />
          </div>
          <div className="grid grid-cols-2 gap-2">
            <ChoiceField
              label="From a reel"
              value={reelAreasMm2.some((area) => area === run.areaMm2) ? String(run.areaMm2) : ""}
              choices={[
                ["", "another"],
                ...reelAreasMm2.map((area) => [String(area), `${area} mm² (gauge ${gaugeOfArea(area)})`] as const),
              ]}
              onChoose={(area) => {
                if (area !== "") change({ areaMm2: Number(area) });
              }}
            />
            <ChoiceField
              label="Plugged in with"
              value={run.connector}
              choices={connectorKinds.map((kind) => [kind, connectors[kind].name] as const)}
              onChoose={(connector) => void change({ connector })}
            />
          </div>
          <div className="grid grid-cols-2 gap-2">
            <ChoiceField
              label="Fuse"
              value={run.fuse ? String(run.fuse.ratedMa) : nothing}
              choices={[
                [nothing, "none"],
                ...[...new Set([...soldFusesMa, ...(run.fuse ? [run.fuse.ratedMa] : [])])]
                  .sort((a, b) => a - b)
                  .map((ma) => [String(ma), amps(ma / 1000)] as const),
              ]}
              onChoose={(ma) =>
                void change({ fuse: ma === nothing ? null : { ratedMa: Number(ma), blows: run.fuse?.blows ?? "slow" } })
              }
            />
            {run.fuse && (
              <ChoiceField
                label="It blows"
                value={run.fuse.blows}
                choices={[
                  ["slow", "slow"],
                  ["fast", "fast"],
                ]}
                onChoose={(blows) => void change({ fuse: { ratedMa: run.fuse?.ratedMa ?? 1000, blows } })}
              />
            )}
          </div>
          <ChoiceField
            label="Conductors"
            value={run.carries}
            choices={[
              ["both", "supply and ground side by side"],
              ["supply", "supply alone"],
              ["ground", "ground alone"],
            ]}
            onChoose={(carries) => void change({ carries })}
          />
          <label className="flex cursor-pointer items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={run.hasSwitch}
              onChange={() => void change({ hasSwitch: !run.hasSwitch })}
            />
            A switch in it
          </label>
          <p className="caption">
            There and back {Math.round(runOhm(run) * 1000)} mΩ with its contacts; such a wire in a bundle may carry{" "}
            {amps(mayCarryA(run.areaMm2))}.
          </p>
        </>
      )}
    </>
  );
}

/** A ground that a board has besides what feeds it. */
export function GroundFields({ project, boardId }: { readonly project: Project; readonly boardId: string }) {
  const link = project.runs.find(({ to, carries }) => to.kind === "board" && to.id === boardId && carries === "ground");
  return (
    <ChoiceField
      label="A ground besides, from"
      value={link ? `${link.from.kind}:${link.from.id}` : nothing}
      choices={[
        [nothing, "nothing"],
        ...project.rails.map(({ id, label }) => [`rail:${id}`, label] as const),
        ...project.supplies.map(({ id, label }) => [`supply:${id}`, label] as const),
      ]}
      onChoose={(place) => {
        if (place === nothing) {
          if (link) edit(removeRun(link.id));
          return;
        }
        const [kind, id = ""] = place.split(/:(.*)/);
        const from: Run["from"] = { kind: kind as Run["from"]["kind"], id };
        edit(
          setRun(
            link
              ? { ...link, from }
              : {
                  ...servoCable,
                  id: newId(),
                  carries: "ground",
                  connector: "headerPin",
                  from,
                  to: { kind: "board", id: boardId },
                },
          ),
        );
      }}
    />
  );
}
