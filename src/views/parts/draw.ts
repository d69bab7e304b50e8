/**
 * Sets an attribute of something drawn, if it is another than before. The browser lays out and paints anew whatever is
 * set, even to what it was: a bench that rests must cost nothing.
 */
export function draw(element: Element | null | undefined, name: string, value: string): void {
  if (element && element.getAttribute(name) !== value) element.setAttribute(name, value);
}

/**
 * An eye for one instrument: a reading that trembles by less than `least` about where it was last drawn is drawn there
 * still. What cannot be seen as movement must not cost a picture.
 */
export function steady(least: number): (value: number) => number {
  let drawn = Number.NaN;
  return (value) => {
    if (!(Math.abs(value - drawn) < least)) drawn = value;
    return drawn;
  };
}

/** What is written of a reading that trembles: its mean of the last moments while it rests, itself as soon as it moves. */
export function calm(): (value: number) => number {
  const still = steady(0.12);
  let mean = Number.NaN;
  return (value) => {
    mean = Math.abs(value - mean) < 0.5 ? (mean + value) / 2 : value;
    return still(mean);
  };
}

/** A number that goes on by itself stands so long. */
const unhurriedMs = 1200;

/**
 * What is written of a number that goes on by itself: it stands for a second or so, to be read, unless it has gone as far as `far`. All
 * that change so do it in the same moment, and the page is laid out once for them.
 */
export function unhurried(far: number): (value: number) => number {
  let written = Number.NaN;
  let round = Number.NaN;
  return (value) => {
    const now = Math.floor(performance.now() / unhurriedMs);
    if (now !== round || !(Math.abs(value - written) < far)) written = value;
    round = now;
    return written;
  };
}

const transforms = new WeakMap<Element, string>();

function transform(element: SVGSVGElement | null, value: string): void {
  if (!element || transforms.get(element) === value) return;
  transforms.set(element, value);
  element.style.transform = value;
}

/** Turns a layer about its hub, clockwise, in degrees (see `Layers`); hides it where there is no angle. */
export function turn(layer: SVGSVGElement | null, deg: number): void {
  const isSeen = Number.isFinite(deg);
  show(layer, isSeen);
  if (isSeen) transform(layer, `rotate(${deg.toFixed(2)}deg)`);
}

/** Shifts a layer, in the units of its drawing. */
export const shift = (layer: SVGSVGElement | null, x: number, y: number): void =>
  transform(layer, `translate(calc(${x.toFixed(2)} * var(--unit)), calc(${y.toFixed(2)} * var(--unit)))`);

/** Shows something drawn, or hides it. */
export function show(element: SVGElement | HTMLElement | null, isSeen: boolean): void {
  const value = isSeen ? "visible" : "hidden";
  if (element && element.style.visibility !== value) element.style.visibility = value;
}
