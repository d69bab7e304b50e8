/** The three sizes of a jog, smallest first. */
export const jogSizes = ["fine", "normal", "coarse"] as const;
export type JogSize = (typeof jogSizes)[number];

/** What a jog of each size is worth, by the unit that is being jogged. */
export const jogSteps: Readonly<Record<"°" | "µs" | "ticks" | "spin", Readonly<Record<JogSize, number>>>> = {
  "°": { fine: 0.1, normal: 1, coarse: 10 },
  µs: { fine: 1, normal: 10, coarse: 50 },
  ticks: { fine: 1, normal: 5, coarse: 50 },
  spin: { fine: 0.01, normal: 0.05, coarse: 0.25 },
};
