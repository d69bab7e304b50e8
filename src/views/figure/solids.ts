import { facetsOf, type MeshOf, type Shape } from "@core/shapes";
import { BoxGeometry, BufferAttribute, BufferGeometry, CylinderGeometry, SphereGeometry } from "three";

/** A body's surface for WebGL, its origin in its middle and z along what is long. */
export function geometryOf(shape: Shape, meshOf: MeshOf): BufferGeometry {
  switch (shape.kind) {
    case "box":
      return new BoxGeometry(...shape.sizeMm);
    case "ball":
      return new SphereGeometry(shape.radiusMm, 28, 18);
    case "rod":
      return new CylinderGeometry(shape.radiusMm, shape.radiusMm, shape.lengthMm, 32).rotateX(Math.PI / 2);
    case "cone":
      return new CylinderGeometry(shape.topRadiusMm, shape.radiusMm, shape.lengthMm, 32).rotateX(Math.PI / 2);
    case "plate":
    case "mesh":
      return facetted(shape, meshOf);
  }
}

/** Flat faces cut into triangles from their first corner: outlines with bays may be cut a little too full. */
function facetted(shape: Shape, meshOf: MeshOf): BufferGeometry {
  const { corners, faces } = facetsOf(shape, meshOf);
  const places: number[] = [];
  for (const face of faces)
    for (const triangle of triangles(corners, face))
      for (const at of triangle) for (let row = 0; row < 3; row += 1) places.push(corners[3 * at + row] as number);
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(Float32Array.from(places), 3));
  geometry.computeVertexNormals();
  return geometry;
}

/** Cuts a face by clipping its ears, as seen along its own normal: bays stay bays. */
function triangles(corners: Float64Array, face: readonly number[]): readonly (readonly [number, number, number])[] {
  if (face.length === 3) return [face as unknown as readonly [number, number, number]];
  const at = (place: number, row: number) => corners[3 * place + row] as number;
  // The normal by Newell's sum over all edges.
  const normal = [0, 0, 0] as [number, number, number];
  face.forEach((place, index) => {
    const next = face[(index + 1) % face.length] as number;
    for (let row = 0; row < 3; row += 1) {
      const [u, v] = [(row + 1) % 3, (row + 2) % 3];
      normal[row] = (normal[row] as number) + (at(place, u) - at(next, u)) * (at(place, v) + at(next, v));
    }
  });
  const drop = normal.map(Math.abs).indexOf(Math.max(...normal.map(Math.abs)));
  const [u, v] = [(drop + 1) % 3, (drop + 2) % 3];
  const sign = Math.sign(normal[drop] as number) || 1;
  const cross = (a: number, b: number, c: number) =>
    sign * ((at(b, u) - at(a, u)) * (at(c, v) - at(a, v)) - (at(b, v) - at(a, v)) * (at(c, u) - at(a, u)));
  const left = [...face];
  const cut: [number, number, number][] = [];
  while (left.length > 3) {
    const ear = left.findIndex((b, index) => {
      const a = left[(index + left.length - 1) % left.length] as number;
      const c = left[(index + 1) % left.length] as number;
      if (cross(a, b, c) <= 0) return false;
      return left.every(
        (p) => p === a || p === b || p === c || !(cross(a, b, p) >= 0 && cross(b, c, p) >= 0 && cross(c, a, p) >= 0),
      );
    });
    const index = Math.max(0, ear);
    cut.push([
      left[(index + left.length - 1) % left.length] as number,
      left[index] as number,
      left[(index + 1) % left.length] as number,
    ]);
    left.splice(index, 1);
  }
  cut.push(left as unknown as [number, number, number]);
  return cut;
}
