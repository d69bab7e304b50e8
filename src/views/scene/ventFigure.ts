import { ellipse, paint, turnBy, within } from "./brush";
import type { Figure } from "./figure";

/** Four turns of the crank open the vent fully. */
const fullyOpenDeg = 4 * 360;
const widestDeg = 34;

/** Vent: a crank that opens a flap in the roof. */
export const ventFigure: Figure = {
  reach: [234, 0, 104, 84],
  parts: ["vent-crank"],
  draw: (to, angleOf) => {
    const crankDeg = angleOf("vent-crank");
    const openDeg = (Math.max(0, Math.min(fullyOpenDeg, crankDeg)) / fullyOpenDeg) * widestDeg;
    within(
      to,
      () => {
        to.translate(240, 22);
        turnBy(to, -openDeg);
      },
      () => paint(to, "M0 0L90 36", null, { color: "#9fc4bd", width: 6 }),
    );
    to.translate(276, 66);
    paint(to, ellipse(0, 0, 12, 12), "#22302f", { color: "#9fb5ae", width: 2 });
    turnBy(to, crankDeg % 360);
    to.lineCap = "round";
    paint(to, "M0 0V-17", null, { color: "#d9ae55", width: 3.4 });
    paint(to, ellipse(0, -17, 3.4, 3.4), "#d9ae55");
  },
};
