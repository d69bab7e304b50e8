import type { Layout } from "@core/project";
import { turnOf } from "../registers/registers";
import { noTelemetry, type Telemetry } from "../registers/telemetry";

/** A device on the bus that is a joint. */
export interface BusDevice {
  readonly id: number;
  readonly layout: Layout;
  /** How far its goal may step in one frame while it catches up, in ticks. */
  readonly calmTicksPerFrame: number;
  /** How far it may step in one frame at any time: the joint's speed limit; infinite without one. */
  readonly fastestTicksPerFrame: number;
  /** The hard window of its card, in ticks: no goal outside it leaves, and a servo that stands outside it is not switched on. */
  readonly window: { readonly low: number; readonly high: number };
}

/** What the bench should know of: a device fell silent, is back, was restarted or has let go and is limp; or stays limp, since it stands outside its
 * window, is set to turn on and on, or has position limits of its own that do not hold the place where it stands. */
export interface DeviceNews {
  readonly id: number;
  readonly kind: "silent" | "back" | "restarted" | "letGo" | "outside" | "turning" | "ends";
  readonly error: number;
}

/** Nobody knows / limp / finding out where it stands / its goal follows what is wanted / does not answer. */
export type Phase = "unknown" | "limp" | "waking" | "held" | "silent";

/** A device as the session lives with it. */
export interface LiveDevice extends BusDevice {
  calmTicksPerFrame: number;
  fastestTicksPerFrame: number;
  window: BusDevice["window"];
  /** What the engine wants of it; NaN for limp. */
  wanted: number;
  phase: Phase;
  /** The goal of this frame. */
  goal: number;
  /** The goal that last got onto the wire, or where it stood when it was switched on: no step is larger than may be from there. */
  left: number;
  /** Its goal is led to what is wanted in calm steps, because it was away or has just been switched on. */
  isCatchingUp: boolean;
  misses: number;
  calledUs: number;
  /** A question how it is waits or is on the wire; another one would not tell more. */
  isAsked: boolean;
  /** It is being switched on or off. */
  isSwitching: boolean;
  timesSensed: number;
  readonly telemetry: Telemetry;
}

/** A reading trembles a little: so far outside its window a servo may seem to stand. Half a degree, or two ticks. */
export const ticksOfPlay = ({ layout }: BusDevice): number => Math.max(2, 0.5 / (turnOf(layout)?.degPerTick ?? 0.25));

/** A device of which nothing is known yet. */
export const unknownDevice = (device: BusDevice): LiveDevice => ({
  ...device,
  wanted: Number.NaN,
  phase: "unknown",
  goal: Number.NaN,
  left: Number.NaN,
  isCatchingUp: false,
  misses: 0,
  calledUs: Number.NEGATIVE_INFINITY,
  isAsked: false,
  isSwitching: false,
  timesSensed: 0,
  telemetry: noTelemetry(),
});

/** It is let push, or let go on, from where it stands; what is wanted is reached in calm steps. */
export function holdWhereItStands(device: LiveDevice): void {
  const { position } = device.telemetry;
  device.phase = "held";
  device.goal = position;
  device.left = position;
  device.isCatchingUp = true;
}

/** Leads the goal of a held device a step nearer to what is wanted, never out of its window. */
export function leadGoal(device: LiveDevice): void {
  const { left, window, calmTicksPerFrame, fastestTicksPerFrame } = device;
  const [low, high] = [Math.ceil(window.low), Math.floor(window.high)];
  // A window that was drawn in around it: it comes in as calmly as one that was away.
  const isAway = left < low || left > high;
  const most = device.isCatchingUp || isAway ? calmTicksPerFrame : fastestTicksPerFrame;
  const to = Math.max(low, Math.min(high, device.wanted));
  const gap = to - left;
  device.goal = Math.abs(gap) <= most ? to : left + Math.sign(gap) * most;
  if (device.goal === to) device.isCatchingUp = false;
}
