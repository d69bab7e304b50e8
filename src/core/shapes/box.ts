import type { ValueOf } from "@core/schema";
import * as z from "zod/mini";
import { column, type ShapeKind, sizeMm } from "./shapeKind";

const schema = z.strictObject({
  kind: z.literal("box"),
  /** Along x, y and z. */
  sizeMm: z.tuple([sizeMm, sizeMm, sizeMm]),
});

const halves = ({ sizeMm: [x, y, z] }: ValueOf<typeof schema>) => [x / 2, y / 2, z / 2] as const;

export const box: ShapeKind<typeof schema> = {
  schema,
  name: "Box",
  begin: () => ({ kind: "box", sizeMm: [40, 20, 40] }),
  hull: (shape) => {
    const [hx, hy, hz] = halves(shape);
    return {
      roundMm: 0,
      reachMm: Math.hypot(hx, hy, hz),
      support: (x, y, z, out) => {
        out[0] = x < 0 ? -hx : hx;
        out[1] = y < 0 ? -hy : hy;
        out[2] = z < 0 ? -hz : hz;
      },
    };
  },
  facets: (shape) => {
    const [hx, hy, hz] = halves(shape);
    const outline: [number, number][] = [
      [-hx, -hy],
      [hx, -hy],
      [hx, hy],
      [-hx, hy],
    ];
    return column(outline, outline, hz);
  },
  volumeMm3: ({ sizeMm: [x, y, z] }) => x * y * z,
  spreadMm2: ({ sizeMm: [x, y, z] }) => [(y * y + z * z) / 12, (x * x + z * z) / 12, (x * x + y * y) / 12],
  mirrored: (shape) => shape,
};
