import { newEncoding } from "../src/core/encodings";
import { simulateWobble } from "../src/core/wobble";
import { besideC, medianMsInC } from "./inC";
import { medianUs } from "./timing";

const frames = 1_000_000;

/** A million frames timed by software on a quiet machine, as the wobble tool simulates them. */
export function wobble(): string[] {
  const ask = { encoding: newEncoding("software"), frameHz: 50, pulseUs: 1500, frames, seed: 1 };
  const ms =
    medianUs(1, 7, () => {
      const steps = simulateWobble(ask);
      while (!steps.next().done);
    }) / 1000;
  return [
    `${ms.toFixed(0)} ms for a million frames (aim: under 200 ms), ${besideC(ms, medianMsInC("wobble", String(frames)))}`,
  ];
}
