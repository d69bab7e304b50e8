import { goalPackets, hexBytes, layoutById, operationFor, registerFor, writeRequest } from "@core/bus";
import { byId, type Joint, type Layout, type Operation, type Project, type Register } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { namesFor } from "../names";

/** A family of smart servos as code needs it: how its packets are built, and who is of it. */
export interface MachineFamily {
  readonly name: string;
  readonly layout: Layout;
  /** Its joints, by their places among those that are handed off. */
  readonly joints: readonly number[];
  readonly goal: Register;
  /** Null where it always holds. */
  readonly torque: Register | null;
  readonly write: Operation;
  /** Null where each device is written to alone. */
  readonly group: Operation | null;
  /** No packet of the code is longer, with everything that stuffing adds. */
  readonly longestBytes: number;
  /** The very packets, as comments. */
  readonly comments: readonly string[];
}

/** What a joint of a family is told besides goals. */
export interface Switching {
  readonly holds: Uint8Array | null;
  readonly letsGo: Uint8Array | null;
}

/** The families of these joints, in the order in which they are met. Fails by name where one has no way to be told a goal. */
export function machineFamilies(project: Project, joints: readonly Joint[]): Result<readonly MachineFamily[]> {
  const wired = joints.flatMap((joint, place) => {
    const card = byId(project.cards, joint.cardId);
    return card.kind === "smart" ? [{ joint, place, layout: layoutById(project, card.layoutId) }] : [];
  });
  const layouts = [...new Set(wired.map(({ layout }) => layout))];
  const names = namesFor(
    layouts.map((layout) => layout?.name ?? ""),
    "family",
  );
  const families: MachineFamily[] = [];
  for (const [at, layout] of layouts.entries()) {
    const mine = wired.filter((one) => one.layout === layout);
    const goal = layout && registerFor(layout, "goalPosition");
    const write = layout && operationFor(layout, "write");
    if (!layout || !goal || !write)
      return problem(
        `${mine[0]?.joint.label} cannot be told where to go by packets: its family says neither how nor where. Leave it out.`,
      );
    const group = layout.broadcastId === null ? null : operationFor(layout, "groupWrite");
    families.push({
      name: names[at] as string,
      layout,
      joints: mine.map(({ place }) => place),
      goal,
      torque: registerFor(layout, "torque"),
      write,
      group,
      longestBytes: 2 * (mine.length * (goal.size + 3) + 64),
      comments: commentsOf(
        layout,
        mine.map(({ joint }) => joint),
      ),
    });
  }
  return ok(families);
}

/** The packets with which a device is told to hold, and to let go. */
export function switchingOf({ layout, torque }: MachineFamily, id: number): Switching {
  const bytes = (raw: number) => (torque ? (writeRequest(layout, id, torque, raw, true)?.bytes ?? null) : null);
  return { holds: bytes(1), letsGo: bytes(0) };
}

/** Modes of each, and all goals at 0, byte by byte. */
function commentsOf(layout: Layout, joints: readonly Joint[]): readonly string[] {
  const mode = registerFor(layout, "mode");
  const goal = registerFor(layout, "goalPosition");
  const modes = joints.flatMap(({ label, channel }) =>
    layout.modes.flatMap((one) => {
      const bytes = mode && writeRequest(layout, channel, mode, one.value, true)?.bytes;
      return bytes ? [`${label}, id ${channel}, ${one.label}: ${hexBytes(bytes)}`] : [];
    }),
  );
  const middle = goal ? Math.round((goal.low + goal.high) / 2) : 0;
  const goals = goalPackets(joints.map(({ channel }) => ({ id: channel, layout, goal: middle })));
  return [
    ...modes,
    ...goals.map(
      ({ bytes }, at) =>
        `${goals.length === 1 ? "All" : joints[at]?.label} to ${middle}, the middle of its register: ${hexBytes(bytes)}`,
    ),
  ];
}
