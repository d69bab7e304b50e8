/** One shape of a figure: its outline as an SVG path, and how it is drawn. */
export interface Stroke {
  readonly color: string;
  readonly width: number;
}

const outlines = new Map<string, Path2D>();

/** The outline of an SVG path; made once. */
export function outline(d: string): Path2D {
  const known = outlines.get(d);
  if (known) return known;
  const made = new Path2D(d);
  outlines.set(d, made);
  return made;
}

/** Draws an outline, filled, stroked or both. */
export function paint(to: CanvasRenderingContext2D, d: string, fill: string | null, stroke?: Stroke): void {
  const path = outline(d);
  if (fill) {
    to.fillStyle = fill;
    to.fill(path);
  }
  if (stroke) {
    to.strokeStyle = stroke.color;
    to.lineWidth = stroke.width;
    to.stroke(path);
  }
}

/** An ellipse about a place, as a path. */
export const ellipse = (x: number, y: number, rx: number, ry: number): string =>
  `M${x - rx} ${y}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0Z`;

/** Draws what is within with the plane moved, and puts it back. */
export function within(to: CanvasRenderingContext2D, move: () => void, draw: () => void): void {
  to.save();
  move();
  draw();
  to.restore();
}

export const turnBy = (to: CanvasRenderingContext2D, deg: number): void => to.rotate((deg * Math.PI) / 180);
