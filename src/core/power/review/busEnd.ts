import { usualBoardPower } from "@core/project";
import type { Concern, Rule } from "./rule";

/** A wave runs along a wire in 5 ns for each m. */
const nsPerM = 5;
/** A wire of which the way there and back takes less than this share of a bit needs no end of line. */
const quietShare = 0.1;
/** Beyond this share of a bit for the rise of a level, bits are misread. A pull-up of 1 kΩ charges 60 pF for each m of wire. */
const riseShare = 0.25;
const riseNsPerM = 60;

/** A bus that is too long for its speed, or long and open at its end. */
export const busEnd: Rule = {
  name: "The bus",
  why: "Edges are thrown back at the open end of a long wire, and the wire itself slows them down: the faster the bus, the sooner bits are misread.",
  find: ({ project }) =>
    project.boards.flatMap((board): Concern[] => {
      if (board.encoding.kind !== "bus") return [];
      const power = board.power ?? usualBoardPower;
      const bitNs = 1e9 / board.encoding.bitsPerS;
      const lengthM = power.busMm / 1000;
      const mayM = (riseShare * bitNs) / riseNsPerM;
      const about = { kind: "board", id: board.id } as const;
      const long = lengthM.toFixed(1);
      if (lengthM > mayM)
        return [
          {
            weight: "fails",
            about,
            sentence: `The bus of ${board.label} is ${long} m long; at ${board.encoding.bitsPerS} bits per second about ${mayM.toFixed(1)} m are safe.`,
            advice: "Make it slower at Bus, or shorter.",
            waysOut: [],
          },
        ];
      if (!power.hasBusEnd && 2 * lengthM * nsPerM > quietShare * bitNs)
        return [
          {
            weight: "mind",
            about,
            sentence: `The bus of ${board.label} is ${long} m long and open at its end; at ${board.encoding.bitsPerS} bits per second echoes are heard.`,
            advice: null,
            waysOut: [
              {
                words: "A resistor closes its end",
                wiring: { boards: [{ boardId: board.id, power: { ...power, hasBusEnd: true } }] },
              },
            ],
          },
        ];
      return [];
    }),
};
