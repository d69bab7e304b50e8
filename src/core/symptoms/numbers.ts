import { figure } from "@core/numbers";
import { setPointUnit } from "@core/project";
import { maybe, type Symptom, so } from "./symptom";

export const numbers: Symptom = {
  says: "My number does something else than I meant",
  alike: "wrong number count microseconds percent duty unit code program value library",
  clues: ({ bench }) => {
    const { joint, card, board, map, maker } = bench;
    const unit = setPointUnit(card);
    const target = map.homeTarget;
    const setPoint = map.toSetPoint(target);
    const count = maker.toCount(setPoint);
    const home = joint.axis.kind === "angle" ? `${figure(target, 1)}°` : `a spin of ${figure(target, 2)}`;
    const made = figure(count * maker.perCount, 2);
    // Where the board is told the very unit of the servo there is only one number.
    const isAlike = maker.countName === unit || maker.unit === "tick";
    const also = maker.countName === "%" ? `${made} %` : `${maker.countName} ${made}`;
    const sent = `${figure(setPoint, 1)} ${unit}${isAlike ? "" : `, ${also}`}`;
    return [
      so(
        "position",
        `On ${board.label}, ${home} is ${sent}. Here any position stands in every unit, with its working.`,
      ),
      maybe(
        "unit",
        "A count taken for microseconds, per cent for a share, a tick for a degree? Put two of your numbers in, and see which it is.",
      ),
      maybe("board", `Is ${board.label} described as your program sets it up: frame rate, bits, rounding?`),
    ];
  },
};
