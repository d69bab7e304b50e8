import { demoProject } from "../src/core/demo";
import { jointMapOf } from "../src/core/rig";
import { signalMakerOf } from "../src/core/signal";
import { besideC, medianMsInC } from "./inC";
import { medianUs } from "./timing";

const perCall = 1_000_000;

/** Angle → pulse → count and back, through direction, zero and calibration. */
export function conversions(): string[] {
  const demo = demoProject();
  const joint = demo.joints[1];
  const card = demo.cards[1];
  const board = demo.boards[0];
  if (!joint || !card || !board) throw new Error("The demo has no second joint.");
  const map = jointMapOf(joint, card);
  const maker = signalMakerOf(board);
  let sum = 0;
  const there = medianUs(1, 15, () => {
    for (let at = 0; at < perCall; at += 1) sum += maker.toCount(map.toSetPoint(-30 + (65 * at) / perCall));
  });
  const back = medianUs(1, 15, () => {
    for (let at = 0; at < perCall; at += 1) sum += map.toTarget(maker.toSetPoint(at % 4096));
  });
  const millions = (us: number) => (perCall / us).toFixed(1);
  return [
    `a million angle → count: ${(there / 1000).toFixed(1)} ms, ${besideC(there / 1000, medianMsInC("convert", String(perCall)))}`,
    `angle → count: ${millions(there)} million a second`,
    `count → angle: ${millions(back)} million a second`,
    ...(Number.isFinite(sum) ? [] : ["(a conversion was not a number)"]),
  ];
}
