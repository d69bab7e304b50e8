import type { BusBench } from "@stores/busBench";

/** What a tool of this station gets. */
export interface BusToolProps {
  readonly bus: BusBench;
}
