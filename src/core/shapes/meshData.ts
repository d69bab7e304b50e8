import { between, type DeepReadonly, idSchema, labelSchema, textUpTo } from "@core/schema";
import * as z from "zod/mini";

/** How fine a mesh may be: what is read from a file is made coarser until it is. */
export const meshCaps = { corners: 4000, faces: 6000 } as const;

/** Base64 of whole numbers of 16 bits, low byte first. */
const wordsUpTo = (count: number) => textUpTo(Math.ceil((count * 2) / 3) * 4);

/**
 * A surface of triangles, read from a file. Corners are whole numbers of 16 bits between `lowMm` (0) and `highMm` (65535) along x, y and z; each face is three
 * places of corners.
 */
export const meshSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  lowMm: z.tuple([finiteMm(), finiteMm(), finiteMm()]),
  highMm: z.tuple([finiteMm(), finiteMm(), finiteMm()]),
  corners: wordsUpTo(3 * meshCaps.corners),
  faces: wordsUpTo(3 * meshCaps.faces),
});
export type Mesh = DeepReadonly<z.infer<typeof meshSchema>>;

function finiteMm() {
  return between(-20_000, 20_000);
}

export interface Surface {
  readonly corners: Float64Array;
  readonly faces: readonly (readonly number[])[];
}

const unpacked = new WeakMap<Mesh, Surface>();

/** The surface of a mesh, in mm. Faces that name no corner are left out. */
export function surfaceOf(mesh: Mesh): Surface {
  const known = unpacked.get(mesh);
  if (known) return known;
  const packed = wordsIn(mesh.corners);
  const corners = Float64Array.from(packed, (word, at) => {
    const axis = (at % 3) as 0 | 1 | 2;
    return mesh.lowMm[axis] + (word / 65_535) * (mesh.highMm[axis] - mesh.lowMm[axis]);
  });
  const count = corners.length / 3;
  const words = wordsIn(mesh.faces);
  const faces: number[][] = [];
  for (let at = 0; at + 2 < words.length; at += 3) {
    const face = [words[at] as number, words[at + 1] as number, words[at + 2] as number];
    if (face.every((place) => place < count)) faces.push(face);
  }
  const surface = { corners, faces };
  unpacked.set(mesh, surface);
  return surface;
}

/** Whole numbers of 16 bits as base64. */
export function wordsAsText(words: ArrayLike<number>): string {
  let bytes = "";
  for (let at = 0; at < words.length; at += 1) {
    const word = words[at] as number;
    bytes += String.fromCharCode(word & 255, (word >> 8) & 255);
  }
  return btoa(bytes);
}

function wordsIn(text: string): Uint16Array {
  let bytes = "";
  try {
    bytes = atob(text);
  } catch {
    // What is no base64 holds nothing.
  }
  return Uint16Array.from(
    { length: bytes.length >> 1 },
    (_, at) => bytes.charCodeAt(2 * at) | (bytes.charCodeAt(2 * at + 1) << 8),
  );
}
