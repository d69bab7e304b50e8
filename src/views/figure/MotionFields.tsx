import type { Joint, Motion, Part } from "@core/project";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";

interface MotionFieldsProps {
  readonly part: Part;
  readonly joints: readonly Joint[];
  readonly others: readonly (readonly [string, string])[];
  readonly onSet: (motion: Motion) => string | null;
}

const axisWords = [
  ["1,0,0", "x"],
  ["0,1,0", "y"],
  ["0,0,1", "z"],
] as const;

/** How a part moves, about or along which axis, and by what. */
export function MotionFields({ part, joints, others, onSet }: MotionFieldsProps) {
  const { motion } = part;
  const first = { kind: "joint", jointId: joints[0]?.id ?? null, ratio: 1, offset: 0 } as const;
  const moved = motion.kind === "fixed" ? null : motion;
  const axis = moved?.axis.join() ?? "0,0,1";
  const isOther = !axisWords.some(([value]) => value === axis);
  const unit = moved?.kind === "slide" ? "mm" : "°";
  const setBy = (by: Exclude<Motion, { kind: "fixed" }>["by"]) => (moved ? onSet({ ...moved, by }) : null);
  return (
    <div className="flex flex-col gap-2">
      <div className="grid grid-cols-3 gap-2">
        <ChoiceField
          label="It"
          value={motion.kind}
          choices={[
            ["fixed", "is fixed"],
            ["turn", "turns"],
            ["slide", "slides"],
          ]}
          onChoose={(kind) =>
            void (kind === "fixed"
              ? onSet({ kind })
              : onSet({ kind, axis: moved?.axis ?? [0, 0, 1], by: moved?.by ?? first }))
          }
        />
        {moved && (
          <ChoiceField
            label={moved.kind === "turn" ? "about" : "along"}
            value={axis}
            choices={isOther ? [...axisWords, [axis, axis]] : axisWords}
            onChoose={(next) => void onSet({ ...moved, axis: next.split(",").map(Number) as [number, number, number] })}
          />
        )}
        {moved && (
          <ChoiceField
            label="by"
            value={moved.by.kind === "joint" ? (moved.by.jointId ?? "") : `${moved.by.kind}`}
            choices={[
              ["", "nothing yet"],
              ...joints.map(({ id, label }) => [id, label] as const),
              ...(others.length > 0
                ? ([
                    ["part", "another part"],
                    ["linkage", "a linkage of bars"],
                  ] as const)
                : []),
            ]}
            onChoose={(choice) => {
              const partId = others[0]?.[0] ?? "";
              if (choice === "part") setBy({ kind: "part", partId, ratio: 1, offset: 0, range: null });
              else if (choice === "linkage")
                setBy({
                  kind: "linkage",
                  partId,
                  groundMm: 40,
                  crankMm: 15,
                  couplerMm: 40,
                  rockerMm: 15,
                  crankAtDeg: 90,
                  isCrossed: false,
                });
              else setBy({ ...first, jointId: choice === "" ? null : choice });
            }}
          />
        )}
      </div>
      {moved && moved.by.kind !== "joint" && (
        <ChoiceField
          label="which follows"
          value={moved.by.partId}
          choices={others}
          onChoose={(partId) => void setBy({ ...moved.by, partId } as typeof moved.by)}
        />
      )}
      {moved && moved.by.kind !== "linkage" && (
        <div className="grid grid-cols-2 gap-2">
          <QuantityField
            label="Ratio"
            value={moved.by.ratio}
            unit={moved.kind === "slide" && moved.by.kind === "joint" ? "mm/°" : "×"}
            decimals={4}
            step={0.1}
            onCommit={(ratio) => setBy({ ...moved.by, ratio } as typeof moved.by)}
          />
          <QuantityField
            label="Offset"
            value={moved.by.offset}
            unit={unit}
            decimals={2}
            step={1}
            onCommit={(offset) => setBy({ ...moved.by, offset } as typeof moved.by)}
          />
        </div>
      )}
      {moved?.by.kind === "linkage" && <LinkageFields by={moved.by} onSet={setBy} />}
    </div>
  );
}

type Linkage = Extract<Exclude<Motion, { kind: "fixed" }>["by"], { kind: "linkage" }>;

const bars = [
  ["groundMm", "Between axles"],
  ["crankMm", "Crank"],
  ["couplerMm", "Coupler"],
  ["rockerMm", "Rocker"],
] as const;

function LinkageFields({ by, onSet }: { readonly by: Linkage; readonly onSet: (by: Linkage) => string | null }) {
  return (
    <div className="grid grid-cols-2 gap-2">
      {bars.map(([name, label]) => (
        <QuantityField
          key={name}
          label={label}
          value={by[name]}
          unit="mm"
          decimals={2}
          step={1}
          onCommit={(value) => onSet({ ...by, [name]: value })}
        />
      ))}
      <QuantityField
        label="Crank at 0 stands at"
        value={by.crankAtDeg}
        unit="°"
        decimals={1}
        step={5}
        onCommit={(crankAtDeg) => onSet({ ...by, crankAtDeg })}
      />
      <label className="flex cursor-pointer items-end gap-2 pb-1 text-sm">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={by.isCrossed}
          onChange={() => void onSet({ ...by, isCrossed: !by.isCrossed })}
        />
        Bars cross
      </label>
    </div>
  );
}
