import { between } from "@core/schema";
import * as z from "zod/mini";
import { column, hullOfCorners, type ShapeKind } from "./shapeKind";

const corner = between(-10_000, 10_000);

/** A flat plate cut along an outline in its x-y plane. Its corners may run either way round. */
const schema = z.strictObject({
  kind: z.literal("plate"),
  outlineMm: z.array(z.tuple([corner, corner])).check(
    z.minLength(3),
    z.maxLength(200),
    z.refine((outline) => Math.abs(areaOf(outline)) > 0.01, { error: "an outline goes round a surface" }),
  ),
  thickMm: between(0.1, 1000),
});

type Outline = readonly (readonly [number, number])[];

/** Twice the surface within an outline, positive where its corners run to the left. */
function areaOf(outline: Outline): number {
  return outline.reduce((sum, [x, y], at) => {
    const [nextX, nextY] = outline[(at + 1) % outline.length] as readonly [number, number];
    return sum + x * nextY - nextX * y;
  }, 0);
}

const leftward = (outline: Outline) => (areaOf(outline) < 0 ? outline.toReversed() : outline);

export const plate: ShapeKind<typeof schema> = {
  schema,
  name: "Plate",
  begin: () => ({
    kind: "plate",
    outlineMm: [
      [-30, -20],
      [30, -20],
      [30, 20],
      [-30, 20],
    ],
    thickMm: 3,
  }),
  // Bays of an outline are filled: what lies in one counts as met.
  hull: (shape) => hullOfCorners(plate.facets(shape, () => undefined).corners),
  facets: ({ outlineMm, thickMm }) => {
    const outline = leftward(outlineMm);
    return column(outline, outline, thickMm / 2);
  },
  volumeMm3: ({ outlineMm, thickMm }) => (Math.abs(areaOf(outlineMm)) / 2) * thickMm,
  spreadMm2: ({ outlineMm, thickMm }) => {
    const spans = ([0, 1] as const).map((axis) => {
      const along = outlineMm.map((point) => point[axis]);
      return Math.max(...along) - Math.min(...along);
    });
    const [x = 0, y = 0] = spans;
    return [(y * y + thickMm ** 2) / 12, (x * x + thickMm ** 2) / 12, (x * x + y * y) / 12];
  },
  mirrored: (shape) => ({ ...shape, outlineMm: shape.outlineMm.map(([x, y]) => [x, -y]) }),
};
