/** The joints of the demo that the picture shows. A bench without any of them is not shown it. */
export const partIds = [
  "neck-turn",
  "neck-nod",
  "left-lid",
  "right-lid",
  "beak",
  "ear-tuft",
  "turntable",
  "shoulder",
  "elbow",
  "wrist-tilt",
  "grip",
  "vent-crank",
] as const;
export type PartId = (typeof partIds)[number];

/** How each part stands while nobody knows better; degrees of its joint. */
export const restDeg: Readonly<Record<PartId, number>> = {
  "neck-turn": 0,
  "neck-nod": 0,
  "left-lid": 45,
  "right-lid": 45,
  beak: 0,
  "ear-tuft": 0,
  turntable: 0,
  shoulder: -20,
  elbow: 70,
  "wrist-tilt": 10,
  grip: 35,
  "vent-crank": 0,
};

/** Gives the angle at which a part really stands, in degrees of its joint. */
export type PartAngle = (part: PartId) => number;

/** Whether the picture shows anything of a bench with these joints. */
export const hasScene = (joints: readonly { readonly id: string }[]): boolean =>
  joints.some(({ id }) => (partIds as readonly string[]).includes(id));
