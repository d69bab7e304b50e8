import { ellipse, outline, paint, turnBy, within } from "./brush";
import type { Figure } from "./figure";

const lidsOpenDeg = 60;
const eyeRadius = 17;
const eye = ellipse(0, 0, eyeRadius, eyeRadius);

/** Tawny: an owl's head on a post. Neck turn and nod shift the face over the head; lids, beak and tufts follow theirs. */
export const owlFigure: Figure = {
  reach: [284, 76, 136, 178],
  parts: ["neck-turn", "neck-nod", "ear-tuft", "left-lid", "right-lid", "beak"],
  draw: (to, angleOf) => {
    const turn = (angleOf("neck-turn") * Math.PI) / 180;
    const nod = angleOf("neck-nod");
    const tuft = angleOf("ear-tuft") * 0.6;
    to.translate(352, 168);
    paint(to, "M-9 44H9L13 82H-13Z", "#5b4630");
    paint(to, ellipse(0, 46, 27, 8), "#3d2f20");
    to.translate(4 * Math.sin(turn), -nod * 0.15);
    paint(to, ellipse(0, 0, 58, 52), "#8a6a48");
    paint(to, "M-52 -22Q0 -78 52 -22Q0 -42 -52 -22Z", "#6f5236");
    for (const side of [-1, 1])
      within(
        to,
        () => {
          to.translate(side * 36, -40);
          turnBy(to, side * tuft);
          to.translate(-side * 36, 40);
        },
        () => paint(to, `M${side * 42} -34L${side * 56} -74L${side * 22} -48Z`, "#6f5236"),
      );
    to.translate(34 * Math.sin(turn), -nod * 0.55);
    to.scale(0.45 + 0.55 * Math.cos(turn), 1);
    for (const x of [-22, 22]) paint(to, ellipse(x, -2, 28, 31), "#d8c19a");
    drawEye(to, -22, angleOf("left-lid"));
    drawEye(to, 22, angleOf("right-lid"));
    paint(to, "M-8 12Q0 6 8 12L0 25Z", "#4b3a22");
    within(
      to,
      () => to.translate(0, Math.max(0, angleOf("beak")) * 0.34),
      () => paint(to, "M-6 16Q0 20 6 16L0 27Z", "#6b5330"),
    );
    paint(to, "M-8 12Q0 6 8 12L2 22Q0 24 -2 22Z", "#4b3a22");
  },
};

function drawEye(to: CanvasRenderingContext2D, x: number, lidDeg: number): void {
  const openShare = Math.max(0, Math.min(lidsOpenDeg, lidDeg)) / lidsOpenDeg;
  within(
    to,
    () => to.translate(x, -4),
    () => {
      paint(to, eye, "#f0c65a");
      paint(to, ellipse(0, 0, 9, 9), "#15110b");
      paint(to, ellipse(3, -4, 2.6, 2.6), "#fff8e0");
      within(
        to,
        () => to.clip(outline(eye)),
        () => {
          to.fillStyle = "#b79a70";
          to.fillRect(-eyeRadius, -eyeRadius - openShare * eyeRadius * 2, eyeRadius * 2, eyeRadius * 2 + 1);
        },
      );
      paint(to, eye, null, { color: "#5b4630", width: 2 });
    },
  );
}
