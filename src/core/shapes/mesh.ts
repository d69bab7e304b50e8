import { between, idSchema } from "@core/schema";
import * as z from "zod/mini";
import { type Surface, surfaceOf } from "./meshData";
import { hullOfCorners, type MeshOf, type ShapeKind } from "./shapeKind";

const schema = z.strictObject({
  kind: z.literal("mesh"),
  meshId: idSchema,
  /** Along x, y and z; a negative one turns it over. */
  scale: z.tuple([scale(), scale(), scale()]),
});

function scale() {
  return between(-10_000, 10_000).check(z.refine((value) => value !== 0, { error: "a scale is not 0" }));
}

function scaled(shape: { readonly meshId: string; readonly scale: readonly number[] }, meshOf: MeshOf): Surface {
  const mesh = meshOf(shape.meshId);
  if (!mesh) return { corners: new Float64Array(3), faces: [] };
  const { corners, faces } = surfaceOf(mesh);
  const isTurnedOver = shape.scale.reduce((sign, one) => sign * one, 1) < 0;
  return {
    corners: corners.map((value, at) => value * (shape.scale[at % 3] as number)),
    faces: isTurnedOver ? faces.map((face) => face.toReversed()) : faces,
  };
}

/** Lowest and highest along each axis. */
function boundsOf(corners: Float64Array): readonly [readonly number[], readonly number[]] {
  const low = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  const high = low.map((value) => -value);
  corners.forEach((value, at) => {
    low[at % 3] = Math.min(low[at % 3] as number, value);
    high[at % 3] = Math.max(high[at % 3] as number, value);
  });
  return [low, high];
}

export const mesh: ShapeKind<typeof schema> = {
  schema,
  name: "Mesh",
  begin: () => null,
  // Bays are filled, as of a plate. Corners within do no harm: the furthest is never one of them.
  hull: (shape, meshOf) => hullOfCorners(scaled(shape, meshOf).corners),
  facets: scaled,
  // The tetrahedra between the origin and each face, with their signs.
  volumeMm3: (shape, meshOf) => {
    const { corners, faces } = scaled(shape, meshOf);
    let six = 0;
    for (const face of faces) {
      const [a = 0, b = 0, c = 0] = face.map((place) => 3 * place);
      const at = (place: number, axis: number) => corners[place + axis] as number;
      six +=
        at(a, 0) * (at(b, 1) * at(c, 2) - at(b, 2) * at(c, 1)) -
        at(a, 1) * (at(b, 0) * at(c, 2) - at(b, 2) * at(c, 0)) +
        at(a, 2) * (at(b, 0) * at(c, 1) - at(b, 1) * at(c, 0));
    }
    return Math.abs(six) / 6;
  },
  // As of the box around it.
  spreadMm2: (shape, meshOf) => {
    const [low, high] = boundsOf(scaled(shape, meshOf).corners);
    const [x = 0, y = 0, z = 0] = low.map((value, axis) => (high[axis] as number) - value);
    return [(y * y + z * z) / 12, (x * x + z * z) / 12, (x * x + y * y) / 12];
  },
  mirrored: (shape) => ({ ...shape, scale: [shape.scale[0], -shape.scale[1], shape.scale[2]] }),
};
