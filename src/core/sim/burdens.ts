import { assembleBench, stallTorqueNmm, Weights } from "@core/figure";
import type { Project } from "@core/project";
import { jointDegOf } from "@core/rig";
import type { SimServo } from "./simServo";

/** A part that has turned by less than this weighs on its servo as before. */
const noticedDeg = 0.05;

/**
 * What the figures put on the simulated servos: each is told which share of its torque it needs to hold what hangs on it, as all of them stand now.
 * Where nothing weighs anything there is nothing to do.
 */
export class Burdens {
  readonly #weights: Weights | null;
  readonly #joints: Project["joints"];
  /** By place number of the joint: N·mm at its servo that are all of its torque; NaN where its card does not say. */
  readonly #canNmm: Float64Array;
  readonly #targets: Float64Array;

  constructor(project: Project) {
    this.#joints = project.joints;
    this.#targets = new Float64Array(project.joints.length).fill(Number.NaN);
    this.#canNmm = Float64Array.from(project.joints, ({ cardId }) => {
      const card = project.cards.find(({ id }) => id === cardId);
      return (card && stallTorqueNmm(card, null)) ?? Number.NaN;
    });
    const isHeavy = project.figures.some(
      ({ parts, springs }) => springs.length > 0 || parts.some(({ massG }) => massG > 0),
    );
    this.#weights = isHeavy ? new Weights(project, assembleBench(project)) : null;
  }

  /** Tells each servo, by its card, what it bears now. Costs nothing while all of them stand still. */
  weigh(servoOf: (cardId: string) => SimServo | undefined): void {
    if (!this.#weights) return;
    let hasMoved = false;
    this.#joints.forEach(({ axis, cardId }, place) => {
      const angleDeg = servoOf(cardId)?.angleDeg ?? 0;
      // What turns on and on may come by a figure as any angle; it is counted from where it began.
      const targetDeg = axis.kind === "angle" ? jointDegOf(axis, angleDeg) : angleDeg;
      if (Math.abs(targetDeg - (this.#targets[place] as number)) < noticedDeg) return;
      this.#targets[place] = targetDeg;
      hasMoved = true;
    });
    if (!hasMoved) return;
    const torques = this.#weights.holding(this.#targets);
    this.#joints.forEach(({ axis, cardId }, place) => {
      const share = (axis.direction * (torques[place] as number)) / (this.#canNmm[place] as number);
      const servo = servoOf(cardId);
      if (servo) servo.burden = Number.isFinite(share) ? share : 0;
    });
  }
}
