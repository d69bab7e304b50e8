import { ghostNow, onGhost } from "@stores/ghost";
import { onLive } from "@stores/live";
import { useEffect, useRef } from "react";
import { Camera } from "./camera";
import { Drawing } from "./drawing";
import { actualOf } from "./liveTargets";
import type { FigureViewProps } from "./viewProps";

/** The large picture without WebGL: the same figures as a plain drawing, the ghost pale over them. */
export function LineView({ scene, lookout, meetings }: FigureViewProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const drawing = new Drawing(scene.assembly, scene.things, scene.meshOf);
    let drawn = "";
    const show = () => {
      const dense = Math.min(window.devicePixelRatio || 1, 2);
      const [width, height] = [Math.round(element.clientWidth * dense), Math.round(element.clientHeight * dense)];
      const ghost = ghostNow();
      const actual = scene.joints.map((joint) => Math.round(actualOf(joint) * 5) / 5);
      const key = JSON.stringify([width, height, lookout.outlook, actual, ghost]);
      const to = key === drawn ? null : element.getContext("2d");
      if (!to || width < 2) return;
      drawn = key;
      if (element.width !== width || element.height !== height) [element.width, element.height] = [width, height];
      to.clearRect(0, 0, width, height);
      const camera = new Camera(lookout.outlook, width, height);
      actual.forEach((target, joint) => {
        drawing.now.targets[joint] = target;
      });
      drawing.draw(to, camera);
      if (ghost) {
        const stood = Float64Array.from(drawing.now.frames);
        scene.joints.forEach(({ id }, joint) => {
          drawing.now.targets[joint] = ghost[id] ?? (actual[joint] as number);
        });
        drawing.draw(to, camera, 0.45, stood);
      }
      const at = new Float64Array(2);
      to.strokeStyle = "#c0392b";
      to.lineWidth = 2 * dense;
      for (const { atMm } of meetings) {
        camera.see(atMm[0], atMm[1], atMm[2], at);
        to.beginPath();
        to.arc(at[0] as number, at[1] as number, 9 * dense, 0, 2 * Math.PI);
        to.stroke();
      }
    };
    const observer = new ResizeObserver(show);
    observer.observe(element);
    const stops = [onLive(show), onGhost(show), lookout.listen(show), () => observer.disconnect()];
    show();
    return () => {
      for (const stop of stops) stop();
    };
  }, [scene, lookout, meetings]);
  return <canvas ref={canvas} className="absolute inset-0 size-full" data-drawn-by="lines" />;
}
