/**
 * Whatever moves a servo reaches the engine as one of these; there is no other way in.
 * Joints, sources, poses and routines are named by id. Targets are degrees, or spin for a continuous servo.
 */
export type Command =
  /** Send a signal so that the joint resists, from where it was last driven to (or home, the first time). */
  | { readonly kind: "hold"; readonly jointId: string }
  /** Send no signal: the joint goes limp. */
  | { readonly kind: "release"; readonly jointId: string }
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
  | { readonly kind: "source"; readonly sourceId: string; readonly value: number }
  | { readonly kind: "goToPose"; readonly poseId: string; readonly moveMs: number }
  | { readonly kind: "play"; readonly routineId: string }
  /** Ends what plays; its joints stay where they are, held. */
  | { readonly kind: "stop" };
