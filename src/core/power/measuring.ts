import { byId, type Project } from "@core/project";
import { drawOf, modelOf } from "./draw";
import { placeLabel } from "./net";

/** What is measured of a servo, one after another. */
export const readings = ["idle", "moving", "held", "highest"] as const;
export type Reading = (typeof readings)[number];

export interface MeasureStep {
  readonly reading: Reading;
  /** Where it is kept on the card. */
  readonly field: "idleMa" | "movingMa" | "highestMa";
  readonly name: string;
  readonly does: string;
  /** What the model or the card says now, in A. */
  readonly expectedA: number;
  /** What the model says, whatever was measured, in A. */
  readonly modelA: number;
  /** The range of the meter to begin with, in A: none blows at what is expected, with half as much again. */
  readonly rangeA: number;
}

export interface MeasureGuide {
  /** Where the circuit is broken, and which lead goes where. */
  readonly where: string;
  readonly steps: readonly MeasureStep[];
}

/** What meters have, in A. */
const rangesA = [0.02, 0.2, 2, 10, 20] as const;
const rangeFor = (amps: number): number => rangesA.find((range) => range >= 1.5 * amps) ?? 20;

/** How to measure what a servo draws: in series, in the supply wire of its own cable, the signal and the ground left as they are. */
export function measureGuide(project: Project, jointId: string): MeasureGuide {
  const joint = byId(project.joints, jointId);
  const card = byId(project.cards, joint.cardId);
  const draw = drawOf(card);
  const model = modelOf(card);
  const at = project.runs.findIndex(
    ({ to, carries }) => to.kind === "joint" && to.id === jointId && carries !== "ground",
  );
  const run = project.runs[at];
  const from = run ? placeLabel(project, run.from) : "its supply";
  const wire = card.wires.supply || "supply";
  const step = (
    reading: Reading,
    field: MeasureStep["field"],
    name: string,
    does: string,
    of: "idleA" | "movingA" | "stallA",
  ): MeasureStep => ({
    reading,
    field,
    name,
    does,
    expectedA: draw[of],
    modelA: model[of],
    rangeA: rangeFor(draw[of]),
  });
  return {
    where: `Supply off. Break the ${wire} wire${run ? ` of W${at + 1}` : ""} beside ${joint.label}, and put the meter in between: its red lead towards ${from}, its black one to the servo. Leave ground and signal as they are; the red lead sits in the socket for amperes.`,
    steps: [
      step("idle", "idleMa", "at rest", "Supply on, hold it, and leave it alone until the number stands.", "idleA"),
      step(
        "moving",
        "movingMa",
        "turning",
        "Let it go to and fro without a load, and read the middle of what is shown.",
        "movingA",
      ),
      step(
        "held",
        "highestMa",
        "held fast",
        "Hold its horn by hand as it pushes, for a second at most: longer burns it. Read what stands.",
        "stallA",
      ),
      step(
        "highest",
        "highestMa",
        "highest seen",
        "Set the meter to keep its maximum, let the servo start and stop a few times, and read it.",
        "stallA",
      ),
    ],
  };
}
