import { kindTable, namesOf, type UnionOf, unionSchema } from "@core/schema";
import { ball } from "./ball";
import { box } from "./box";
import { cone } from "./cone";
import { mesh } from "./mesh";
import { plate } from "./plate";
import { rod } from "./rod";
import type { Facets, Hull, MeshOf, ShapeKind, Vector } from "./shapeKind";

export { type Mesh, meshCaps, meshSchema, surfaceOf, wordsAsText } from "./meshData";
export type { Facets, Hull, MeshOf, Vector } from "./shapeKind";

/** What parts are made of, in the order of menus. */
const shapeKinds = kindTable({ box, rod, ball, cone, plate, mesh });

export const shapeSchema = unionSchema(shapeKinds);
export type Shape = UnionOf<typeof shapeKinds>;
export type ShapeName = Shape["kind"];
export const shapeNames = namesOf(shapeKinds);

/** A new body of a kind; null for a mesh, which is read from a file. */
export const freshShape = (kind: ShapeName): Shape | null => shapeKinds[kind].begin();

const kindOf = (shape: Shape) => shapeKinds[shape.kind] as unknown as ShapeKind<typeof shapeSchema>;

export const hullOf = (shape: Shape, meshOf: MeshOf): Hull => kindOf(shape).hull(shape, meshOf);
export const facetsOf = (shape: Shape, meshOf: MeshOf): Facets => kindOf(shape).facets(shape, meshOf);
/** In mm³. */
export const volumeOf = (shape: Shape, meshOf: MeshOf): number => kindOf(shape).volumeMm3(shape, meshOf);
/** Moments of inertia about its own x, y and z for a mass of 1, in mm². */
export const spreadOf = (shape: Shape, meshOf: MeshOf): Vector => kindOf(shape).spreadMm2(shape, meshOf);
/** The same with left and right exchanged: turned over its x-z plane. */
export const mirroredShape = (shape: Shape): Shape => kindOf(shape).mirrored(shape);
