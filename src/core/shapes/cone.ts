import * as z from "zod/mini";
import { circle, column, type ShapeKind, sizeMm } from "./shapeKind";

/** A cone along z, its foot below: a stump where its top has a radius. */
const schema = z.strictObject({
  kind: z.literal("cone"),
  radiusMm: sizeMm,
  topRadiusMm: z.number().check(z.gte(0), z.lte(10_000)),
  lengthMm: sizeMm,
});

export const cone: ShapeKind<typeof schema> = {
  schema,
  name: "Cone",
  begin: () => ({ kind: "cone", radiusMm: 20, topRadiusMm: 0, lengthMm: 50 }),
  hull: ({ radiusMm, topRadiusMm, lengthMm }) => ({
    roundMm: 0,
    reachMm: Math.hypot(Math.max(radiusMm, topRadiusMm), lengthMm / 2),
    support: (x, y, z, out) => {
      const flat = Math.sqrt(x * x + y * y);
      const isTop = z * lengthMm + flat * (topRadiusMm - radiusMm) > 0;
      const share = flat > 0 ? (isTop ? topRadiusMm : radiusMm) / flat : 0;
      out[0] = x * share;
      out[1] = y * share;
      out[2] = isTop ? lengthMm / 2 : -lengthMm / 2;
    },
  }),
  facets: ({ radiusMm, topRadiusMm, lengthMm }) => column(circle(radiusMm), circle(topRadiusMm), lengthMm / 2),
  volumeMm3: ({ radiusMm: a, topRadiusMm: b, lengthMm }) => (Math.PI * lengthMm * (a * a + a * b + b * b)) / 3,
  // As of a rod of the mean radius: near enough for what a servo has to turn.
  spreadMm2: ({ radiusMm, topRadiusMm, lengthMm: l }) => {
    const r = (radiusMm + topRadiusMm) / 2;
    const across = (3 * r * r + l * l) / 12;
    return [across, across, (r * r) / 2];
  },
  mirrored: (shape) => shape,
};
