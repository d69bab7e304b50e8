import { type Edit, type Key, type Routine, setKeys } from "@core/project";
import { mendKind } from "./mendKind";

interface OfLane {
  readonly jointId: string;
}

const ofKeys = (routine: Routine, { jointId }: OfLane, name: string, change: (keys: readonly Key[]) => Key[]): Edit =>
  setKeys(routine.id, jointId, change(routine.lanes.find((lane) => lane.jointId === jointId)?.keys ?? []), name);

/** A stretch of time that is to take so many times as long. */
interface Slowed {
  readonly fromMs: number;
  readonly toMs: number;
  readonly factor: number;
}

/** Mends of a joint's lane. */
export const laneMends = {
  /** Gives the keys of a lane between two moments so many times the time; what follows in the lane comes later. */
  lane: mendKind<OfLane & Slowed>({
    words: () => "Give these keys more time",
    edit: (routine, mend) =>
      ofKeys(routine, mend, "Give keys more time", (keys) =>
        keys.map((key) => ({ ...key, atMs: later(key.atMs, mend) })),
      ),
  }),
  /** Lets the joint go through the keys of a lane without a corner. */
  laneSoft: mendKind<OfLane>({
    words: () => "Go through its keys smoothly",
    edit: (routine, mend) =>
      ofKeys(routine, mend, "Go through keys smoothly", (keys) =>
        keys.map((key) => (key.shape === "line" ? { ...key, shape: "smooth" } : key)),
      ),
  }),
  /** Draws the keys of a lane in to the travel limits. */
  laneWithin: mendKind<OfLane & { readonly low: number; readonly high: number }>({
    words: () => "Draw the keys in to the limits",
    edit: (routine, mend) =>
      ofKeys(routine, mend, "Draw keys in", (keys) =>
        keys.map((key) => ({ ...key, target: Math.min(mend.high, Math.max(mend.low, key.target)) })),
      ),
  }),
  /** Lets a lane begin or end where the moves have the joint, or leave a key in time for the next. */
  laneKey: mendKind<OfLane & Key>({
    words: ({ shape }) => (shape === "line" ? "Add a key, to leave in time" : "Add a key where the moves have it"),
    edit: (routine, mend) =>
      ofKeys(routine, mend, "Add key", (keys) => [
        ...keys,
        { atMs: mend.atMs, target: mend.target, shape: mend.shape },
      ]),
  }),
};

/** Where a moment comes to lie when a stretch of time takes so many times as long. */
function later(atMs: number, { fromMs, toMs, factor }: Slowed): number {
  const withinMs = Math.min(Math.max(atMs - fromMs, 0), toMs - fromMs);
  return atMs + withinMs * (factor - 1);
}
