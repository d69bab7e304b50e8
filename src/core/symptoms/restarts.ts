import { powerClues, tooLittle } from "./known";
import { maybe, type Symptom, so } from "./symptom";

export const restarts: Symptom = {
  says: "Everything goes limp, or the board starts anew",
  alike: "brown out reset restart reboot limp supply dips current several together lets go",
  clues: (look) => {
    const { project, bench } = look;
    const { board } = bench;
    const { silence } = board;
    return [
      ...(project.supplies.length === 0
        ? [
            so(
              "wiring",
              "What feeds what is not drawn yet: with that, Vantel works out what flows when several start at once.",
            ),
          ]
        : powerClues(look, [...tooLittle, "noMotorSupply", "boardVolts"])),
      maybe(
        "course",
        "When several start in one moment? See what a routine draws over its time, and beside it what would draw less.",
      ),
      ...(board.encoding.kind !== "bus" && silence.action === "release"
        ? [
            maybe(
              "links",
              `${board.label} lets go by itself after ${silence.afterMs} ms without a word: see how long its answers take.`,
            ),
          ]
        : []),
      maybe(
        "wiring",
        "A board that is fed from the servos’ own supply starts anew when that dips. Feed it by itself, with a common ground.",
      ),
    ];
  },
};
