import type { Layout } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { dissect } from "./dissect";
import { rawIn, registerAt, wordsOf } from "./registers";
import { toldIn } from "./requests";

/** A joint's device, as far as a hand-made packet must mind it. */
export interface GuardedDevice {
  readonly id: number;
  readonly layout: Layout;
  readonly label: string;
}

/**
 * Whether bytes that a person made may go onto the wire. What moves a joint's servo goes through the gate and nowhere else: a packet that would is refused,
 * in words. Whatever is no packet of a family is let through, since no device listens to it.
 */
export function guardPacket(
  bytes: Uint8Array,
  layouts: readonly Layout[],
  joints: readonly GuardedDevice[],
): Result<null> {
  for (const layout of layouts)
    for (let from = 0; from < bytes.length; from += 1) {
      const { packet } = dissect(layout, "request", bytes, from);
      if (!packet) continue;
      const operation = layout.operations.find(({ code }) => code === packet.operation);
      const told = operation && toldIn(layout, operation, packet.parameters);
      if (!operation || !told) continue;
      const mine = joints.filter((joint) => joint.layout.id === layout.id);
      if (operation.kind === "factoryReset" || operation.kind === "restart") {
        const hit = mine.find(({ id }) => id === packet.id || packet.id === layout.broadcastId);
        if (hit)
          return problem(
            `This would let go of ${hit.label} without a word. Release it first, and take the joint off the bus.`,
          );
        continue;
      }
      const writes = (told.each ?? [{ id: packet.id, data: told.data }]).flatMap(({ id, data }) =>
        data ? [{ id, data }] : [],
      );
      for (const { id, data } of writes) {
        const hit = mine.find((joint) => joint.id === id || id === layout.broadcastId);
        const refusal = hit && refusalOf(layout, told.address ?? 0, data, hit);
        if (refusal) return refusal;
      }
    }
  return ok(null);
}

/** Why a write to a joint's device must not go out. */
export function refusalOf(
  layout: Layout,
  address: number,
  data: ArrayLike<number>,
  joint: Pick<GuardedDevice, "label">,
): Result<null> | null {
  for (let at = 0; at < data.length; ) {
    const register = registerAt(layout, address + at);
    if (!register) {
      at += 1;
      continue;
    }
    const raw = rawIn(layout, register, data, at);
    at += register.size;
    const { label } = joint;
    if (register.role === "goalPosition" || register.role === "goalVelocity")
      return problem(
        `${label} is a joint: only the gate may send it to ${wordsOf(register, raw)}, within its travel limits. Ask for it on the dial.`,
      );
    if (register.role === "torque" && raw !== 0)
      return problem(`${label} is a joint: hold it (H), and it starts from where it stands, without a jump.`);
    if (register.role === "mode" && layout.modes.find(({ value }) => value === raw)?.kind === "velocity")
      return problem(
        `${label} is a joint with an angle; turning on and on it would leave its limits. Take the joint off first.`,
      );
  }
  return null;
}
