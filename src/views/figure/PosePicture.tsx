import { assemble } from "@core/figure";
import type { Pose } from "@core/project";
import { useEffect, useRef } from "react";
import { Camera, fitted, frontal } from "./camera";
import { Drawing } from "./drawing";
import { restOf } from "./liveTargets";
import { useScene } from "./useScene";

interface PosePictureProps {
  readonly targets: Pose["targets"];
  readonly label: string;
  readonly className?: string;
}

/** The figures that a pose moves, standing in it: drawn once, and again when the pose or a figure changes. */
export function PosePicture({ targets, label, className }: PosePictureProps) {
  const scene = useScene();
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
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
    drawing.now.targets.set(scene.joints.map((joint) => targets[joint.id] ?? restOf(joint)));
    const show = () => {
      const dense = Math.min(window.devicePixelRatio || 1, 2);
      const [width, height] = [Math.round(element.clientWidth * dense), Math.round(element.clientHeight * dense)];
      const to = element.getContext("2d");
      if (!to || width < 2) return;
      [element.width, element.height] = [width, height];
      drawing.draw(
        to,
        new Camera(fitted(drawing.balls(), { ...frontal, aroundDeg: 18 }, width, height), width, height),
      );
    };
    const observer = new ResizeObserver(show);
    observer.observe(element);
    return () => observer.disconnect();
  }, [scene, targets]);
  return <canvas ref={canvas} role="img" aria-label={label} className={className} />;
}
