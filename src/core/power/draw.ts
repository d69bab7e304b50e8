import type { ServoCard } from "@core/project";

/** Where a current comes from: somebody measured it, the sheet says so, or nobody knows and it is guessed from the rating. */
export type Said = "measured" | "sheet" | "model";

/** What a servo draws, in A at the voltage of its rating. */
export interface Draw {
  readonly idleA: number;
  readonly movingA: number;
  /** Held fast, or as it begins to turn. */
  readonly stallA: number;
  readonly atVolts: number;
  readonly said: { readonly idle: Said; readonly moving: Said; readonly stall: Said };
}

/** Where nobody has measured it, a hobby servo that turns freely draws about a quarter of its stall current, and a hundredth at rest. */
const usualMovingShare = 0.25;
const usualIdleShare = 0.01;

/** So long a servo that begins to turn draws what it draws when it is held fast. */
export const startMs = 60;

/**
 * Whether a servo turns between two looks at its target. However slowly it begins: a servo that is late by a hair pushes with all it has, and those that are told to begin
 * together do.
 */
export const isTurning = (target: number, next: number, spins: boolean): boolean =>
  spins ? target !== 0 : next !== target;

/** What a servo would draw if nobody had measured it: made from the stall current of its sheet, in A. */
export const modelOf = ({ rating: { stallMa } }: ServoCard): Pick<Draw, "idleA" | "movingA" | "stallA"> => ({
  idleA: (stallMa * usualIdleShare) / 1000,
  movingA: (stallMa * usualMovingShare) / 1000,
  stallA: stallMa / 1000,
});

/** What a servo draws, as its card says; where nobody has measured it, as the model does. */
export function drawOf(card: ServoCard): Draw {
  const { rating, currents } = card;
  const { idleMa, movingMa, highestMa } = currents;
  const model = modelOf(card);
  return {
    idleA: idleMa === null ? model.idleA : idleMa / 1000,
    movingA: movingMa === null ? model.movingA : movingMa / 1000,
    stallA: Math.max(model.stallA, (highestMa ?? 0) / 1000),
    atVolts: rating.atVolts,
    said: {
      idle: idleMa === null ? "model" : "measured",
      moving: movingMa === null ? "model" : "measured",
      stall: highestMa !== null && highestMa > rating.stallMa ? "measured" : "sheet",
    },
  };
}
