import type { Shaper, ShaperOf } from "@core/project";
import { quickSmoothing } from "./quickSmoothing";

/** What a stage may look at beside the value that comes in. */
export interface Surroundings {
  /** The value of another source now, in its own units; NaN until it has one. */
  readonly valueOf: (sourceId: string) => number;
  /** Its range. */
  readonly rangeOf: (sourceId: string) => { readonly low: number; readonly high: number };
}

/** One stage at work. It keeps what it must remember; `dtMs` is the time since it was last called. */
export type Stage = (value: number, dtMs: number) => number;

/** The number at which a switch counts as on. */
const half = 0.5;

/** Puts a shaper to work. What comes in is always a number (see `Chain`). */
export function stageOf(shaper: Shaper, around: Surroundings): Stage {
  switch (shaper.kind) {
    case "rangeMap":
      return rangeMap(shaper);
    case "limit":
      return shaper.how === "clamp" ? clamp(shaper.range) : wrap(shaper.range);
    case "deadband":
      return deadband(shaper);
    case "curve":
      return curve(shaper);
    case "smooth":
      return quickSmoothing(shaper.lagMs, shaper.quickness, shaper.span);
    case "change":
      return changeThreshold(shaper.by);
    case "rate":
      return rateLimit(shaper.perS);
    case "detents":
      return (value) => Math.floor(value / shaper.stepsPerDetent);
    case "threshold":
      return threshold(shaper);
    case "toggle":
      return toggle();
    case "latch":
      return latch(shaper.holdMs);
    case "press":
      return press(shaper);
    case "sample":
      return sample(() => shareOf(shaper.whenSourceId, around) >= half);
    case "add":
      return (value) => value + shaper.by;
    case "scale":
      return (value) => value * shaper.by;
    case "combine":
      return combine(shaper, around);
    case "select":
      return (value) =>
        shareOf(shaper.switchId, around) >= half
          ? stretched(shareOf(shaper.sourceId, around), shaper.to, value)
          : value;
  }
}

interface Ends {
  readonly low: number;
  readonly high: number;
}

/** Where a value lies in a range, 0…1; outside it stays at the ends. */
const shareIn = ({ low, high }: Ends, value: number) => Math.min(Math.max((value - low) / (high - low), 0), 1);

/** Where another source stands in its own range; NaN until it has a value. */
const shareOf = (sourceId: string, around: Surroundings) => shareIn(around.rangeOf(sourceId), around.valueOf(sourceId));

/** A share laid onto two ends; `otherwise` where there is no share yet. */
const stretched = (share: number, { low, high }: Ends, otherwise: number) =>
  Number.isNaN(share) ? otherwise : low + share * (high - low);

function rangeMap({ from, to }: ShaperOf<"rangeMap">): Stage {
  return (value) => to.low + shareIn(from, value) * (to.high - to.low);
}

const clamp =
  ({ low, high }: Ends): Stage =>
  (value) =>
    Math.min(Math.max(value, low), high);

function wrap({ low, high }: Ends): Stage {
  const span = high - low;
  return (value) => low + ((((value - low) % span) + span) % span);
}

function deadband({ centre, halfWidth, reach }: ShaperOf<"deadband">): Stage {
  return (value) => {
    const off = value - centre;
    const beyond = Math.abs(off) - halfWidth;
    return beyond <= 0 ? centre : centre + Math.sign(off) * ((beyond * reach) / (reach - halfWidth));
  };
}

function curve({ range, shape }: ShaperOf<"curve">): Stage {
  const bent = bendOf(shape);
  return (value) => range.low + bent(shareIn(range, value)) * (range.high - range.low);
}

/** A curve on 0…1. Every one of them rises where its points do, and never leaves 0…1. */
function bendOf(shape: ShaperOf<"curve">["shape"]): (share: number) => number {
  switch (shape.kind) {
    case "expo":
      return (share) => {
        const u = 2 * share - 1;
        // Negative amounts turn the cube round: steep in the middle, gentle at the ends.
        const bent = shape.amount >= 0 ? u ** 3 : Math.cbrt(u);
        const amount = Math.abs(shape.amount);
        return ((1 - amount) * u + amount * bent + 1) / 2;
      };
    case "s":
      return (share) => (1 - shape.amount) * share + shape.amount * share * share * (3 - 2 * share);
    case "points":
      return (share) => {
        const { points } = shape;
        let at = 1;
        while (at < points.length - 1 && (points[at]?.x ?? 1) < share) at += 1;
        const a = points[at - 1] as { x: number; y: number };
        const b = points[at] as { x: number; y: number };
        return a.y + shareIn({ low: a.x, high: b.x }, share) * (b.y - a.y);
      };
  }
}

function changeThreshold(by: number): Stage {
  let passed = Number.NaN;
  return (value) => {
    if (!(Math.abs(value - passed) < by)) passed = value;
    return passed;
  };
}

function rateLimit(perS: number): Stage {
  let at = Number.NaN;
  return (value, dtMs) => {
    const most = (perS * dtMs) / 1000;
    at = Number.isNaN(at) || Math.abs(value - at) <= most ? value : at + Math.sign(value - at) * most;
    return at;
  };
}

function threshold({ on, off, dwellMs }: ShaperOf<"threshold">): Stage {
  const isOnAt = (value: number) => (on > off ? value >= on : value <= on);
  const isOffAt = (value: number) => (on > off ? value <= off : value >= off);
  let isOn = false;
  let lastedMs = 0;
  return (value, dtMs) => {
    const wantsChange = isOn ? isOffAt(value) : isOnAt(value);
    lastedMs = wantsChange ? lastedMs + dtMs : 0;
    if (wantsChange && lastedMs >= dwellMs) {
      isOn = !isOn;
      lastedMs = 0;
    }
    return isOn ? 1 : 0;
  };
}

function toggle(): Stage {
  let isOn = false;
  let was = true;
  return (value) => {
    const is = value >= half;
    if (is && !was) isOn = !isOn;
    was = is;
    return isOn ? 1 : 0;
  };
}

function latch(holdMs: number): Stage {
  let leftMs = 0;
  return (value, dtMs) => {
    leftMs = value >= half ? holdMs : Math.max(0, leftMs - dtMs);
    return value >= half || leftMs > 0 ? 1 : 0;
  };
}

function press({ which, longMs }: ShaperOf<"press">): Stage {
  let heldMs = Number.NaN;
  return (value, dtMs) => {
    const wasMs = heldMs;
    if (value >= half) {
      heldMs = Number.isNaN(wasMs) ? 0 : wasMs + dtMs;
      return which === "long" && heldMs >= longMs && wasMs < longMs ? 1 : 0;
    }
    heldMs = Number.NaN;
    return which === "short" && wasMs < longMs ? 1 : 0;
  };
}

function sample(isOn: () => boolean): Stage {
  let kept = Number.NaN;
  let was = false;
  return (value) => {
    const is = isOn();
    if ((is && !was) || Number.isNaN(kept)) kept = value;
    was = is;
    return kept;
  };
}

function combine({ sourceId, to, how, share }: ShaperOf<"combine">, around: Surroundings): Stage {
  return (value) => {
    const other = stretched(shareOf(sourceId, around), to, Number.NaN);
    if (Number.isNaN(other)) return how === "product" ? 0 : value;
    if (how === "sum") return value + other;
    if (how === "product") return value * other;
    return how === "larger" ? Math.max(value, other) : (1 - share) * value + share * other;
  };
}
