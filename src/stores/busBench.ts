import { layoutById, layoutsOf } from "@core/bus";
import type { Board, Joint, Layout, Project, SmartCard } from "@core/project";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { createStore } from "zustand/vanilla";
import { busStore } from "./bus";
import { useProject } from "./document";

/** A servo on a bus, as the views speak of it: found on the wire, or wanted by a joint. */
export interface Device {
  readonly layout: Layout;
  readonly id: number;
  readonly joint: Joint | null;
  readonly isClash: boolean;
  /** It was found at another speed than the bus runs at. */
  readonly strayBitsPerS: number | null;
  /** For a joint's device, how it is. */
  readonly phase: "unknown" | "limp" | "waking" | "held" | "silent" | null;
}

export type BusBoard = Board & { readonly encoding: Extract<Board["encoding"], { kind: "bus" }> };

export const isBus = (board: Board): board is BusBoard => board.encoding.kind === "bus";

/** Which device the station is about. */
export const deviceStore = createStore<{ readonly layoutId: string; readonly id: number } | null>()(() => null);

export const chooseDevice = (device: { readonly layoutId: string; readonly id: number } | null): void =>
  deviceStore.setState(device, true);

/** The bus that is looked at, with everybody who is known to be on it. */
export interface BusBench {
  readonly board: BusBoard;
  readonly layouts: readonly Layout[];
  readonly devices: readonly Device[];
  readonly chosen: Device | null;
}

export function useBusBench(board: BusBoard): BusBench {
  const project = useProject((whole) => whole);
  const found = useStore(busStore, (bus) => bus.found.get(board.id));
  // Reports come ten times a second, phases change seldom.
  const phases = useStore(busStore, useShallow(phasesOf));
  const chosen = useStore(deviceStore);
  const devices = devicesOf(project, board, found ?? [], phases);
  return {
    board,
    layouts: layoutsOf(project),
    devices,
    chosen:
      devices.find(({ layout, id }) => layout.id === chosen?.layoutId && id === chosen.id) ??
      devices.find(({ joint }) => joint) ??
      devices[0] ??
      null,
  };
}

const phasesOf = ({ report }: BusState): ReadonlyMap<number, Device["phase"]> =>
  new Map((report?.devices ?? []).map(({ id, phase }) => [id, phase]));

type BusState = ReturnType<typeof busStore.getState>;

function devicesOf(
  project: Project,
  board: BusBoard,
  found: NonNullable<ReturnType<BusState["found"]["get"]>>,
  phases: ReadonlyMap<number, Device["phase"]>,
): Device[] {
  const devices: Device[] = project.joints.flatMap((joint): Device[] => {
    const card = project.cards.find(({ id }) => id === joint.cardId);
    if (joint.boardId !== board.id || card?.kind !== "smart") return [];
    const layout = layoutById(project, (card as SmartCard).layoutId);
    if (!layout) return [];
    const one = found.find(({ layoutId, id }) => layoutId === layout.id && id === joint.channel);
    const phase = phases.get(joint.channel) ?? null;
    return [
      { layout, id: joint.channel, joint, isClash: one?.isClash ?? false, strayBitsPerS: strayOf(one, board), phase },
    ];
  });
  for (const one of found) {
    const layout = layoutById(project, one.layoutId);
    if (!layout || devices.some((device) => device.layout.id === layout.id && device.id === one.id)) continue;
    devices.push({
      layout,
      id: one.id,
      joint: null,
      isClash: one.isClash,
      strayBitsPerS: strayOf(one, board),
      phase: null,
    });
  }
  return devices.sort((a, b) => a.id - b.id);
}

const strayOf = (one: { readonly bitsPerS: number } | undefined, board: BusBoard): number | null =>
  one && one.bitsPerS !== board.encoding.bitsPerS ? one.bitsPerS : null;

export const speedWords = (bitsPerS: number): string => `${bitsPerS.toLocaleString("en").replaceAll(",", " ")} bit/s`;

/** A device by its name: that of its joint, or its family and number. */
export const deviceName = ({ joint, layout, id }: Device): string => joint?.label ?? `${layout.name} ${id}`;
