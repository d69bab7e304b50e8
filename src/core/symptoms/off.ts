import { judgeCheck } from "@core/calibrate";
import { figure } from "@core/numbers";
import { calibrationInForce, curveOf, knownPlayDeg } from "@core/servo";
import { degPerCount } from "./known";
import { type Clue, hasAngles, maybe, type Symptom, so } from "./symptom";

export const off: Symptom = {
  says: "It points a few degrees off",
  alike: "wrong angle not centred crooked off centre inaccurate horn tooth trim offset",
  onlyOf: hasAngles,
  clues: ({ bench }) => {
    const { card, board } = bench;
    if (card.kind === "continuous") return [];
    const clues: Clue[] = [];
    const made = calibrationInForce(card);
    if (!made)
      clues.push(
        so(
          "angles",
          "Its angles are those of its data sheet, which is a guess: two or more off a protractor make them true.",
        ),
      );
    const last = card.checks.at(-1);
    if (last && made) {
      const points = made.kind === "spin" ? [] : made.points;
      const { mend, sentences } = judgeCheck(curveOf(card), last.readings, points, card.splineTeeth);
      const says = sentences.join(" ");
      if (mend.kind !== "accept") clues.push(so("check", `Its last check: ${says}`));
    }
    const stepDeg = degPerCount(bench);
    if (stepDeg > 1)
      clues.push(
        so(
          "sideBySide",
          `One count of ${board.label} turns it by ${figure(stepDeg, 1)}°: between those it cannot stand.`,
        ),
      );
    const playDeg = knownPlayDeg(card);
    if (playDeg !== null && playDeg > 0.5)
      clues.push(
        so(
          "check",
          `Its gears have ${figure(playDeg, 1)}° of play: it stands by so much elsewhere, as it came from one side or the other.`,
        ),
      );
    return [
      ...clues,
      maybe(
        "check",
        `Its horn may sit on another tooth than it did: one of ${card.splineTeeth} is ${figure(360 / card.splineTeeth, 1)}°. A check tells that from a wrong scale, and shifts all its angles by one click.`,
      ),
    ];
  },
};
