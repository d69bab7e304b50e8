import { registerFor, shownOf } from "@core/bus";
import { type Device, deviceName } from "@stores/busBench";
import { useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import type { BusToolProps } from "./toolProps";
import { useValues } from "./useValues";

/** A servo that is no joint yet is tried out as it is: its mode, a goal in the unit of one's choice, its torque. */
export function MoveFree({ bus, device }: BusToolProps & { readonly device: Device }) {
  const { layout } = device;
  const held = useValues(bus, device);
  const [unit, setUnit] = useState<"ticks" | "°" | "turns">("°");
  const read = (role: Parameters<typeof registerFor>[1]): number | undefined => {
    const register = registerFor(layout, role);
    return register ? held.values?.get(register.address) : undefined;
  };
  const mode = layout.modes.find(({ value }) => value === read("mode"));
  const isOn = read("torque") === 1;
  const position = registerFor(layout, "position");
  const goal = registerFor(layout, mode?.kind === "velocity" ? "goalVelocity" : "goalPosition");
  const write = async (role: Parameters<typeof registerFor>[1], raw: number, throughTorque = false) => {
    const register = registerFor(layout, role);
    if (register) await held.write(register, raw, throughTorque);
  };
  if (!position || !goal)
    return (
      <p className="caption">The family names no position and no goal: say in “Family” which registers they are.</p>
    );
  const fullTicks = 360 / Math.abs(position.scale);
  const worth = { ticks: 1, "°": 1 / position.scale, turns: fullTicks }[unit];
  const isVelocity = mode?.kind === "velocity";
  const low = isVelocity ? goal.low : ((mode?.kind === "position" ? read("lowestPosition") : undefined) ?? goal.low);
  const high = isVelocity
    ? goal.high
    : ((mode?.kind === "position" ? read("highestPosition") : undefined) ?? goal.high);
  const goalRaw = held.values?.get(goal.address) ?? 0;
  const percent = (raw: number) => (100 * raw) / goal.high;

  return (
    <div className="max-w-3xl space-y-3">
      <h2 className="heading">{deviceName(device)} is no joint yet</h2>
      <p className="caption">
        It can be tried out here within its own limits. Make a joint of it under “Find and number”, and the dial, poses
        and routines have it.
      </p>
      <div className="sheet flex flex-wrap items-end gap-3">
        <ChoiceField
          label="Mode"
          className="w-60"
          value={String(mode?.value ?? "")}
          choices={layout.modes.map(({ value, label }) => [String(value), label])}
          onChoose={(value) => void write("mode", Number(value), true)}
        />
        <button
          type="button"
          className="btn btn-sm btn-outline"
          aria-pressed={isOn}
          onClick={() => void write("torque", isOn ? 0 : 1)}
        >
          {isOn ? "Torque off" : "Torque on"}
        </button>
        <button type="button" className="btn btn-sm btn-outline" onClick={() => void held.read()}>
          Read anew
        </button>
        <p className="caption w-full">
          A mode can be changed only with the torque off: it goes off for that moment, and comes on again where the
          servo then stands.
        </p>
      </div>
      <div className="sheet flex flex-wrap items-end gap-4">
        {isVelocity ? (
          <QuantityField
            label={`Velocity, −100 to 100 % (${formatNumber(shownOf(goal, goalRaw), 1)} ${goal.unit})`}
            value={percent(goalRaw)}
            unit="%"
            decimals={0}
            step={5}
            units={{ "%": 1, [goal.unit]: goal.unit === "%" ? 1 : 100 / (goal.high * goal.scale) }}
            className="w-72"
            onCommit={(value) => {
              if (Math.abs(value) > 100) return "It turns at −100 to 100 %.";
              void write("goalVelocity", Math.round((value / 100) * goal.high));
              return null;
            }}
          />
        ) : (
          <>
            <QuantityField
              label={`Go to (${formatNumber(low / worth, 1)} to ${formatNumber(high / worth, 1)} ${unit})`}
              value={goalRaw / worth}
              unit={unit}
              decimals={unit === "ticks" ? 0 : 2}
              step={unit === "turns" ? 0.05 : unit === "°" ? 1 : 5}
              className="w-72"
              onCommit={(value) => {
                const raw = Math.round(value * worth);
                if (raw < low || raw > high) return endWords(mode?.atEnd ?? "clamp", mode?.kind === "multiTurn");
                void write("goalPosition", raw);
                return null;
              }}
            />
            <ChoiceField
              label="In"
              value={unit}
              choices={[
                ["ticks", "ticks"],
                ["°", "degrees"],
                ["turns", "turns"],
              ]}
              onChoose={setUnit}
            />
          </>
        )}
        <p className="number">
          stands at{" "}
          {formatNumber(
            (read("position") ?? Number.NaN) / (isVelocity ? 1 / position.scale : worth),
            unit === "ticks" && !isVelocity ? 0 : 2,
          )}{" "}
          {isVelocity ? "°" : unit}
        </p>
        {!isVelocity && mode && (
          <p className="caption w-full">
            {mode.kind === "multiTurn"
              ? `It counts its turns: ${formatNumber(goal.low / fullTicks, 1)} to ${formatNumber(goal.high / fullTicks, 1)} of them.`
              : mode.atEnd === "wrap"
                ? "A goal beyond the end of the turn is taken round: it goes the long way back."
                : "A goal beyond the end of the turn stays at the end."}
          </p>
        )}
      </div>
      <p role="status" className={`text-sm ${held.isBad ? "text-error" : ""}`}>
        {held.said}
      </p>
    </div>
  );
}

function endWords(atEnd: "clamp" | "wrap", isMultiTurn: boolean): string {
  if (isMultiTurn) return "That is more turns than it can count.";
  return atEnd === "wrap"
    ? "That is beyond its turn: it would go round the long way. Choose the mode of many turns for that."
    : "That is beyond its end: it would stop there.";
}
