import type { Lead, Pose } from "@core/project";
import type { LoopRange } from "@core/routine";

/**
 * Whatever moves a servo reaches the engine as one of these; there is no other way in.
 * Joints, sources, poses and routines are named by id. Targets are degrees, or spin for a continuous servo.
 */
export type Command =
  /** Send a signal so that the joint resists, from where it was last driven to (or home, the first time). */
  | { readonly kind: "hold"; readonly jointId: string }
  /** Send no signal: the joint goes limp. */
  | { readonly kind: "release"; readonly jointId: string }
  /** Releases what is held and holds what is limp, for a key: the engine knows at that moment which, a page only what it heard last. */
  | { readonly kind: "holdOrRelease"; readonly jointId: string }
  | { readonly kind: "holdAll" }
  | { readonly kind: "releaseAll" }
  | { readonly kind: "target"; readonly jointId: string; readonly target: number }
  /** A target given as a set point (µs or ticks), for the one at the bench who does not trust the angles yet. */
  | { readonly kind: "setPoint"; readonly jointId: string; readonly setPoint: number }
  /**
   * Lets a joint leave its travel limits while it is calibrated: its angles mean nothing yet. The hard window and the speed
   * limit hold all the same. Ends when it is switched off, released, or anything but a set point moves it.
   */
  | { readonly kind: "calibrate"; readonly jointId: string; readonly isOn: boolean }
  /**
   * One step of the search for an end stop: stands at `from` for `settleMs`, then steps to `to`, and stands back at `backTo` by itself
   * when `forMs` are over. The engine keeps the time: however slow, hidden or dead the page is, no servo is pressed for longer.
   * Calibrates as `calibrate` does. Anything else that is asked of the joint ends it.
   */
  | {
      readonly kind: "press";
      readonly jointId: string;
      readonly from: number;
      readonly to: number;
      readonly backTo: number;
      readonly settleMs: number;
      readonly forMs: number;
    }
  /** A step from what was last asked, in targets or in set points. Steps never pile up behind a travel limit. */
  | { readonly kind: "jog"; readonly jointId: string; readonly by: number; readonly in: "target" | "setPoint" }
  | { readonly kind: "home"; readonly jointId: string }
  /** `atMs` says when it was moved, in ms since 1970 with fractions: for measuring how long it takes to the pulse. */
  | { readonly kind: "source"; readonly sourceId: string; readonly value: number; readonly atMs?: number }
  /** A source has vanished (a gamepad unplugged), or is back. */
  | { readonly kind: "lost"; readonly sourceId: string; readonly isLost: boolean }
  /** The thumb on what moves only while it is held is gone: the joints that it had stop where they are, and are held. */
  | { readonly kind: "letGo"; readonly sourceId: string }
  /** Moves the world behind a simulated sensor, 0…1. */
  | { readonly kind: "world"; readonly sourceId: string; readonly value: number }
  /** Only this lead, or only the leads of this source, move anything; null for all. */
  | { readonly kind: "solo"; readonly leadId: string | null; readonly sourceId: string | null }
  /** Leads are worked out and shown, but move nothing. */
  | { readonly kind: "testInputs"; readonly isOn: boolean }
  /** Whoever has the joint lets it go to whoever else wants it. */
  | { readonly kind: "giveBack"; readonly jointId: string }
  | { readonly kind: "goToPose"; readonly poseId: string; readonly moveMs: number }
  /** The same to targets that are no pose of the bench (yet): where a figure was dragged to. By joint id. */
  | { readonly kind: "goTo"; readonly targets: Pose["targets"]; readonly moveMs: number }
  /** Plays from a moment of the routine (0 unless it is named): its joints go there first. Paused, they stay there. */
  | { readonly kind: "play"; readonly routineId: string; readonly fromMs?: number; readonly isPaused?: boolean }
  /** Pauses what plays, whatever it is, or has it go on; plays the routine where nothing does. */
  | { readonly kind: "playOrPause"; readonly routineId: string; readonly fromMs: number }
  /** Lets what plays stand still, or go on. */
  | { readonly kind: "pause" }
  /** Goes to another moment of what plays, and goes on from there, or stands there if it stood still. */
  | { readonly kind: "seek"; readonly atMs: number }
  /** To the next step, or back to the beginning of this one, or of the one before. What waits goes on. */
  | { readonly kind: "skip"; readonly by: 1 | -1 }
  /** Plays a part over and over; null for all of it. */
  | { readonly kind: "loop"; readonly range: LoopRange | null }
  /** 1 is as written; 0.1 to 3. */
  | { readonly kind: "playSpeed"; readonly speed: number }
  /**
   * Records what some joints are let do while a routine plays the others, if one is named. Everything first goes to where it begins, then
   * `countInMs` are counted. With `punch` its joints are played as well, except in that part. It lasts until it is ended, or the part is over.
   */
  | {
      readonly kind: "record";
      readonly jointIds: readonly string[];
      readonly routineId: string | null;
      readonly fromMs: number;
      readonly countInMs: number;
      readonly punch: LoopRange | null;
      /** Writes down where the joints are seen to stand, as a hand turns them while they are limp, and not what they are asked for. */
      readonly byHand?: boolean;
    }
  | { readonly kind: "endRecord" }
  /** Ends what plays; its joints stay where they are, held. */
  | { readonly kind: "stop" };

/** What a lead may do instead of moving something. */
export type LeadAction = Extract<Lead["target"], { kind: "action" }>["action"];

/** What such an action asks of the engine. */
export function commandOf(action: Exclude<LeadAction, { kind: "capture" | "cue" }>): Command {
  if (action.kind === "release") return { kind: "releaseAll" };
  if (action.kind === "next") return { kind: "skip", by: 1 };
  return action.kind === "previous" ? { kind: "skip", by: -1 } : action;
}

/** What a lead's action leaves to the page. */
export type Asked =
  | { readonly kind: "capture" }
  /** A cue for other benches. */
  | { readonly kind: "cue"; readonly name: string }
  | { readonly kind: "tell"; readonly sentence: string };
