import type { Project, Routine } from "@core/project";
import { changeStep } from "@core/project";
import { overTheMiddle, readyScore } from "@core/routine";
import type { Vector } from "@core/shapes";
import type { StepOf, TipPath } from "@core/steps";
import { editForField } from "@stores/document";
import { takesNow } from "@stores/takes";
import { VectorFields } from "../figure/VectorFields";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";

interface WayFieldsProps {
  readonly project: Project;
  readonly routine: Routine;
  readonly step: StepOf<"move">;
}

/** On which way a move goes: any, or one on which a tip of a figure is led. */
export function WayFields({ project, routine, step }: WayFieldsProps) {
  const tips = project.figures.flatMap((figure) =>
    figure.tips.filter(({ does }) => does === "reach").map((tip) => ({ tip, figure })),
  );
  if (tips.length === 0) return null;
  const { path } = step;
  const set = (next: TipPath | null) =>
    editForField(
      changeStep(routine.id, step.id, "way", (one) => {
        if (one.kind !== "move") return one;
        const { path: _, ...bare } = one;
        return next ? { ...bare, path: next } : bare;
      }),
    );
  const kind = path ? (path.viaMm ? "round" : "straight") : "any";
  const tipId =
    path?.tipId ??
    tips.find(({ figure }) => isOfPose(project, figure.rigId, step.poseId))?.tip.id ??
    tips[0]?.tip.id ??
    "";
  return (
    <div className="mt-1 grid grid-cols-2 gap-x-2 gap-y-1">
      <ChoiceField
        label="Its way"
        value={kind}
        choices={[
          ["any", "any: each joint for itself"],
          ["straight", "straight, for a tip"],
          ["round", "round, by a place"],
        ]}
        onChoose={(next) =>
          void set(
            next === "any"
              ? null
              : {
                  mmPerS: null,
                  ...path,
                  tipId,
                  viaMm: next === "round" ? (path?.viaMm ?? placeOver(project, routine, step, tipId)) : null,
                },
          )
        }
      />
      {path && (
        <ChoiceField
          label="What is led"
          value={path.tipId}
          choices={tips.map(({ tip }) => [tip.id, tip.label] as const)}
          onChoose={(next) => void set({ ...path, tipId: next })}
        />
      )}
      {path && (
        <ChoiceField
          label="It points"
          value={path.pointing ?? "freely"}
          choices={[
            ["freely", "as it comes"],
            ["tilt", "at its tilt, like a full cup"],
            ["direction", "in its direction"],
          ]}
          onChoose={(next) => {
            const { pointing: _, ...way } = path;
            void set(next === "freely" ? way : { ...way, pointing: next });
          }}
        />
      )}
      {path?.viaMm && (
        <div className="col-span-2">
          <VectorFields
            label="By the place, in mm"
            value={path.viaMm}
            unit="mm"
            step={5}
            onCommit={(viaMm) => set({ ...path, viaMm: [...viaMm] })}
          />
        </div>
      )}
      {path && (
        <QuantityField
          label="Speed along it"
          value={path.mmPerS ?? Number.NaN}
          unit="mm/s"
          units={{ "mm/s": 1, "cm/s": 10, "m/s": 1000 }}
          decimals={1}
          step={10}
          emptyWords="from its time"
          onEmpty={() => set({ ...path, mmPerS: null })}
          onCommit={(mmPerS) => set({ ...path, mmPerS })}
        />
      )}
    </div>
  );
}

/** Where it goes by until somebody says: over the middle of its way. */
function placeOver(project: Project, routine: Routine, { id }: StepOf<"move">, tipId: string): Vector {
  const score = readyScore(project, routine, takesNow());
  return (score.ok && overTheMiddle(project, score.value, id, tipId)) || [100, 0, 150];
}

const isOfPose = (project: Project, rigId: string, poseId: string): boolean => {
  const targets = project.poses.find(({ id }) => id === poseId)?.targets ?? {};
  return project.joints.some((joint) => joint.rigId === rigId && targets[joint.id] !== undefined);
};
