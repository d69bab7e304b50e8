import { type Condition, emptyRoutine, type Pose, type Rig, type Routine } from "@core/project";
import { freshMove, type Step } from "@core/steps";

const owl = (turn: number, nod: number, lids: number, beak: number, tuft: number): Pose["targets"] => ({
  "neck-turn": turn,
  "neck-nod": nod,
  "left-lid": lids,
  "right-lid": lids,
  beak,
  "ear-tuft": tuft,
});

const arm = (turntable: number, shoulder: number, elbow: number, wrist: number, grip: number): Pose["targets"] => ({
  turntable,
  shoulder,
  elbow,
  "wrist-tilt": wrist,
  grip,
});

export const demoPoses: readonly Pose[] = [
  { id: "pose-watch", name: "Watch", group: "Tawny", targets: owl(0, 0, 50, 0, 0) },
  { id: "pose-look-left", name: "Look left", group: "Tawny", targets: owl(-55, -6, 55, 0, 10) },
  { id: "pose-look-up", name: "Look up right", group: "Tawny", targets: owl(40, 24, 60, 0, 25) },
  { id: "pose-blink", name: "Blink", group: "Tawny", targets: { "left-lid": 0, "right-lid": 0 } },
  { id: "pose-call", name: "Call", group: "Tawny", targets: owl(10, -12, 30, 30, 35) },
  { id: "pose-arm-rest", name: "Arm at rest", group: "Trellis", targets: arm(0, -20, 70, 10, 35) },
  { id: "pose-arm-reach", name: "Reach tray", group: "Trellis", targets: arm(-60, 48, 62, 20, 60) },
  { id: "pose-arm-grasp", name: "Grasp tray", group: "Trellis", targets: arm(-60, 54, 66, 18, 12) },
  { id: "pose-arm-lift", name: "Lift tray", group: "Trellis", targets: arm(-60, 10, 60, 30, 12) },
  { id: "pose-arm-over", name: "Over the bench", group: "Trellis", targets: arm(70, 22, 58, 25, 12) },
];

const move = (id: string, poseId: string, moveMs: number, holdMs: number): Step => ({
  ...freshMove(id, poseId),
  pace: { kind: "time", moveMs },
  holdMs,
});

export const demoRoutines: readonly Routine[] = [
  {
    ...emptyRoutine("routine-owl-wakes", "Owl wakes"),
    steps: [
      move("wake-1", "pose-watch", 900, 600),
      move("wake-2", "pose-blink", 200, 120),
      move("wake-3", "pose-look-left", 1100, 700),
      move("wake-4", "pose-look-up", 1400, 600),
      move("wake-5", "pose-blink", 200, 120),
      move("wake-6", "pose-call", 700, 500),
      move("wake-7", "pose-watch", 900, 0),
    ],
  },
  {
    ...emptyRoutine("routine-tray", "Carry a tray"),
    repeat: { kind: "forever" },
    steps: [
      move("tray-1", "pose-arm-reach", 1800, 200),
      move("tray-2", "pose-arm-grasp", 700, 300),
      move("tray-3", "pose-arm-lift", 1200, 200),
      move("tray-4", "pose-arm-over", 2200, 400),
      move("tray-5", "pose-arm-rest", 1800, 600),
    ],
  },
];

/** The owl has a left and a right; the arm turns about its middle. */
export const demoRigs: readonly Rig[] = [
  {
    id: "tawny",
    label: "Tawny",
    mirror: [
      { kind: "middle", jointId: "neck-turn" },
      { kind: "pair", leftId: "left-lid", rightId: "right-lid", sign: 1 },
    ],
  },
  { id: "trellis", label: "Trellis", mirror: [{ kind: "middle", jointId: "turntable" }] },
  { id: "vent", label: "Vent", mirror: [] },
];

/** With the head bowed, an open beak would hit the post. */
export const demoConditions: readonly Condition[] = [
  {
    id: "beak-and-post",
    while: { jointId: "neck-nod", side: "below", target: -18 },
    stays: { jointId: "beak", side: "below", target: 12 },
  },
];
