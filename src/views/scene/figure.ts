import type { PartAngle, PartId } from "./parts";

/** A figure of the scene: drawn onto a canvas that lies over its place in the picture. */
export interface Figure {
  /** Left, top, width and height of what it can reach, in the units of the picture. */
  readonly reach: readonly [number, number, number, number];
  /** The joints by which it moves. */
  readonly parts: readonly PartId[];
  draw(to: CanvasRenderingContext2D, angleOf: PartAngle): void;
}
