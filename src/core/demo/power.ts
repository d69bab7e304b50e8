import { type Joint, type Rail, type Run, type Supply, servoCable, usualCable } from "@core/project";

/**
 * What feeds the greenhouse. Two things are wrong with it, for whoever looks: the owl's adapter is too weak for all of its servos at once, and the wire to the vent is
 * as thin as it is long.
 */
export const demoSupplies: readonly Supply[] = [
  { id: "supply-owl", label: "5 V for the owl", limitMa: 2500, gives: { kind: "adapter", volts: 5 } },
  { id: "supply-arm", label: "12 V for the arm", limitMa: 8000, gives: { kind: "adapter", volts: 12 } },
  {
    id: "supply-five",
    label: "5 V beside the arm",
    limitMa: 4000,
    gives: { kind: "regulator", works: "switching", volts: 5, headroomVolts: 1, efficiency: 0.9 },
  },
];

export const demoRails: readonly Rail[] = [
  { id: "rail-owl", label: "Owl rail" },
  { id: "rail-arm", label: "Arm rail" },
  { id: "rail-five", label: "5 V rail" },
];

const from = (kind: Run["from"]["kind"], id: string) => ({ kind, id }) as const;

/** From which rail the servos of each board are fed, and how their cables differ from the usual. */
const railOf: Readonly<Record<string, string>> = { fern: "rail-owl", ivy: "rail-arm", pebble: "rail-five" };
const cables: Readonly<Record<string, Partial<Run>>> = {
  turntable: { lengthMm: 200, areaMm2: 0.33 },
  shoulder: { lengthMm: 300, areaMm2: 0.33 },
  elbow: { lengthMm: 500, areaMm2: 0.33 },
  "wrist-tilt": { lengthMm: 700, areaMm2: 0.2 },
  grip: { lengthMm: 800, areaMm2: 0.2 },
  "vent-crank": { lengthMm: 6000, areaMm2: 0.08 },
};

export const demoRuns = (joints: readonly Joint[]): readonly Run[] => [
  {
    id: "run-owl",
    from: from("supply", "supply-owl"),
    to: { kind: "rail", id: "rail-owl" },
    ...usualCable,
    connector: "barrel",
  },
  {
    id: "run-arm",
    from: from("supply", "supply-arm"),
    to: { kind: "rail", id: "rail-arm" },
    ...usualCable,
    areaMm2: 1,
  },
  {
    id: "run-five-in",
    from: from("rail", "rail-arm"),
    to: { kind: "supply", id: "supply-five" },
    ...usualCable,
    lengthMm: 150,
  },
  {
    id: "run-five",
    from: from("supply", "supply-five"),
    to: { kind: "rail", id: "rail-five" },
    ...usualCable,
    lengthMm: 150,
  },
  {
    id: "run-fern",
    from: from("rail", "rail-owl"),
    to: { kind: "board", id: "fern" },
    ...servoCable,
    connector: "headerPin",
  },
  {
    id: "run-pebble",
    from: from("rail", "rail-five"),
    to: { kind: "board", id: "pebble" },
    ...servoCable,
    connector: "headerPin",
  },
  {
    id: "run-ivy",
    from: from("rail", "rail-five"),
    to: { kind: "board", id: "ivy" },
    ...servoCable,
    connector: "headerPin",
  },
  ...joints.map(
    ({ id, boardId }): Run => ({
      id: `run-${id}`,
      from: from("rail", railOf[boardId] ?? "rail-owl"),
      to: { kind: "joint", id },
      ...servoCable,
      ...cables[id],
    }),
  ),
];
