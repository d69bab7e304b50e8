import type { Battery, Chemistry } from "@core/project";

interface Cell {
  readonly name: string;
  /** Resting voltage over charge, from empty to full in equal steps. */
  readonly volts: readonly number[];
  /** Of a cell of 2 Ah. */
  readonly usualMilliohm: number;
}

/** Resting voltages of a cell, at room temperature: rounded from what is generally published of each chemistry. Empty is where one stops to spare it. */
export const cells: Readonly<Record<Chemistry, Cell>> = {
  lithium: {
    name: "lithium ion or polymer",
    volts: [3.3, 3.6, 3.68, 3.72, 3.76, 3.8, 3.85, 3.92, 4.0, 4.1, 4.2],
    usualMilliohm: 30,
  },
  lithiumIron: {
    name: "lithium iron phosphate",
    volts: [2.8, 3.1, 3.2, 3.23, 3.26, 3.28, 3.3, 3.31, 3.33, 3.35, 3.6],
    usualMilliohm: 20,
  },
  nickel: {
    name: "nickel metal hydride",
    volts: [1.0, 1.15, 1.2, 1.22, 1.24, 1.25, 1.26, 1.28, 1.3, 1.34, 1.42],
    usualMilliohm: 25,
  },
  alkaline: {
    name: "alkaline",
    volts: [0.9, 1.05, 1.12, 1.17, 1.21, 1.25, 1.29, 1.34, 1.4, 1.48, 1.58],
    usualMilliohm: 150,
  },
};

/** What a battery gives unloaded, in V, at a charge between 0 (empty) and 1 (full). */
export function restingVolts({ chemistry, cells: count }: Battery, charge: number): number {
  const { volts } = cells[chemistry];
  const place = Math.max(0, Math.min(1, charge)) * (volts.length - 1);
  const at = Math.min(volts.length - 2, Math.floor(place));
  const [from, to] = [volts[at] as number, volts[at + 1] as number];
  return count * (from + (place - at) * (to - from));
}

/** Its inner resistance, in Ω. */
export const innerOhm = ({ cells: count, cellMilliohm }: Battery): number => (count * cellMilliohm) / 1000;
