import { ok, problem, type Result } from "@core/result";
import { type Mesh, meshCaps, wordsAsText } from "@core/shapes";

/** Triangles as they came from a file: nine numbers each. */
type Triangles = number[];

/** Larger files are refused: a servo's part is not made of more. */
const largestMeshBytes = 30_000_000;

/**
 * Reads a surface from an STL file (text or binary) or an OBJ file, by what is in it. `mmPerUnit` is what one of its units is worth: 1 for files in mm, 1000 for those in m.
 * What is finer than a figure needs is made coarser. Broken files are refused with a sentence.
 */
export function readMesh(fileName: string, bytes: Uint8Array, mmPerUnit: number, id: string): Result<Mesh> {
  if (bytes.length > largestMeshBytes)
    return problem(`${fileName} is larger than 30 MB. Make its surface coarser first.`);
  const read = /\.obj$/i.test(fileName) ? readObj(fileName, textOf(bytes)) : readStl(fileName, bytes);
  if (!read.ok) return read;
  const triangles = read.value;
  if (triangles.length === 0) return problem(`There is no triangle in ${fileName}.`);
  for (let at = 0; at < triangles.length; at += 1) {
    const value = (triangles[at] as number) * mmPerUnit;
    if (!Number.isFinite(value))
      return problem(`${fileName}: a corner of triangle ${Math.floor(at / 9) + 1} is not a number.`);
    if (Math.abs(value) > 20_000)
      return problem(`${fileName}: it is more than 20 m from its origin. Is it in another unit?`);
    triangles[at] = value;
  }
  return ok(
    packed(
      triangles,
      fileName
        .replace(/\.[^.]*$/, "")
        .slice(0, 80)
        .trim() || "Mesh",
      id,
    ),
  );
}

const textOf = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

function readStl(fileName: string, bytes: Uint8Array): Result<Triangles> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = bytes.length >= 84 ? view.getUint32(80, true) : 0;
  // A text begins with “solid”, and so do some binary files: the length tells.
  if (bytes.length >= 84 && bytes.length === 84 + 50 * count) {
    const triangles: Triangles = [];
    for (let triangle = 0; triangle < count; triangle += 1)
      for (let value = 0; value < 9; value += 1)
        triangles.push(view.getFloat32(84 + 50 * triangle + 12 + 4 * value, true));
    return ok(triangles);
  }
  const text = textOf(bytes);
  if (!/^\s*solid\b/.test(text)) return problem(`${fileName} is no STL file, or a part of it is missing.`);
  const triangles: Triangles = [];
  const line = /vertex\s+(\S+)\s+(\S+)\s+(\S+)/g;
  for (let found = line.exec(text); found; found = line.exec(text))
    triangles.push(Number(found[1]), Number(found[2]), Number(found[3]));
  if (triangles.length % 9 !== 0) return problem(`${fileName}: its last triangle is not whole.`);
  return ok(triangles);
}

function readObj(fileName: string, text: string): Result<Triangles> {
  const corners: number[] = [];
  const triangles: Triangles = [];
  const lines = text.split("\n");
  for (const [index, line] of lines.entries()) {
    const [word, ...rest] = line.trim().split(/\s+/);
    if (word === "v") corners.push(Number(rest[0]), Number(rest[1]), Number(rest[2]));
    if (word !== "f") continue;
    const places = rest.map((one) => {
      const place = Number.parseInt(one, 10);
      return place < 0 ? corners.length / 3 + place : place - 1;
    });
    if (places.length < 3 || places.some((place) => !(place >= 0 && place < corners.length / 3)))
      return problem(`${fileName}, line ${index + 1}: a face names a corner that is not there.`);
    for (let at = 1; at + 1 < places.length; at += 1)
      for (const place of [places[0], places[at], places[at + 1]] as number[])
        triangles.push(...(corners.slice(3 * place, 3 * place + 3) as [number, number, number]));
  }
  return ok(triangles);
}

/** Corners that lie on one another are one; while there are too many, those within ever larger cubes are. */
function packed(triangles: Triangles, label: string, id: string): Mesh {
  const low = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  const high = low.map((value) => -value);
  triangles.forEach((value, at) => {
    low[at % 3] = Math.min(low[at % 3] as number, value);
    high[at % 3] = Math.max(high[at % 3] as number, value);
  });
  const span = Math.max(...high.map((value, axis) => value - (low[axis] as number)), 1e-6);
  for (let cells = 65_535; ; cells = Math.floor(cells / (cells > 400 ? 8 : 1.3))) {
    const { corners, faces } = clustered(triangles, low, span / cells);
    if (corners.length <= 3 * meshCaps.corners && faces.length <= 3 * meshCaps.faces) {
      const words = corners.map((value, at) => {
        const axis = at % 3;
        const wide = (high[axis] as number) - (low[axis] as number);
        return wide > 0 ? Math.round(((value - (low[axis] as number)) / wide) * 65_535) : 0;
      });
      return {
        id,
        label,
        lowMm: low as [number, number, number],
        highMm: high as [number, number, number],
        corners: wordsAsText(words),
        faces: wordsAsText(faces),
      };
    }
  }
}

function clustered(triangles: Triangles, low: readonly number[], cellMm: number) {
  const known = new Map<string, number>();
  const corners: number[] = [];
  const faces: number[] = [];
  const placeOf = (at: number): number => {
    const key = [0, 1, 2]
      .map((axis) => Math.round(((triangles[at + axis] as number) - (low[axis] as number)) / cellMm))
      .join();
    const found = known.get(key);
    if (found !== undefined) return found;
    const place = corners.length / 3;
    known.set(key, place);
    corners.push(...triangles.slice(at, at + 3));
    return place;
  };
  for (let at = 0; at + 8 < triangles.length; at += 9) {
    const face = [placeOf(at), placeOf(at + 3), placeOf(at + 6)];
    if (new Set(face).size === 3) faces.push(...face);
  }
  return { corners, faces };
}

/** A surface as a binary STL file, in m, as URDF has it. */
export function stlOf(corners: Float64Array, faces: readonly (readonly number[])[]): Uint8Array {
  const bytes = new Uint8Array(84 + 50 * faces.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, faces.length, true);
  faces.forEach((face, index) => {
    face.slice(0, 3).forEach((place, corner) => {
      for (let axis = 0; axis < 3; axis += 1)
        view.setFloat32(
          84 + 50 * index + 12 + 12 * corner + 4 * axis,
          (corners[3 * place + axis] as number) / 1000,
          true,
        );
    });
  });
  return bytes;
}
