import { Canvas, useThree } from "@react-three/fiber";
import { ghostNow, onGhost } from "@stores/ghost";
import { onLive } from "@stores/live";
import { useEffect, useMemo } from "react";
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  Group,
  HemisphereLight,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  type PerspectiveCamera,
  PlaneGeometry,
  SphereGeometry,
  type Scene as ThreeScene,
} from "three";
import { Camera } from "./camera";
import { actualOf } from "./liveTargets";
import { disposeOf, Shown, standingThing } from "./threeBodies";
import { cloudOf, travelArc } from "./threeMarks";
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
const slowlyMs = { moving: 120, atRest: 2000 } as const;
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
