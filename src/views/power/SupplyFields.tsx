import { cells, giveNames, newGives, usualLimitMa } from "@core/power";
import { chemistries, type Gives, type Project, removeSupply, type Supply, setSupply } from "@core/project";
import { edit, editForField } from "@stores/document";
import { choosePower } from "@stores/powerView";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";
import { ThingHead } from "./ThingHead";
import { VoltField } from "./VoltField";

interface SupplyFieldsProps {
  readonly project: Project;
  readonly supply: Supply;
}

const ampere = { A: 1, mA: 0.001 };

/** What a supply is, and what it gives. */
export function SupplyFields({ project, supply }: SupplyFieldsProps) {
  const { gives } = supply;
  const set = (next: Supply) => editForField(setSupply(next));
  const give = (part: object) => set({ ...supply, gives: { ...gives, ...part } as Gives });
  return (
    <>
      <ThingHead
        label={supply.label}
        what="supply"
        onRename={(label) => edit(setSupply({ ...supply, label }))}
        onRemove={() => {
          edit(removeSupply(supply.id));
          choosePower(null);
        }}
      />
      <ChoiceField
        label="It is"
        value={gives.kind}
        choices={(Object.keys(giveNames) as Gives["kind"][])
          .filter((kind) => kind !== "pin" || project.boards.length > 0)
          .map((kind) => [kind, giveNames[kind].toLowerCase()] as const)}
        onChoose={(kind) => {
          if (kind !== gives.kind) set({ ...supply, limitMa: usualLimitMa[kind], gives: newGives(kind, project) });
        }}
      />
      {gives.kind === "pin" && (
        <ChoiceField
          label="Of the board"
          value={gives.boardId}
          choices={project.boards.map(({ id, label }) => [id, label] as const)}
          onChoose={(boardId) => void give({ boardId })}
        />
      )}
      {gives.kind === "battery" && <BatteryFields gives={gives} give={give} />}
      {gives.kind === "regulator" && (
        <ChoiceField
          label="It works"
          value={gives.works}
          choices={[
            ["switching", "by switching"],
            ["linear", "by turning the rest into heat (linear)"],
          ]}
          onChoose={(works) => void give({ works })}
        />
      )}
      <div className="grid grid-cols-2 gap-2">
        {"volts" in gives && <VoltField label="Gives" value={gives.volts} onCommit={(volts) => give({ volts })} />}
        <QuantityField
          label="At most"
          value={supply.limitMa / 1000}
          unit="A"
          units={ampere}
          decimals={2}
          step={0.5}
          onCommit={(limit) => set({ ...supply, limitMa: limit * 1000 })}
        />
        {gives.kind === "regulator" && (
          <>
            <VoltField
              label="Needs more than it gives"
              value={gives.headroomVolts}
              onCommit={(headroomVolts) => give({ headroomVolts })}
            />
            {gives.works === "switching" && (
              <QuantityField
                label="Efficiency"
                value={gives.efficiency * 100}
                unit="%"
                decimals={0}
                step={1}
                onCommit={(percent) => give({ efficiency: percent / 100 })}
              />
            )}
          </>
        )}
      </div>
    </>
  );
}

interface BatteryFieldsProps {
  readonly gives: Extract<Gives, { kind: "battery" }>;
  readonly give: (part: object) => string | null;
}

function BatteryFields({ gives, give }: BatteryFieldsProps) {
  return (
    <>
      <ChoiceField
        label="Chemistry"
        value={gives.chemistry}
        choices={chemistries.map((one) => [one, cells[one].name] as const)}
        onChoose={(chemistry) => void give({ chemistry, cellMilliohm: cells[chemistry].usualMilliohm })}
      />
      <div className="grid grid-cols-3 gap-2">
        <QuantityField
          label="Cells in series"
          value={gives.cells}
          unit=""
          units={{ "": 1 }}
          decimals={0}
          step={1}
          onCommit={(count) => give({ cells: Math.round(count) })}
        />
        <QuantityField
          label="Capacity"
          value={gives.capacityMah / 1000}
          unit="Ah"
          units={{ Ah: 1, mAh: 0.001 }}
          decimals={2}
          step={0.1}
          onCommit={(ah) => give({ capacityMah: ah * 1000 })}
        />
        <QuantityField
          label="Inside a cell"
          value={gives.cellMilliohm}
          unit="mΩ"
          decimals={0}
          step={5}
          onCommit={(cellMilliohm) => give({ cellMilliohm })}
        />
      </div>
    </>
  );
}
