import type { MachineJoint } from "../machine";
import type { MachineKey } from "../routines";
import { scaled, targetBits } from "./scale";

/** What the slopes at a key and at the next one would go in the time between them; nothing where no smooth curve lies there. */
export function wholeSlopes({ unit }: MachineJoint, key: MachineKey, next: MachineKey | undefined): string {
  if (key.shape !== "smooth" || !next) return "0, 0";
  const widthMs = next.atMs - key.atMs;
  return [key.slope, next.slope].map((slope) => scaled(slope * widthMs, targetBits(unit))).join(", ");
}
