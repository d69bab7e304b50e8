import type { BusFaults } from "@core/sim";

/** What a person does to the simulated things at the far end of a link, as with their hands. */
export type SimulationAsk =
  /** Pulls the plug of the board, or puts it back. */
  | { readonly kind: "plug"; readonly isPlugged: boolean }
  | { readonly kind: "plugDevice"; readonly key: string; readonly isPlugged: boolean }
  | { readonly kind: "faults"; readonly faults: BusFaults }
  | { readonly kind: "brownOut" }
  | { readonly kind: "overload"; readonly key: string }
  | { readonly kind: "heat"; readonly key: string; readonly isHot: boolean }
  | { readonly kind: "forceId"; readonly key: string; readonly id: number }
  | { readonly kind: "turnByHand"; readonly key: string; readonly byDeg: number };

/** One simulated device: what a person would see on the table. */
export interface DeviceOnTable {
  readonly key: string;
  readonly label: string;
  readonly layoutId: string;
  readonly isPlugged: boolean;
  readonly isHot: boolean;
}

/** What lies on the table of a bus, and what is wrong on its wire. */
export interface TableReport {
  readonly boardId: string;
  readonly devices: readonly DeviceOnTable[];
  readonly faults: BusFaults;
}
