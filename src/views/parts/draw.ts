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
