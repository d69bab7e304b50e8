import { Survey, type SurveyAsk, type SurveyReport } from "@core/calibrate";
import type { Engine } from "@core/engine";

/**
 * The automatic run on one joint: hands it the readings of the board and the engine its set points. It ends at once when anything else is
 * asked of the joint, when it is released, or when its board falls silent.
 */
export class SurveyRun {
  readonly jointId: string;
  readonly #survey: Survey;
  readonly #engine: Engine;

  constructor(engine: Engine, jointId: string, ask: SurveyAsk, fromSetPoint: number) {
    this.jointId = jointId;
    this.#engine = engine;
    this.#survey = new Survey(ask, fromSetPoint);
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
      this.#survey.end("It was interrupted: the joint was released, or something else was asked of it.");
      return;
    }
    this.#send(this.#survey.step(nowMs, reading, currentMa));
    if (this.isOver) this.#engine.apply({ kind: "calibrate", jointId: this.jointId, isOn: false });
  }

  /** Ends it for this reason; the servo goes back from where it stands. */
  end(why: string): void {
    if (this.isOver) return;
    this.#survey.end(why);
    if (!this.#engine.isCalibrating(this.jointId)) return;
    this.#send(this.#survey.step(0, Number.NaN, Number.NaN));
    this.#engine.apply({ kind: "calibrate", jointId: this.jointId, isOn: false });
  }

  #send(setPoint: number): void {
    this.#engine.apply({ kind: "setPoint", jointId: this.jointId, setPoint });
  }
}
