import {
  type Assembly,
  type Frames,
  frameOfPlace,
  frameSize,
  isElsewhere,
  movedMm,
  partFrame,
  type Standing,
  stand,
  standing,
} from "@core/figure";
import type { Body, Thing } from "@core/project";
import { hullOf, type Shape } from "@core/shapes";
import {
  type BufferGeometry,
  EdgesGeometry,
  Group,
  LineBasicMaterial,
  LineSegments,
  type Material,
  Matrix4,
  Mesh,
  MeshLambertMaterial,
} from "three";
import { geometryOf } from "./solids";
import type { Scene } from "./useScene";

const frame = new Float64Array(frameSize);

function matrixOf(frames: Frames, at: number): Matrix4 {
  const f = (index: number) => frames[at + index] as number;
  return new Matrix4().set(f(0), f(1), f(2), f(9), f(3), f(4), f(5), f(10), f(6), f(7), f(8), f(11), 0, 0, 0, 1);
}

function bodyMesh(
  body: Pick<Body, "place" | "color"> & { readonly shape: Shape },
  scene: Scene,
  material: Material,
): Mesh {
  const mesh = new Mesh(geometryOf(body.shape, scene.meshOf), material);
  frameOfPlace(body.place, frame);
  mesh.matrixAutoUpdate = false;
  mesh.matrix.copy(matrixOf(frame, 0));
  return mesh;
}

const edgeColor = "#14110c";

/** Edges like a drawing's. What is round has none along its side. */
function edgesOf(mesh: Mesh, color: string): LineSegments {
  const edges = new LineSegments(new EdgesGeometry(mesh.geometry, 28), new LineBasicMaterial({ color }));
  edges.matrixAutoUpdate = false;
  edges.matrix.copy(mesh.matrix);
  return edges;
}

export function standingThing(thing: Thing, scene: Scene, isMarked: boolean): Group {
  const group = new Group();
  const isZone = thing.kind === "zone";
  const material = new MeshLambertMaterial({
    color: thing.color,
    transparent: isZone,
    opacity: isZone ? 0.3 : 1,
    depthWrite: !isZone,
  });
  const mesh = bodyMesh(thing, scene, material);
  mesh.castShadow = !isZone;
  mesh.receiveShadow = !isZone;
  group.add(mesh, edgesOf(mesh, isMarked ? "#e08a1e" : edgeColor));
  return group;
}

/** An assembly as it is shown: solid, or as a ghost. */
export class Shown {
  readonly group = new Group();
  readonly now: Standing;
  readonly #parts: readonly Group[];
  readonly #edges = new Map<string, LineSegments[]>();
  /** How far the bodies of each part reach from its middle, in mm. */
  readonly #reaches: readonly number[];
  /** As it was drawn last. */
  readonly #drawn: Frames;

  constructor(assembly: Assembly, scene: Scene, isGhost: boolean) {
    this.now = standing(assembly);
    this.#drawn = new Float64Array(this.now.frames.length).fill(Number.POSITIVE_INFINITY);
    this.#reaches = assembly.parts.map(({ bodies }) =>
      Math.max(0, ...bodies.map(({ shape, place }) => Math.hypot(...place.atMm) + hullOf(shape, scene.meshOf).reachMm)),
    );
    this.#parts = assembly.parts.map((part) => {
      const group = new Group();
      group.matrixAutoUpdate = false;
      const lines: LineSegments[] = [];
      for (const body of part.bodies) {
        const material = isGhost
          ? new MeshLambertMaterial({ color: "#d9ae55", transparent: true, opacity: 0.42, depthWrite: false })
          : new MeshLambertMaterial({ color: body.color });
        const mesh = bodyMesh(body, scene, material);
        mesh.castShadow = !isGhost;
        mesh.receiveShadow = !isGhost;
        const edges = edgesOf(mesh, isGhost ? "#7a5710" : edgeColor);
        lines.push(edges);
        group.add(mesh, edges);
      }
      this.#edges.set(part.id, lines);
      this.group.add(group);
      return group;
    });
  }

  /**
   * Stands it so. Gives whether anything is to be drawn anew: what has moved by less than `seenMm` since it was drawn is not. Beside another standing only those
   * parts are shown that stand elsewhere.
   */
  stand(targets: readonly number[], seenMm: number, beside?: Standing): boolean {
    this.now.targets.set(targets);
    stand(this.now);
    const { frames } = this.now;
    const hasMoved = this.#reaches.some(
      // What was never drawn stands nowhere.
      (reachMm, place) => !(movedMm(this.#drawn, frames, partFrame(place), reachMm) < seenMm),
    );
    if (!hasMoved) return false;
    this.#drawn.set(frames);
    this.#parts.forEach((group, place) => {
      group.matrix.copy(matrixOf(frames, partFrame(place)));
      group.matrixWorldNeedsUpdate = true;
      if (beside) group.visible = isElsewhere(frames, beside.frames, partFrame(place));
    });
    return true;
  }

  /** Marks the edges of one part. */
  mark(partId: string | null): void {
    for (const [id, lines] of this.#edges)
      for (const { material } of lines)
        (material as LineBasicMaterial).color.set(id === partId ? "#e08a1e" : edgeColor);
  }

  dispose(): void {
    disposeOf(this.group);
  }
}

/** Gives back what a group holds at the graphics card. */
export function disposeOf(group: Group): void {
  group.traverse((one) => {
    const { geometry, material } = one as { geometry?: BufferGeometry; material?: Material };
    geometry?.dispose();
    material?.dispose();
  });
}
