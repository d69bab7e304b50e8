import {
  type AngleAxis,
  flipDirection,
  type Joint,
  renameJoint,
  type SpinAxis,
  setHome,
  setSpeedLimit,
  setSpinLimit,
  setSpinUpS,
  setTravel,
} from "@core/project";
import { ratedSpeedDegPerS } from "@core/servo";
import { edit, editForField } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { liveJoint } from "@stores/live";
import { notify } from "@stores/notices";
import { formatNumber } from "./format";
import { NameField } from "./NameField";
import { QuantityField } from "./QuantityField";

/** The joint's own safe range: its limits, home, speed and direction. The gate keeps to them from the next frame on. */
export function LimitsPanel({ bench }: { readonly bench: JointBench }) {
  const { joint } = bench;
  const { axis } = joint;
  return (
    <section className="sheet p-3" aria-label={axis.kind === "angle" ? "Limits and home" : "Limits of its speed"}>
      <div className="mb-1 flex items-center gap-2">
        <NameField
          label="Name of the joint"
          value={joint.label}
          onCommit={(name) => edit(renameJoint(joint.id, name))}
          className="heading min-w-0 grow"
        />
        <button type="button" className="btn btn-xs btn-outline shrink-0" onClick={() => reverse(joint)}>
          Reverse direction
        </button>
      </div>
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        {axis.kind === "angle" ? <AngleLimits bench={bench} axis={axis} /> : <SpinLimits joint={joint} axis={axis} />}
      </div>
    </section>
  );
}

function reverse({ id, axis }: Joint): void {
  if (!edit(flipDirection(id))) return;
  const what =
    axis.kind === "angle" ? "Its limits and its home stay where they are on the machine" : "It turns on as it does";
  notify(`${what}. Poses, routines and leads keep their numbers, and so turn it the other way from now on.`);
}

function AngleLimits({ bench, axis }: { readonly bench: JointBench; readonly axis: AngleAxis }) {
  const { joint, card } = bench;
  return (
    <>
      <AngleField
        bench={bench}
        label="Lower limit"
        value={axis.travel.low}
        take={(deg) => setTravel(joint.id, deg, axis.travel.high)}
      />
      <AngleField
        bench={bench}
        label="Upper limit"
        value={axis.travel.high}
        take={(deg) => setTravel(joint.id, axis.travel.low, deg)}
      />
      <AngleField bench={bench} label="Home" value={axis.homeDeg} take={(deg) => setHome(joint.id, deg)} />
      <QuantityField
        label={`Speed limit (rated ${formatNumber(ratedSpeedDegPerS(card), 0)})`}
        value={axis.speedLimitDegPerS ?? ratedSpeedDegPerS(card)}
        unit="°/s"
        decimals={0}
        step={10}
        onCommit={(value) => editForField(setSpeedLimit(joint.id, value))}
      />
    </>
  );
}

/** A continuous servo: how fast it may turn at most, and how gently it gets there. */
function SpinLimits({ joint, axis }: { readonly joint: Joint; readonly axis: SpinAxis }) {
  return (
    <>
      <QuantityField
        label="Fastest, of full speed"
        value={axis.limit * 100}
        unit="%"
        decimals={0}
        step={5}
        onCommit={(percent) => editForField(setSpinLimit(joint.id, percent / 100))}
      />
      <QuantityField
        label="To full speed in"
        value={axis.rampPerS === null ? 0 : 1 / axis.rampPerS}
        unit="s"
        units={{ s: 1, ms: 0.001 }}
        decimals={2}
        step={0.1}
        onCommit={(seconds) => editForField(setSpinUpS(joint.id, seconds))}
      />
    </>
  );
}

interface AngleFieldProps {
  readonly bench: JointBench;
  readonly label: string;
  readonly value: number;
  readonly take: (deg: number) => Parameters<typeof edit>[0];
}

/** An angle that can be typed, or taken from where the joint stands. */
function AngleField({ bench, label, value, take }: AngleFieldProps) {
  const commit = (deg: number) => editForField(take(deg));
  return (
    <div className="flex items-end gap-1">
      <QuantityField label={label} value={value} unit="°" decimals={1} step={1} onCommit={commit} className="grow" />
      <button
        type="button"
        className="btn btn-sm btn-square btn-ghost"
        title={`${label}: here, where the joint stands`}
        onClick={() => edit(take(Math.round(liveJoint(bench.joint.id, "target") * 10) / 10))}
      >
        <svg viewBox="-9 -13 18 26" className="h-4" aria-hidden="true">
          <path d="M0 12L7 2L7 -11L0 -5L-7 -11L-7 2Z" className="fill-none stroke-current" strokeWidth={2} />
        </svg>
        <span className="sr-only">{label}: here</span>
      </button>
    </div>
  );
}
