import { Survey, type SurveyAsk, type SurveyReport } from "@core/calibrate";
import type { Engine } from "@core/engine";

/**
 * The automatic run on one joint: hands it the readings of the board and what the gate let through, and the engine its set points. It sends nothing more
 * when anything else is asked of the joint, when it is released, or when its board falls silent; stopped, it goes back first.
 */
export class SurveyRun {
  readonly jointId: string;
  readonly #survey: Survey;
  readonly #engine: Engine;

  constructor(engine: Engine, jointId: string, ask: SurveyAsk) {
    this.jointId = jointId;
    this.#engine = engine;
    this.#survey = new Survey(ask, engine.passedOf(jointId).setPoint);
    engine.apply({ kind: "calibrate", jointId, isOn: true });
  }

  get report(): SurveyReport {
    return this.#survey.report;
  }

  get isOver(): boolean {
    return this.#survey.isOver;
  }

  tick(nowMs: number, reading: number, currentMa: number): void {
    if (this.isOver) return;
    if (!this.#engine.isCalibrating(this.jointId)) {
      this.#survey.abandon("It was interrupted: the joint was released, or something else was asked of it.");
      return;
    }
    this.#send(this.#survey.step(nowMs, reading, currentMa, this.#engine.passedOf(this.jointId)));
    if (this.isOver) this.#engine.apply({ kind: "calibrate", jointId: this.jointId, isOn: false });
  }

  /** Ends it for this reason; the servo goes back from where it stands. */
  end(why: string): void {
    if (this.isOver) return;
    this.#survey.end(why);
  }

  #send(setPoint: number): void {
    const done = this.#engine.apply({ kind: "setPoint", jointId: this.jointId, setPoint });
    if (!done.ok) this.#survey.abandon(done.problem);
  }
}
