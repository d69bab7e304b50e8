import type { Layout } from "@core/project";
import { rawBytes, reachOf, registerFor } from "./registers";
import { groupWriteRequest, writeRequest } from "./requests";

/** Where one device is to go. */
export interface Goal {
  readonly id: number;
  readonly layout: Layout;
  /** In ticks, not yet rounded. */
  readonly goal: number;
}

export interface GoalPacket {
  readonly layout: Layout;
  readonly bytes: Uint8Array;
  /** Who answers to it. */
  readonly from: readonly number[];
}

/** The goals of one frame: one packet for each family that can write to many, else one for each device. Goals are rounded, and kept within what the register can hold. */
export function goalPackets(goals: readonly Goal[]): GoalPacket[] {
  const layouts = new Set(goals.map(({ layout }) => layout));
  return [...layouts].flatMap((layout): GoalPacket[] => {
    const register = registerFor(layout, "goalPosition");
    if (!register) return [];
    const each = goals
      .filter((goal) => goal.layout === layout)
      .map(({ id, goal }) => ({ id, raw: Math.max(register.low, Math.min(register.high, Math.round(goal))) }));
    // A direction that stands apart goes along.
    const reach = reachOf(register);
    const together = groupWriteRequest(
      layout,
      reach.address,
      reach.size,
      each.map(({ id, raw }) => ({ id, data: rawBytes(layout, register, raw) })),
    );
    if (together) return [{ layout, bytes: together, from: [] }];
    return each.flatMap(({ id, raw }) => {
      const request = writeRequest(layout, id, register, raw, true);
      return request ? [{ layout, ...request }] : [];
    });
  });
}
