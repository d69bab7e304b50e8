import * as z from "zod/mini";
import { circle, column, type ShapeKind, sizeMm } from "./shapeKind";

/** A round rod with flat ends, along z. */
const schema = z.strictObject({ kind: z.literal("rod"), radiusMm: sizeMm, lengthMm: sizeMm });

export const rod: ShapeKind<typeof schema> = {
  schema,
  name: "Rod",
  begin: () => ({ kind: "rod", radiusMm: 8, lengthMm: 80 }),
  hull: ({ radiusMm, lengthMm }) => ({
    roundMm: 0,
    reachMm: Math.hypot(radiusMm, lengthMm / 2),
    support: (x, y, z, out) => {
      const flat = Math.sqrt(x * x + y * y);
      const share = flat > 0 ? radiusMm / flat : 0;
      out[0] = x * share;
      out[1] = y * share;
      out[2] = z < 0 ? -lengthMm / 2 : lengthMm / 2;
    },
  }),
  facets: ({ radiusMm, lengthMm }) => column(circle(radiusMm), circle(radiusMm), lengthMm / 2),
  volumeMm3: ({ radiusMm, lengthMm }) => Math.PI * radiusMm ** 2 * lengthMm,
  spreadMm2: ({ radiusMm: r, lengthMm: l }) => {
    const across = (3 * r * r + l * l) / 12;
    return [across, across, (r * r) / 2];
  },
  mirrored: (shape) => shape,
};
