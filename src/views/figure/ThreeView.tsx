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
import { Canvas, useThree } from "@react-three/fiber";
import { ghostNow, onGhost } from "@stores/ghost";
import { onLive } from "@stores/live";
import { useEffect, useMemo } from "react";
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  EdgesGeometry,
  Group,
  HemisphereLight,
  LineBasicMaterial,
  LineSegments,
  type Material,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  type PerspectiveCamera,
  PlaneGeometry,
  Points,
  PointsMaterial,
  SphereGeometry,
  type Scene as ThreeScene,
} from "three";
import { Camera } from "./camera";
import { actualOf } from "./liveTargets";
import { geometryOf } from "./solids";
import type { Scene } from "./useScene";
import type { FigureViewProps } from "./viewProps";

/** How many pictures were drawn: a page that rests draws none, and tests count them. */
const counted = { pictures: 0 };

interface ThreeViewProps extends FigureViewProps {
  /**
   * The computer draws it without a graphics card: then it is drawn without shadows and smooth edges, and what moves by itself a few times a second, so that the
   * bench keeps its time.
   */
  readonly isSlow: boolean;
}

/** What has moved by less than this in the picture is not drawn anew, in px. */
const seenPx = 0.4;
/** Where drawing is slow, the least time between two pictures of what moves by itself, in ms: the page stands still for each. */
const slowlyMs = { moving: 120, atRest: 1000 } as const;
/** A bench at rest shows itself further apart than this, in ms. */
const restMs = 100;

/** The large picture in three dimensions. It draws only when something has moved. */
export default function ThreeView(props: ThreeViewProps) {
  return (
    <Canvas
      flat
      frameloop="demand"
      shadows={props.isSlow ? false : "percentage"}
      dpr={props.isSlow ? 1 : [1, 2]}
      gl={{ antialias: !props.isSlow, powerPreference: "low-power" }}
      camera={{ fov: 28, near: 10, far: 60_000, up: [0, 0, 1] }}
      className="absolute! inset-0"
      data-drawn-by="three"
    >
      <Stage {...props} />
    </Canvas>
  );
}

function Stage({ scene, lookout, partId, thingId, jointId, meetings, cloud, isSlow }: ThreeViewProps) {
  const root = useThree((state) => state.scene);
  const camera = useThree((state) => state.camera) as PerspectiveCamera;
  const invalidate = useThree((state) => state.invalidate);
  const size = useThree((state) => state.size);
  const element = useThree((state) => state.gl.domElement);

  useEffect(() => {
    const look = () => {
      const from = new Camera(lookout.outlook, size.width, size.height);
      camera.up.set(0, 0, 1);
      camera.position.set(...from.eye);
      camera.lookAt(...lookout.outlook.middleMm);
      camera.updateProjectionMatrix();
      invalidate();
    };
    look();
    return lookout.listen(look);
  }, [lookout, camera, invalidate, size]);

  useEffect(() => furnish(root, element, invalidate), [root, element, invalidate]);

  const actual = useMemo(() => new Shown(scene.assembly, scene, false), [scene]);
  const ghost = useMemo(() => new Shown(scene.assembly, scene, true), [scene]);
  useEffect(() => {
    root.add(actual.group, ghost.group);
    const around = new Group();
    for (const thing of scene.things) around.add(standingThing(thing, scene, thing.id === thingId));
    root.add(around);
    let shownMs = 0;
    const show = () => {
      const { farMm } = lookout.outlook;
      const seenMm = seenPx / new Camera(lookout.outlook, size.width, size.height).scaleAt(farMm);
      let hasChanged = actual.stand(scene.joints.map(actualOf), seenMm);
      const targets = ghostNow();
      const isGhost =
        targets !== null &&
        scene.joints.some((joint) => Math.abs((targets[joint.id] ?? actualOf(joint)) - actualOf(joint)) > 0.6);
      if (ghost.group.visible !== isGhost) {
        ghost.group.visible = isGhost;
        hasChanged = true;
      }
      if (
        isGhost &&
        ghost.stand(
          scene.joints.map((joint) => targets?.[joint.id] ?? actualOf(joint)),
          seenMm,
          actual.now,
        )
      )
        hasChanged = true;
      if (!hasChanged) return;
      shownMs = performance.now();
      invalidate();
    };
    ghost.group.visible = false;
    show();
    invalidate();
    let lookedMs = 0;
    const showLive = () => {
      const nowMs = performance.now();
      const leastMs = nowMs - lookedMs > restMs ? slowlyMs.atRest : slowlyMs.moving;
      lookedMs = nowMs;
      if (!isSlow || nowMs - shownMs > leastMs) show();
    };
    const stops = [onLive(showLive), onGhost(show)];
    return () => {
      for (const stop of stops) stop();
      root.remove(actual.group, ghost.group, around);
      actual.dispose();
      ghost.dispose();
      disposeOf(around);
    };
  }, [scene, thingId, root, actual, ghost, isSlow, lookout, size, invalidate]);

  useEffect(() => {
    actual.mark(partId);
    invalidate();
  }, [actual, partId, invalidate]);

  useEffect(() => {
    const marks = new Group();
    for (const { atMm } of meetings) {
      const ball = new Mesh(
        new SphereGeometry(7, 16, 12),
        new MeshBasicMaterial({ color: "#d2402b", depthTest: false }),
      );
      ball.renderOrder = 5;
      ball.position.set(...atMm);
      marks.add(ball);
    }
    const arc = jointId === null ? null : travelArc(scene, actual.now, jointId);
    if (arc) marks.add(arc);
    if (cloud) marks.add(cloudOf(cloud.places, cloud.worth, cloud.cubeMm));
    root.add(marks);
    invalidate();
    return () => {
      root.remove(marks);
      disposeOf(marks);
      invalidate();
    };
  }, [meetings, jointId, cloud, scene, actual, root, invalidate]);
  return null;
}

/** Light, table and its grid, in the colours of the theme; again when that changes. */
function furnish(root: ThreeScene, element: HTMLCanvasElement, invalidate: () => void): () => void {
  const furniture = new Group();
  const sun = new DirectionalLight("#fff6e4", 2.2);
  sun.position.set(500, -420, 800);
  sun.castShadow = true;
  sun.shadow.mapSize.set(1024, 1024);
  Object.assign(sun.shadow.camera, { left: -700, right: 700, top: 700, bottom: -700, near: 50, far: 2500 });
  sun.shadow.normalBias = 1.5;
  const table = new Mesh(new PlaneGeometry(1100, 1300), new MeshLambertMaterial());
  table.receiveShadow = true;
  table.position.z = -0.6;
  const sky = new HemisphereLight("#ffffff", "#8a7a60", 1.5);
  sky.position.set(0, 0, 1);
  furniture.add(sun, sky, table, gridOf());
  const dress = () => {
    const colors = getComputedStyle(element);
    const isNight = document.documentElement.dataset.theme === "nightbench";
    root.background = new Color(colors.getPropertyValue("--scene-sky").trim());
    table.material.color.set(colors.getPropertyValue("--scene-table").trim());
    sun.intensity = isNight ? 1.5 : 1.5;
    sky.intensity = isNight ? 1.9 : 2.1;
    invalidate();
  };
  dress();
  const observer = new MutationObserver(dress);
  observer.observe(document.documentElement, { attributeFilter: ["data-theme"] });
  root.onAfterRender = () => {
    counted.pictures += 1;
    element.dataset.pictures = String(counted.pictures);
  };
  root.add(furniture);
  return () => {
    observer.disconnect();
    root.remove(furniture);
    disposeOf(furniture);
  };
}

/** Lines every 100 mm, half a metre each way. */
function gridOf(): LineSegments {
  const ends: number[] = [];
  for (let at = -500; at <= 500; at += 100) ends.push(at, -500, 0, at, 500, 0, -500, at, 0, 500, at, 0);
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(Float32Array.from(ends), 3));
  return new LineSegments(geometry, new LineBasicMaterial({ color: "#7a6540", transparent: true, opacity: 0.35 }));
}

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

function standingThing(thing: Thing, scene: Scene, isMarked: boolean): Group {
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
class Shown {
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

/** The travel of a joint, as an arc about its axle: from the one limit to the other. */
function travelArc({ assembly, joints }: Scene, now: Standing, jointId: string): LineSegments | null {
  const joint = joints.findIndex(({ id }) => id === jointId);
  const axis = joints[joint]?.axis;
  const place = assembly.movers.indexOf(joint);
  const part = assembly.parts[place];
  if (joint < 0 || axis?.kind !== "angle" || part?.motion.kind !== "turn") return null;
  const trial = standing(assembly);
  trial.targets.set(now.targets);
  const ends: number[] = [];
  const radiusMm = 70;
  const centre = [...(assembly.axes[place] as readonly number[])];
  // A direction across the axle: where what hangs on it leads, or any.
  const across = Math.abs(centre[2] as number) > 0.9 ? [radiusMm, 0, 0] : [0, 0, radiusMm];
  let last: number[] | null = null;
  for (let step = 0; step <= 48; step += 1) {
    trial.targets[joint] = axis.travel.low + ((axis.travel.high - axis.travel.low) * step) / 48;
    stand(trial);
    const at = partFrame(place);
    const point = [0, 1, 2].map((row) =>
      across.reduce(
        (sum, value, column) => sum + value * (trial.frames[at + 3 * row + column] as number),
        trial.frames[at + 9 + row] as number,
      ),
    );
    if (last) ends.push(...last, ...point);
    else ends.push(...[9, 10, 11].map((row) => trial.frames[at + row] as number), ...point);
    last = point;
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(Float32Array.from(ends), 3));
  const line = new LineSegments(geometry, new LineBasicMaterial({ color: "#b5761a", depthTest: false }));
  line.renderOrder = 4;
  return line;
}

/** Where a tip can be: pale where it can hardly be moved on, strong where it goes any way. */
function cloudOf(places: Float32Array, worth: Float32Array, cubeMm: number): Points {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(places, 3));
  // The very best are few: beside them all else would look alike.
  const sorted = worth.filter(Number.isFinite).sort();
  const most = Math.max(1e-6, sorted[Math.floor(sorted.length * 0.85)] ?? 0);
  const [poor, good] = [new Color("#a5432f"), new Color("#3f8f5a")];
  const colors = new Float32Array(places.length);
  worth.forEach((value, at) => {
    poor
      .clone()
      .lerp(good, Math.sqrt(Math.min(1, value / most)))
      .toArray(colors, 3 * at);
  });
  geometry.setAttribute("color", new BufferAttribute(colors, 3));
  return new Points(
    geometry,
    new PointsMaterial({ size: cubeMm * 0.55, vertexColors: true, transparent: true, opacity: 0.75 }),
  );
}

function disposeOf(group: Group): void {
  group.traverse((one) => {
    const { geometry, material } = one as { geometry?: BufferGeometry; material?: Material };
    geometry?.dispose();
    material?.dispose();
  });
}
