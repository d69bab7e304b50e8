import { setPointUnit } from "@core/project";
import { timeUnitsUs, type UnitTable } from "@core/signal";
import type { JointBench } from "@stores/jointBench";

/** The units in which a person may type a set point of this joint, on their own board: what each is worth in the card's unit. */
export const setPointUnits = ({ card, maker }: JointBench): UnitTable =>
  setPointUnit(card) === "ticks" ? { ticks: 1 } : { ...timeUnitsUs, "%": maker.periodUs / 100, counts: maker.step };

export const setPointDecimals = ({ card }: JointBench): number => (card.kind === "smart" ? 0 : 1);
