import type { MachineJoint } from "./machine";

/** How a file writes its numbers, in whatever language. */
export interface NumberSpelling {
  readonly isWhole: boolean;
  target(value: number, unit: MachineJoint["unit"]): string;
  /** Targets per second. */
  perS(value: number, unit: MachineJoint["unit"]): string;
  ms(value: number): string;
  /** The smooth curve between two keys. */
  readonly smooth: string;
}
