import { type Board, describeBoard, type Project, setWire } from "@core/project";
import { boardAsSaid } from "@core/signal";
import type { Wire } from "@core/wire";
import { dequal } from "dequal";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { edit, projectNow } from "./document";
import { linkStore } from "./live";

/**
 * The wires that a person has opened on this computer: the very wire of each board of the project that is on the bench. What a project says of its wires
 * came perhaps from another computer, where that name meant something else: a wire is opened only where somebody opened it before.
 */
export const wireStore = createStore<Readonly<Record<string, Wire>>>()(() => ({}));

const placeOf = (projectId: string) => `vantel.wires.${projectId}`;

/** What was opened here before, as the browser kept it. */
export function recallWires(projectId: string): void {
  let kept: Readonly<Record<string, Wire>> = {};
  try {
    kept = JSON.parse(localStorage.getItem(placeOf(projectId)) ?? "{}");
  } catch {
    // What cannot be read was not opened.
  }
  wireStore.setState(kept, true);
}

function keep(wires: Readonly<Record<string, Wire>>): void {
  wireStore.setState(wires, true);
  try {
    localStorage.setItem(placeOf(projectNow().id), JSON.stringify(wires));
  } catch {
    // It is opened all the same, until the page is closed.
  }
}

/** Whether a board is on a wire of its own here, and so are its servos. */
export const useIsReal = (board: Pick<Board, "id" | "link">): boolean =>
  useStore(wireStore, (wires) => isRealHere(wires, board));

/** The same, of a wire that was opened on this computer. */
export const isRealHere = (wires: Readonly<Record<string, Wire>>, { id, link }: Pick<Board, "id" | "link">): boolean =>
  link.kind !== "simulated" && dequal(wires[id], link);

/** The project as it is wired here: a board whose wire nobody has opened on this computer is simulated. */
export function asWiredHere(project: Project): Project {
  const wires = wireStore.getState();
  const isAsSaid = (board: Board) => board.link.kind === "simulated" || isRealHere(wires, board);
  if (project.boards.every(isAsSaid)) return project;
  return {
    ...project,
    boards: project.boards.map((board) => (isAsSaid(board) ? board : { ...board, link: { kind: "simulated" } })),
  };
}

/** Opens a wire for a board, and keeps it with the project. Nothing moves by that: its joints are limp until somebody holds them. */
export function openWire(boardId: string, wire: Wire): boolean {
  keep({ ...wireStore.getState(), [boardId]: wire });
  const board = projectNow().boards.find(({ id }) => id === boardId);
  return dequal(board?.link, wire) || edit(setWire(boardId, wire));
}

/** Closes the wire of a board; the project still knows it, and offers it. */
export function closeWire(boardId: string): void {
  const { [boardId]: _, ...others } = wireStore.getState();
  keep(others);
}

/** The edit that makes a board what it says that it is; null where it says nothing, or nothing that Vantel can describe. */
export function takingOver(boardId: string) {
  const greeting = linkStore.getState().find((link) => link.boardId === boardId)?.greeting;
  const board = projectNow().boards.find(({ id }) => id === boardId);
  const said = greeting && board && boardAsSaid(board, greeting);
  return said ? describeBoard(boardId, said) : null;
}

/** What the server tells of a serial port of its computer. */
export interface ServerPort {
  readonly path: string;
  readonly maker: string | null;
  readonly serialNumber: string | null;
  readonly vendorId: string | null;
  readonly productId: string | null;
}

/** The serial ports of the computer that serves Vantel; null where no server answers. */
export const serverPorts = (): Promise<readonly ServerPort[] | null> =>
  fetch("/api/ports")
    .then((answer) => (answer.ok ? (answer.json() as Promise<readonly ServerPort[]>) : null))
    .catch(() => null);

/** What is used of Web Serial in the window. */
interface WindowPort {
  getInfo(): { usbVendorId?: number; usbProductId?: number };
}
interface WindowSerial {
  requestPort(): Promise<WindowPort>;
  getPorts(): Promise<readonly WindowPort[]>;
}
const serial = () => (navigator as Navigator & { serial?: WindowSerial }).serial;

export const hasBrowserPorts = (): boolean => typeof navigator !== "undefined" && serial() !== undefined;

/** Asks the person for a port of this browser; null when they chose none. */
export async function chooseBrowserPort(bitsPerS: number): Promise<Extract<Wire, { kind: "browserPort" }> | null> {
  const port = await serial()
    ?.requestPort()
    .catch(() => null);
  if (!port) return null;
  const idsOf = (one: WindowPort) => {
    const { usbVendorId, usbProductId } = one.getInfo();
    return { vendorId: usbVendorId ?? null, productId: usbProductId ?? null };
  };
  const ids = idsOf(port);
  const alike = ((await serial()?.getPorts()) ?? []).filter((one) => dequal(idsOf(one), ids));
  return { kind: "browserPort", ...ids, place: Math.max(0, alike.indexOf(port)), bitsPerS };
}
