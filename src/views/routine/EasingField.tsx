import { type Easing, type EasingKind, type EasingOf, easedBy, easingNames, newEasing } from "@core/easings";
import type { ComponentType } from "react";
import { DrawnCurve } from "../inputs/DrawnCurve";
import { ChoiceField } from "../parts/ChoiceField";
import { ShareField } from "../parts/ShareField";

interface FieldsProps<Of extends Easing> {
  readonly easing: Of;
  readonly onEasing: (easing: Easing) => string | null;
}

interface EasingFieldProps extends FieldsProps<Easing> {
  readonly number: number;
}

const choices = Object.entries(easingNames) as [EasingKind, string][];

/** How a move starts and ends: by name, with its curve beside it. */
export function EasingField({ easing, number, onEasing }: EasingFieldProps) {
  const Fields = fields[easing.kind] as ComponentType<FieldsProps<Easing>> | null;
  return (
    <div className="min-w-0">
      <div className="flex items-end gap-1">
        <ChoiceField
          label={`Softness of step ${number}`}
          value={easing.kind}
          choices={choices}
          onChoose={(kind) => onEasing(newEasing(kind))}
          className="min-w-0 grow"
        />
        <EasingCurve easing={easing} />
      </div>
      {Fields && <Fields easing={easing} onEasing={onEasing} />}
    </div>
  );
}

/** What can be set of each kind; null for one that is what it is. */
const fields: { readonly [Kind in EasingKind]: ComponentType<FieldsProps<EasingOf<Kind>>> | null } = {
  leastJerk: null,
  both: null,
  in: null,
  out: null,
  even: null,
  overshoot: ({ easing, onEasing }) => (
    <ShareField
      label="goes past by"
      share={easing.by}
      low={0.01}
      high={0.5}
      onCommit={(by) => onEasing({ ...easing, by })}
      className="mt-1"
    />
  ),
  drawn: ({ easing, onEasing }) => (
    <div className="mt-1 grid">
      <DrawnCurve points={easing.points} onPoints={(points) => onEasing({ ...easing, points: pinned(points) })} />
    </div>
  ),
};

/** A move begins where it is and ends where it goes, however its ends were dragged. */
const pinned = (points: readonly { readonly x: number; readonly y: number }[]) =>
  points.map((point, at) => (at === 0 ? { x: 0, y: 0 } : at === points.length - 1 ? { x: 1, y: 1 } : point));

function EasingCurve({ easing }: { readonly easing: Easing }) {
  const curve = easedBy(easing);
  const path = Array.from(
    { length: 33 },
    (_, at) => `${at === 0 ? "M" : "L"}${at} ${(26 - 20 * curve(at / 32)).toFixed(1)}`,
  );
  return (
    <svg viewBox="0 0 32 32" className="mb-0.5 size-7 shrink-0" aria-hidden="true">
      <path d="M0 6H32M0 26H32" className="stroke-base-content/25" />
      <path d={path.join("")} className="fill-none stroke-primary" strokeWidth={2} />
    </svg>
  );
}
