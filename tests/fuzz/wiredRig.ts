import { layoutById, shippedLayouts, turnOnCard, usualChecks } from "../../src/core/bus";
import {
  checkProject,
  type Joint,
  type Layout,
  type Project,
  type ServoCard,
  type TakeData,
} from "../../src/core/project";
import { newCard } from "../../src/core/servo";
import { seededRandom } from "../../src/core/sim";
import { randomRig } from "./randomRig";

/**
 * A made-up rig of which some joints are smart servos, of the families that ship and of made-up ones: with any of the usual checks, either order of bytes, either kind of stuffing, lengths that count
 * more or less, and all ways in which a goal can be negative.
 */
export function wiredRig(seed: number): { readonly project: Project; readonly takes: readonly TakeData[] } {
  const { project, takes } = randomRig(seed);
  const random = seededRandom(seed + 7000);
  const one = <Item>(items: readonly Item[]): Item => items[Math.floor(random() * items.length)] as Item;
  const chance = (share: number) => random() < share;

  const madeUp = (at: number): Layout => {
    const like = one(shippedLayouts);
    const goal = like.registers.find(({ role }) => role === "goalPosition");
    const free = Math.max(...like.registers.map(({ address, size }) => address + size)) + 2;
    const sign = one(["twos", "none", 15, { address: free + 2, back: 1 }] as const);
    const bits = one(["check", "operation", "length", "id"] as const);
    const covers = like.requestFields.filter(
      (field) => field !== "check" && (field !== "header" || chance(0.3)) && field !== bits,
    );
    const first = like.header[0] as number;
    return {
      ...structuredClone(like),
      id: `made-${at}`,
      name: one(["Wren", "首", "for", "wren"]),
      byteOrder: one(["low first", "high first"]),
      check: { rule: one(usualChecks), covers, byteOrder: one(["low first", "high first"]) },
      length: { size: like.length.size, counts: like.length.counts, plus: like.length.plus + one([0, 1, 2]) },
      stuffing: one([
        null,
        { kind: "escape", escape: 0x7d, xor: 0x20, marks: [first, 0x7d, 0x11] },
        { kind: "insert", after: like.header.slice(0, 2), insert: 0xfd },
        { kind: "insert", after: [0, 0], insert: 0 },
      ] as const),
      operations: like.operations.filter(({ kind }) => kind !== "groupWrite" || chance(0.6)),
      registers: goal
        ? like.registers.map((register) =>
            register === goal
              ? { ...register, address: free, size: 2, sign, low: sign === "none" ? 0 : -12_000, high: 30_000 }
              : register,
          )
        : like.registers,
    };
  };
  const layouts = Array.from({ length: 2 }, (_, at) => madeUp(at));
  const withLayouts: Project = { ...project, layouts };
  const buses = ["bus-0", "bus-1"].map((id) => ({
    id,
    label: id,
    channels: 250,
    frameHz: [50],
    encoding: { kind: "bus" as const, bitsPerS: 230_400 },
    silence: { afterMs: 500, action: "release" as const },
    link: { kind: "simulated" as const },
  }));
  const cards: ServoCard[] = [...project.cards];
  const joints = project.joints.map((joint, at): Joint => {
    if (joint.axis.kind === "spin" || !chance(0.6)) return joint;
    const layoutId = one([...shippedLayouts, ...layouts]).id;
    const layout = layoutById(withLayouts, layoutId) as Layout;
    const fresh = newCard("smart", `smart-${joint.id}`, "Smart");
    if (fresh.kind !== "smart") return joint;
    cards.push({ ...fresh, layoutId, ...turnOnCard(layout) });
    return { ...joint, cardId: fresh.id, boardId: one(buses).id, channel: at + 1 };
  });
  const used = new Set(joints.map(({ cardId }) => cardId));
  const checked = checkProject({
    ...withLayouts,
    boards: [...project.boards, ...buses],
    cards: cards.filter(({ id }) => used.has(id)),
    joints,
  });
  if (!checked.ok) throw new Error(`${seed}: ${checked.problem}`);
  return { project: checked.value, takes };
}
