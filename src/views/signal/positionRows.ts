import { timeUnitsUs, type UnitTable } from "@core/signal";
import type { JointBench } from "@stores/jointBench";

/** One position in one unit: the exact number, and what it is after the board's rounding. */
export interface PositionRow {
  readonly name: string;
  readonly unit: string;
  readonly decimals: number;
  readonly units?: UnitTable;
  /** What the arrow keys add. */
  readonly step: number;
  readonly exact: number;
  readonly made: number;
  toTarget(value: number): number;
}

/** The position of a target in every unit that its servo and board know. */
export function positionRows({ map, maker, card }: JointBench, target: number): readonly PositionRow[] {
  const setPoint = map.toSetPoint(target);
  const register = maker.toRegister(setPoint);
  const made = maker.toSetPoint(register);
  const isSpin = map.targetUnit === "spin";
  const position: PositionRow = {
    name: isSpin ? "Spin" : "Angle",
    unit: isSpin ? "" : "°",
    decimals: isSpin ? 3 : 2,
    ...(isSpin && { units: { "": 1, "%": 0.01 } }),
    step: isSpin ? 0.05 : 1,
    exact: target,
    made: map.toTarget(made),
    toTarget: (value) => value,
  };
  const number: PositionRow = {
    name: maker.registerName === "count" ? "Count" : "Tick",
    unit: maker.registerName === "count" ? "counts" : "ticks",
    decimals: 2,
    step: 1,
    exact: maker.exactRegister(setPoint),
    made: register,
    toTarget: (value) => map.toTarget(value * maker.step),
  };
  if (card.kind === "smart") return [position, { ...number, name: "Tick" }];
  return [
    position,
    {
      name: "Pulse",
      unit: "µs",
      decimals: 2,
      units: timeUnitsUs,
      step: 10,
      exact: setPoint,
      made,
      toTarget: (value) => map.toTarget(value),
    },
    {
      name: "Duty",
      unit: "%",
      decimals: 4,
      step: 0.1,
      exact: (100 * setPoint) / maker.periodUs,
      made: (100 * made) / maker.periodUs,
      toTarget: (value) => map.toTarget((value / 100) * maker.periodUs),
    },
    number,
  ];
}
