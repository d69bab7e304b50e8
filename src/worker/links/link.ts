import type { BoardOutput } from "@core/engine";
import type { ComparedLine, Greeting, LinkHealthReport, LinkState } from "@core/link";
import type { Board, Project } from "@core/project";
import type { StreamLife } from "@core/wire";
import { busWiringOf } from "./busWiring";

/** The way to one board, whatever it is made of. The bench knows no more of it than this. Times are handed in, in ms. */
export interface Link {
  readonly boardId: string;
  readonly state: LinkState;
  /** A board that has not been greeted takes nothing, and its servos are limp. False on a bus, whose devices say for themselves how they are. */
  readonly mustBeGreeted: boolean;
  /** When it was met last, no servo on it had a signal. */
  readonly wasLimp: boolean;
  /** How often it was met: between two meetings it may have let go. */
  readonly timesMet: number;
  /** It has not said for some frames that it took what was sent. */
  readonly isWaiting: boolean;
  /** What each channel puts out by what it last said; null where it does not say. */
  readonly heard: Float64Array | null;
  /** Whether a frame that gives a channel a signal is on its way, so that `heard` is older than that. */
  isOnItsWay(channel: number): boolean;
  /** What it last read of its servos, by channel; NaN for what cannot be read. */
  readonly positions: Float64Array;
  readonly currentsMa: Float64Array;
  /** Takes a changed document that wires it as before. */
  follow(project: Project): void;
  /** Takes what may leave at all for each channel. */
  limit(output: BoardOutput, nowMs: number): void;
  tick(nowMs: number): void;
  /** Sends a frame. What it must not send it holds back. */
  send(output: BoardOutput, nowMs: number): void;
  /** Lets everything go at once. */
  releaseAll(nowMs: number): void;
  /** How its wire is; always open where the far end is simulated. */
  readonly life: StreamLife;
  /** When it has something to do besides the frames; Infinity for never. */
  readonly nextWakeMs: number;
  /** Does what is due between two frames. */
  wake(nowMs: number): void;
  /** How it did lately. */
  health(nowMs: number): LinkHealthReport;
  /** What the far end says of itself beside what the project says; empty before it was heard, and on a bus. */
  readonly said: readonly ComparedLine[];
  /** What it said of itself; null before, and on a bus. */
  readonly greeting: Greeting | null;
  /** What was heard instead of an answer, in a sentence; null where there is nothing to say. */
  readonly strangeWords: string | null;
  /** Lets everything go, and gives the wire up. */
  close(nowMs: number): void;
}

/** The near end of a wire, whatever it carries. */
export interface WireEnd {
  readonly life: StreamLife;
  close(): void;
}

/** Bytes to and from a board that takes lines. */
export interface LineWire extends WireEnd {
  send(bytes: Uint8Array, nowMs: number): void;
  onBytes: (bytes: Uint8Array, nowMs: number) => void;
}

/** Bytes to and from the devices on a bus, in the time of the wire, in µs. */
export interface PacketWire extends WireEnd {
  /** Bytes begin at a moment, at this speed. */
  send(bytes: Uint8Array, bitsPerS: number, atUs: number): void;
  onBytes: (bytes: Uint8Array, atUs: number) => void;
  /** When something reaches the host next, as far as that is known beforehand; Infinity for a wire that only time will tell. */
  readonly nextEventUs: number;
  /** Time on it passes as it is let pass; a real wire has that of the clock. */
  readonly isOwnTime: boolean;
  /** What the far end is told if this page dies, by whoever outlives it. */
  lastWords: Uint8Array;
  /** Lets arrive what has been said by then. */
  arriveUntil(nowUs: number): void;
}

/** Everything that a link depends on; while it stays the same, a changed project leaves the link alone. With another way of making signals a board begins anew. */
export function wiringOf(board: Board, project: Project): readonly unknown[] {
  const { id, channels, encoding, frameHz, silence, link } = board;
  return encoding.kind === "bus" ? busWiringOf(board, project) : [id, channels, encoding, frameHz, silence, link];
}
