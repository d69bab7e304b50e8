import type { Layout, Register } from "@core/project";
import { ok, type Problem, problem, type Result } from "@core/result";
import { dissect } from "../packets/dissect";
import { rawIn, reachOf, wordsOf } from "../registers/registers";
import { toldIn } from "../registers/requests";

/** A joint's device, as far as a hand-made packet must mind it. */
export interface GuardedDevice {
  readonly id: number;
  readonly layout: Layout;
  readonly label: string;
  /** It has its torque, or may have it: what moves its limits moves it. */
  readonly isHeld: boolean;
}

/**
 * Whether bytes that a person made may go onto the wire. What moves a joint's servo goes through the gate and nowhere else: a packet that would is refused, in
 * words, and so is one of which nobody knows what it does to a joint. Whatever is no packet of a family is let through, since no device listens to it.
 */
export function guardPacket(
  bytes: Uint8Array,
  layouts: readonly Layout[],
  joints: readonly GuardedDevice[],
): Result<null> {
  for (const layout of layouts)
    for (let from = 0; from < bytes.length; from += 1) {
      const { packet } = dissect(layout, "request", bytes, from);
      const mine = joints.filter((joint) => joint.layout.id === layout.id);
      if (!packet || mine.length === 0) continue;
      const hit = mine.find(({ id }) => id === packet.id || packet.id === layout.broadcastId);
      const operation = layout.operations.find(({ code }) => code === packet.operation);
      const told = operation && toldIn(layout, operation, packet.parameters);
      switch (operation?.kind) {
        case "ping":
        case "read":
        case "groupRead":
          continue;
        case "factoryReset":
        case "restart":
          if (hit)
            return problem(
              `This would let go of ${hit.label} without a word. Release it first, and take the joint off the bus.`,
            );
          continue;
        case "write":
        case "groupWrite": {
          // Whom it would be for stands in what cannot be read: it may be anybody.
          const anybody = operation.kind === "groupWrite" ? mine[0] : hit;
          if (!told && anybody)
            return problem(
              `This writes, and nobody can say what: its bytes do not fit “${operation.label}”. ${anybody.label} might take it for something else. Mend the packet first.`,
            );
          const writes = told?.each ?? [{ id: packet.id, data: told?.data }];
          for (const { id, data } of writes) {
            const joint = mine.find((one) => one.id === id || id === layout.broadcastId);
            const refusal = joint && data && refusalOf(layout, told?.address ?? 0, data, joint);
            if (refusal) return refusal;
          }
          continue;
        }
        default:
          if (hit)
            return problem(
              `Nobody knows what ${operation ? `“${operation.label}”` : `operation ${packet.operation}`} does to ${hit.label}, which is a joint. Take the joint off the bus to try it.`,
            );
      }
    }
  return ok(null);
}

/** Why a write to a joint's device must not go out; null where it is harmless. Every register that one of the bytes falls into is looked at, whole or in part. */
export function refusalOf(
  layout: Layout,
  address: number,
  data: ArrayLike<number>,
  joint: Pick<GuardedDevice, "label" | "isHeld">,
): Problem | null {
  for (const register of layout.registers) {
    const reach = reachOf(register);
    const isReached = reach.address < address + data.length && address < reach.address + reach.size;
    const refusal = isReached ? dangerOf(layout, register, address, data, joint) : null;
    if (refusal) return refusal;
  }
  return null;
}

function dangerOf(
  layout: Layout,
  register: Register,
  address: number,
  data: ArrayLike<number>,
  { label, isHeld }: Pick<GuardedDevice, "label" | "isHeld">,
): Problem | null {
  const isWhole = address <= register.address && register.address + register.size <= address + data.length;
  const raw = isWhole ? rawIn(layout, register, data, register.address - address) : Number.NaN;
  const what = isWhole ? wordsOf(register, raw) : "somewhere, by a part of its goal";
  switch (register.role) {
    case "goalPosition":
    case "goalVelocity":
      return problem(
        `${label} is a joint: only the gate may send it to ${what}, within its travel limits. Ask for it on the dial.`,
      );
    case "torque":
      return raw === 0
        ? null
        : problem(`${label} is a joint: hold it (H), and it starts from where it stands, without a jump.`);
    case "mode":
      return layout.modes.find(({ value }) => value === raw)?.kind === "position"
        ? null
        : problem(
            `${label} is a joint with an angle; in this mode it would leave its limits. Take the joint off first.`,
          );
    case "lowestPosition":
    case "highestPosition":
      return isHeld
        ? problem(
            `${label} is held: limits that are drawn in would throw it to their edge, as fast as it can. Release it first.`,
          )
        : null;
    case "id":
    case "bitRate":
      return problem(
        `${label} is a joint, and would be lost to the bench without a word. Number it, or change the speed, under “Find and number”.`,
      );
    default:
      return null;
  }
}
