import { ellipse, paint, turnBy, within } from "./brush";
import type { Figure } from "./figure";

const upperArm = 78;
const foreArm = 66;
const hand = 22;
const edge = { color: "#14110c", width: 1.2 } as const;

/** Trellis: an arm seen from the side. The turntable foreshortens it and swings it to the other side. */
export const armFigure: Figure = {
  reach: [-52, 38, 372, 216],
  parts: ["turntable", "shoulder", "elbow", "wrist-tilt", "grip"],
  draw: (to, angleOf) => {
    const turn = (angleOf("turntable") * Math.PI) / 180;
    const openDeg = Math.max(0, angleOf("grip")) * 0.5;
    to.translate(134, 236);
    paint(to, ellipse(0, 8, 36, 9), "#5c6b68", edge);
    paint(to, ellipse(0, 4, 30, 7), "#7d8f8a", edge);
    within(
      to,
      () => to.translate(30 * Math.sin(turn), 4 + 7 * Math.cos(turn)),
      () => paint(to, ellipse(0, 0, 2.6, 2.6), "#d9ae55", edge),
    );
    // Never edge-on: a sliver of an arm would tell nothing.
    const width = Math.cos(turn);
    to.scale(Math.sign(width || 1) * Math.max(Math.abs(width), 0.12), 1);
    within(
      to,
      () => turnBy(to, angleOf("shoulder")),
      () => {
        drawLink(to, upperArm, 15, "#8fa39c");
        to.translate(0, -upperArm);
        turnBy(to, angleOf("elbow"));
        drawLink(to, foreArm, 12, "#a9bab2");
        to.translate(0, -foreArm);
        turnBy(to, angleOf("wrist-tilt"));
        drawLink(to, hand, 10, "#c9d3cb");
        for (const side of [-1, 1])
          within(
            to,
            () => {
              to.translate(side * 2, -hand);
              turnBy(to, side * openDeg);
            },
            () => paint(to, `M${side * 3} 0L${side * 6} -17L${side * 2} -17L0 -2Z`, "#d9ae55", edge),
          );
      },
    );
    paint(to, ellipse(0, 0, 8, 8), "#46524f", edge);
  },
};

function drawLink(to: CanvasRenderingContext2D, length: number, width: number, fill: string): void {
  const r = width / 2;
  paint(to, `M${-r} 0V${-length}A${r} ${r} 0 0 1 ${r} ${-length}V0A${r} ${r} 0 0 1 ${-r} 0Z`, fill, edge);
  paint(to, ellipse(0, -length, width / 3.2, width / 3.2), "#46524f", edge);
}
