import { draw } from "../parts/draw";

const found = new WeakMap<SVGGElement, Map<string, Element | null>>();

/** Moves one named part of a figure. Parts are looked up once per figure. */
export function setPart(figure: SVGGElement, part: string, transform: string): void {
  let parts = found.get(figure);
  if (!parts) {
    parts = new Map();
    found.set(figure, parts);
  }
  let element = parts.get(part);
  if (element === undefined) {
    element = figure.querySelector(`[data-part="${part}"]`);
    parts.set(part, element);
  }
  draw(element, "transform", transform);
}
