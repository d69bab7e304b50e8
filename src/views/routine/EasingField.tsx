import type { Easing } from "@core/project";
import { easedBy } from "@core/routine";
import { DrawnCurve } from "../inputs/DrawnCurve";
import { ChoiceField } from "../parts/ChoiceField";
import { ShareField } from "../parts/ShareField";

interface EasingFieldProps {
  readonly easing: Easing;
  readonly number: number;
  readonly onEasing: (easing: Easing) => string | null;
}

const words: readonly (readonly [Easing["kind"], string])[] = [
  ["leastJerk", "least jerk"],
  ["both", "soft at both ends"],
  ["in", "soft start"],
  ["out", "soft end"],
  ["even", "even"],
  ["overshoot", "past it and back"],
  ["drawn", "drawn"],
];

const fresh: Readonly<Record<Easing["kind"], Easing>> = {
  even: { kind: "even" },
  in: { kind: "in" },
  out: { kind: "out" },
  both: { kind: "both" },
  leastJerk: { kind: "leastJerk" },
  overshoot: { kind: "overshoot", by: 0.1 },
  drawn: {
    kind: "drawn",
    points: [
      { x: 0, y: 0 },
      { x: 0.35, y: 0.12 },
      { x: 0.7, y: 0.9 },
      { x: 1, y: 1 },
    ],
  },
};

/** How a move starts and ends: by name, with its curve beside it. */
export function EasingField({ easing, number, onEasing }: EasingFieldProps) {
  return (
    <div className="min-w-0">
      <div className="flex items-end gap-1">
        <ChoiceField
          label={`Softness of step ${number}`}
          value={easing.kind}
          choices={words}
          onChoose={(kind) => onEasing(fresh[kind])}
          className="min-w-0 grow"
        />
        <EasingCurve easing={easing} />
      </div>
      {easing.kind === "overshoot" && (
        <ShareField
          label="goes past by"
          share={easing.by}
          low={0.01}
          high={0.5}
          onCommit={(by) => onEasing({ kind: "overshoot", by })}
          className="mt-1"
        />
      )}
      {easing.kind === "drawn" && (
        <div className="mt-1 grid">
          <DrawnCurve
            points={easing.points}
            onPoints={(points) => onEasing({ kind: "drawn", points: pinned(points) })}
          />
        </div>
      )}
    </div>
  );
}

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
