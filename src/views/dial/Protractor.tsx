import { jointDegOf } from "@core/rig";
import type { JointBench } from "@stores/jointBench";
import { Graduations } from "./Graduations";
import { dialDegOf, everyStep } from "./geometry";

/** A clear protractor over the dial, in the servo's own degrees: for reading a real horn held against the screen. */
export function Protractor({ bench: { joint, card, scale } }: { readonly bench: JointBench }) {
  const { axis } = joint;
  if (axis.kind !== "angle" || card.kind === "continuous") return null;
  const marks = everyStep(0, card.travelDeg, 1).map((deg) => ({
    deg,
    dialDeg: dialDegOf(scale, jointDegOf(axis, deg)),
  }));
  return (
    <g className="stroke-secondary" pointerEvents="none">
      <Graduations marks={marks} outer={100} ones={92} fives={84} tens={60} labelRadius={50} labelEvery={30} />
    </g>
  );
}
