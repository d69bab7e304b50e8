import { ok } from "@core/result";
import { between, positive } from "@core/schema";
import * as z from "zod/mini";
import type { ShaperKind, Stage } from "./shaperKind";

/** Smooths what rests and lets pass what moves: `lagMs` at rest; `quickness` how soon that falls when `span` is crossed in a second. */
const schema = z.strictObject({
  kind: z.literal("smooth"),
  lagMs: between(1, 5000),
  quickness: between(0, 50),
  span: positive,
});

export const smooth: ShaperKind<typeof schema> = {
  schema,
  name: "Smoothing",
  begin: ({ low, high }) => ({ kind: "smooth", lagMs: 120, quickness: 8, span: high - low }),
  flow: (_, flow) => ok(flow),
  stage: ({ lagMs, quickness, span }) => quickSmoothing(lagMs, quickness, span),
};

/**
 * Smoothing that stays quick: a low-pass whose corner rises with speed, so that what rests is calm and what moves does not lag. After
 * G. Casiez, N. Roussel, D. Vogel, “1 € Filter: A Simple Speed-based Low-pass Filter for Noisy Input in Interactive Systems” (2012).
 * @param lagMs the lag at rest: the time constant, 1 / (2π × corner)
 * @param quickness by how many times the corner rises when `span` is crossed in one second
 */
function quickSmoothing(lagMs: number, quickness: number, span: number): Stage {
  const restHz = 1000 / (2 * Math.PI * lagMs);
  let at = Number.NaN;
  let speedPerS = 0;
  return (value, dtMs) => {
    if (Number.isNaN(at)) at = value;
    if (dtMs <= 0) return at;
    // The speed is smoothed as well, with a corner of 1 Hz, or noise alone would look like movement.
    speedPerS += partOf(1, dtMs) * (((value - at) * 1000) / dtMs - speedPerS);
    const cornerHz = restHz * (1 + (quickness * Math.abs(speedPerS)) / span);
    at += partOf(cornerHz, dtMs) * (value - at);
    return at;
  };
}

/** How much of a difference a low-pass with this corner takes over in one step. */
function partOf(cornerHz: number, dtMs: number): number {
  const constantMs = 1000 / (2 * Math.PI * cornerHz);
  return dtMs / (dtMs + constantMs);
}

/** What a low-pass lags behind a steady movement of so many spans per second, in ms: what a person should be told. */
export const lagMsAt = (lagMs: number, quickness: number, spansPerS: number): number =>
  lagMs / (1 + quickness * spansPerS);
