import { assemble } from "@core/figure";
import { homeTargetOf, type Pose } from "@core/project";
import { memo, useEffect, useRef } from "react";
import { Camera, fitted, frontal } from "./camera";
import { Drawing } from "./drawing";
import type { Scene } from "./useScene";

/** An image that shows nothing yet. */
const nothing = "data:image/gif;base64,R0lGODlhAQABAAAAACH5BAEKAAEALAAAAAABAAEAAAICTAEAOw==";

interface PosePictureProps {
  readonly scene: Scene;
  readonly targets: Pose["targets"];
  /** What it shows; empty beside words that say so already. */
  readonly label: string;
  readonly className?: string;
}

/**
 * The figures that a pose moves, standing in it: drawn once it comes into sight, and again when the pose or a figure changes. It is shown as an image: the
 * browser keeps a layer for each canvas, and puts all of them together again whenever anything on the page moves.
 */
export const PosePicture = memo(function PosePicture({ scene, targets, label, className }: PosePictureProps) {
  const image = useRef<HTMLImageElement>(null);
  useEffect(() => {
    const element = image.current;
    if (!element) return;
    let drawing: Drawing | null = null;
    const show = () => {
      drawing ??= drawingOf(scene, targets);
      const dense = Math.min(window.devicePixelRatio || 1, 2);
      const [width, height] = [Math.round(element.clientWidth * dense), Math.round(element.clientHeight * dense)];
      const canvas = document.createElement("canvas");
      const to = canvas.getContext("2d");
      if (!to || width < 2) return;
      [canvas.width, canvas.height] = [width, height];
      drawing.draw(
        to,
        new Camera(fitted(drawing.balls(), { ...frontal, aroundDeg: 18 }, width, height), width, height),
      );
      element.src = canvas.toDataURL();
    };
    const resized = new ResizeObserver(show);
    const seen = new IntersectionObserver((entries) => {
      if (!entries.some(({ isIntersecting }) => isIntersecting)) return;
      seen.disconnect();
      resized.observe(element);
    });
    seen.observe(element);
    return () => {
      seen.disconnect();
      resized.disconnect();
    };
  }, [scene, targets]);
  return <img ref={image} src={nothing} alt={label} className={className} />;
});

function drawingOf(scene: Scene, targets: Pose["targets"]): Drawing {
  const rigIds = new Set(scene.joints.filter(({ id }) => targets[id] !== undefined).map(({ rigId }) => rigId));
  const figures = scene.figures.filter(({ rigId }) => rigIds.has(rigId));
  const drawing = new Drawing(
    assemble(
      figures,
      scene.joints.map(({ id }) => id),
    ),
    [],
    scene.meshOf,
  );
  drawing.now.targets.set(scene.joints.map((joint) => targets[joint.id] ?? homeTargetOf(joint)));
  return drawing;
}
