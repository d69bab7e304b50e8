import { homeTargetOf } from "@core/project";
import { useProject } from "@stores/document";
import { onGhost } from "@stores/ghost";
import { onLive, pace } from "@stores/live";
import { useEffect, useRef } from "react";
import { frontal } from "./camera";
import { actualOf, ghostOrActual } from "./liveTargets";
import { Painting } from "./painting";
import { useScene } from "./useScene";

export interface FigurePictureProps {
  readonly className?: string;
  /** Shows joints where the ghost has them, where there is one: a moment of a routine that does not play. */
  readonly showsGhost?: boolean;
}

/** The picture itself: a canvas for each figure that moves, drawn anew as its servos turn. */
export default function PaintedFigures({ className, showsGhost = false }: FigurePictureProps) {
  const scene = useScene();
  const name = useProject((project) => project.name);
  const box = useRef<HTMLDivElement>(null);
  const table = useRef<HTMLDivElement>(null);
  const isEmpty = scene.assembly.parts.length === 0 && scene.things.length === 0;
  useEffect(() => {
    const element = box.current;
    if (!element || isEmpty) return;
    const hung: HTMLElement[] = [];
    const painting = new Painting(scene.assembly, scene.things, scene.meshOf, frontal, (part) => {
      part.className = "pointer-events-none absolute max-w-none";
      element.append(part);
      hung.push(part);
    });
    const rests = scene.joints.map(homeTargetOf);
    const whereIs = showsGhost ? ghostOrActual : actualOf;
    const show = () =>
      painting.show((joint) => {
        const one = scene.joints[joint];
        return one ? whereIs(one) : 0;
      });
    const observer = new ResizeObserver(() => {
      painting.fit(element.clientWidth, element.clientHeight, rests);
      if (table.current) table.current.style.top = `${(painting.horizonShare * 100).toFixed(1)}%`;
      show();
    });
    observer.observe(element);
    const stops = [onLive(show, pace.picture), onGhost(show), () => observer.disconnect()];
    return () => {
      for (const stop of stops) stop();
      for (const part of hung) part.remove();
    };
  }, [scene, showsGhost, isEmpty]);
  return (
    <div
      ref={box}
      className={`relative overflow-hidden bg-scene-sky ${className ?? ""}`}
      role="img"
      aria-label={isEmpty ? "An empty table" : `What stands on the bench of ${name}`}
    >
      <div ref={table} className="absolute inset-x-0 top-3/4 bottom-0 border-scene-edge border-t-4 bg-scene-table" />
    </div>
  );
}
