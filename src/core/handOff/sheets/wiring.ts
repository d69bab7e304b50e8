import { countWithin, encodingNames } from "@core/encodings";
import { frameHzOf, type Project } from "@core/project";
import { jointBenchOf } from "@core/rig";
import { paginate } from "./paginate";

/** One plug: who is on it. */
export interface PlugRow {
  readonly channel: number;
  readonly joint: string;
  readonly rig: string;
  readonly servo: string;
  /** Colours of ground, supply and signal. */
  readonly wires: readonly [string, string, string];
  /** Limits and home with their set points and counts; an empty text where the joint has none. */
  readonly low: string;
  readonly home: string;
  readonly high: string;
  readonly window: string;
}

export interface BoardBlock {
  readonly board: string;
  readonly about: string;
  /** It goes on from the page before. */
  readonly goesOn: boolean;
  readonly rows: readonly PlugRow[];
}

/** Who is on which channel, board by board. */
export interface WiringPage {
  readonly kind: "wiring";
  readonly blocks: readonly BoardBlock[];
}

export const plugRowMm = 11;
export const boardHeadMm = 16;

const short = (value: number) => String(Number(value.toFixed(1))).replace("-", "−");

export function wiringPages(project: Project, room: number): readonly WiringPage[] {
  const blocks = project.boards.flatMap((board) => {
    const joints = project.joints.filter(({ boardId }) => boardId === board.id).sort((a, b) => a.channel - b.channel);
    if (joints.length === 0) return [];
    const about =
      board.encoding.kind === "bus"
        ? `${encodingNames.bus}, ${board.encoding.bitsPerS} bit/s; numbers are ids`
        : `${encodingNames[board.encoding.kind]}, ${board.channels} channels, ${[...new Set(joints.map(({ channel }) => frameHzOf(board, channel)))].join(" and ")} Hz`;
    const rows = joints.map((joint): PlugRow => {
      const { card, map, maker } = jointBenchOf(project, joint);
      const at = (target: number) => {
        const setPoint = map.toSetPoint(target);
        const count = countWithin(maker, setPoint, card.window.low, card.window.high);
        const unit = card.kind === "smart" ? "ticks" : "µs";
        const sent = maker.countName === "µs" || maker.countName === "tick" || Number.isNaN(count) ? "" : `, ${count}`;
        return `${short(target)}${map.targetUnit === "°" ? "°" : ""}: ${short(setPoint)} ${unit}${sent}`;
      };
      return {
        channel: joint.channel,
        joint: joint.label,
        rig: project.rigs.find(({ id }) => id === joint.rigId)?.label ?? "",
        servo: card.label,
        wires: [card.wires.ground, card.wires.supply, card.wires.signal],
        low: at(map.lowTarget),
        home: at(map.homeTarget),
        high: at(map.highTarget),
        window: `${short(card.window.low)} … ${short(card.window.high)}`,
      };
    });
    return [{ board: board.label, about, rows }];
  });
  // A board that does not fit goes on, under its name again.
  const most = Math.max(1, Math.floor((room - boardHeadMm) / plugRowMm));
  const cut = blocks.flatMap(({ rows, ...block }) =>
    Array.from({ length: Math.ceil(rows.length / most) }, (_, at) => ({
      ...block,
      goesOn: at > 0,
      rows: rows.slice(at * most, (at + 1) * most),
    })),
  );
  return paginate(cut, ({ rows }) => boardHeadMm + rows.length * plugRowMm, room).map((some) => ({
    kind: "wiring",
    blocks: some,
  }));
}
