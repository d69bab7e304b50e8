import * as z from "zod/mini";
import { roundness, type ShapeKind, sizeMm } from "./shapeKind";

const schema = z.strictObject({ kind: z.literal("ball"), radiusMm: sizeMm });

export const ball: ShapeKind<typeof schema> = {
  schema,
  name: "Ball",
  begin: () => ({ kind: "ball", radiusMm: 25 }),
  hull: ({ radiusMm }) => ({
    roundMm: radiusMm,
    reachMm: radiusMm,
    support: (_x, _y, _z, out) => void out.fill(0, 0, 3),
  }),
  facets: ({ radiusMm }) => {
    const rings = roundness / 2;
    const corners: number[] = [0, 0, -radiusMm];
    for (let ring = 1; ring < rings; ring += 1)
      for (let at = 0; at < roundness; at += 1) {
        const [down, round] = [(Math.PI * ring) / rings, (2 * Math.PI * at) / roundness];
        const flat = radiusMm * Math.sin(down);
        corners.push(flat * Math.cos(round), flat * Math.sin(round), -radiusMm * Math.cos(down));
      }
    corners.push(0, 0, radiusMm);
    const last = corners.length / 3 - 1;
    const on = (ring: number, at: number) => 1 + (ring - 1) * roundness + (at % roundness);
    const faces: number[][] = [];
    for (let at = 0; at < roundness; at += 1) {
      faces.push([0, on(1, at + 1), on(1, at)]);
      for (let ring = 1; ring < rings - 1; ring += 1)
        faces.push([on(ring, at), on(ring, at + 1), on(ring + 1, at + 1), on(ring + 1, at)]);
      faces.push([last, on(rings - 1, at), on(rings - 1, at + 1)]);
    }
    return { corners: Float64Array.from(corners), faces };
  },
  volumeMm3: ({ radiusMm }) => (4 / 3) * Math.PI * radiusMm ** 3,
  spreadMm2: ({ radiusMm }) => {
    const about = 0.4 * radiusMm ** 2;
    return [about, about, about];
  },
  mirrored: (shape) => shape,
};
