import { useProject } from "@stores/document";
import { ghostNow, onGhost } from "@stores/ghost";
import { liveJoint, onLive } from "@stores/live";
import { useEffect, useRef } from "react";
import { steady } from "../parts/draw";
import { armFigure } from "./armFigure";
import type { Figure } from "./figure";
import { owlFigure } from "./owlFigure";
import { hasScene, type PartAngle, type PartId, restDeg } from "./parts";
import { ventFigure } from "./ventFigure";

/** What trembles by less is not seen to move at the size of the picture. */
const seenInSceneDeg = 0.5;
const [pictureWidth, pictureHeight] = [480, 280];
const figures: readonly Figure[] = [ventFigure, armFigure, owlFigure];

interface GreenhouseProps {
  readonly className?: string;
  /** Shows joints where the ghost has them, where there is one: a moment of a routine that does not play. */
  readonly showsGhost?: boolean;
}

/**
 * The night greenhouse as a picture: Tawny on the post, Trellis at the bench, Vent in the roof, moved by where the
 * simulated servos really stand. The house is drawn once; each figure lies on a canvas of its own and is drawn anew only when it has moved.
 */
export function Greenhouse({ className, showsGhost = false }: GreenhouseProps) {
  const isHere = useProject((project) => hasScene(project.joints));
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current || !isHere) return;
    const element = box.current;
    const stages = [...element.querySelectorAll("canvas")].map(
      (canvas, at) => new Stage(canvas, figures[at] as Figure),
    );
    const angleOf: PartAngle = (part) => {
      const seen = (showsGhost ? ghostNow()?.[part] : undefined) ?? liveJoint(part, "actual");
      if (Number.isFinite(seen)) return seen;
      // A real servo that nobody reads is drawn where it was sent.
      const sent = liveJoint(part, "isHeld") === 1 ? liveJoint(part, "target") : Number.NaN;
      return Number.isFinite(sent) ? sent : restDeg[part];
    };
    const show = () => {
      for (const stage of stages) stage.show(angleOf);
    };
    const observer = new ResizeObserver(() => {
      for (const stage of stages) stage.fit(element.clientWidth, element.clientHeight);
      show();
    });
    observer.observe(element);
    const stops = [onLive(show), onGhost(show), () => observer.disconnect()];
    return () => {
      for (const stop of stops) stop();
    };
  }, [showsGhost, isHere]);

  if (!isHere) return null;
  return (
    <div
      ref={box}
      className={`relative overflow-hidden ${className ?? ""}`}
      role="img"
      aria-label="The night greenhouse with the owl, the arm and the roof vent"
    >
      <svg
        viewBox={`0 0 ${pictureWidth} ${pictureHeight}`}
        preserveAspectRatio="xMidYMax slice"
        className="absolute inset-0 size-full"
        aria-hidden="true"
      >
        <rect width="480" height="300" fill="#141c1f" />
        <circle cx="76" cy="50" r="19" fill="#e9e2c4" />
        <circle cx="84" cy="45" r="17" fill="#141c1f" />
        <Panes />
        <rect y="246" width="480" height="54" fill="#2b231a" />
        <rect y="246" width="480" height="5" fill="#4a3b28" />
        <SeedTrays />
      </svg>
      {figures.map(({ parts }) => (
        <canvas key={parts[0]} className="pointer-events-none absolute" />
      ))}
    </div>
  );
}

/** One figure on its canvas. */
class Stage {
  readonly #canvas: HTMLCanvasElement;
  readonly #figure: Figure;
  readonly #still: ReadonlyMap<PartId, (deg: number) => number>;
  #drawn = "";
  #unitPx = 0;

  constructor(canvas: HTMLCanvasElement, figure: Figure) {
    this.#canvas = canvas;
    this.#figure = figure;
    this.#still = new Map(figure.parts.map((part) => [part, steady(seenInSceneDeg)]));
  }

  /** Lies over its place in a picture of this size, in px: the picture fills it, its foot at the bottom. */
  fit(width: number, height: number): void {
    const [left, top, wide, high] = this.#figure.reach;
    const scale = Math.max(width / pictureWidth, height / pictureHeight);
    const dense = Math.min(window.devicePixelRatio || 1, 2);
    const { style } = this.#canvas;
    style.left = `${(width - pictureWidth * scale) / 2 + left * scale}px`;
    style.top = `${height - pictureHeight * scale + top * scale}px`;
    style.width = `${wide * scale}px`;
    style.height = `${high * scale}px`;
    this.#canvas.width = Math.ceil(wide * scale * dense);
    this.#canvas.height = Math.ceil(high * scale * dense);
    this.#unitPx = scale * dense;
    this.#drawn = "";
  }

  show(angleOf: PartAngle): void {
    const shown: Partial<Record<PartId, number>> = {};
    for (const [part, still] of this.#still) shown[part] = still(angleOf(part));
    const key = this.#figure.parts.map((part) => shown[part]?.toFixed(1)).join();
    const to = key === this.#drawn || this.#unitPx === 0 ? null : this.#canvas.getContext("2d");
    if (!to) return;
    this.#drawn = key;
    const [left, top] = this.#figure.reach;
    to.setTransform(this.#unitPx, 0, 0, this.#unitPx, -left * this.#unitPx, -top * this.#unitPx);
    to.clearRect(left, top, this.#figure.reach[2], this.#figure.reach[3]);
    this.#figure.draw(to, (part) => shown[part] ?? restDeg[part]);
  }
}

function Panes() {
  return (
    <g stroke="#33484a" strokeWidth="2.5" fill="none">
      <path d="M0 118L240 22L480 118" stroke="#46605f" strokeWidth="4" />
      <path d="M0 118H480M60 94V246M150 58V246M330 58V246M420 94V246M0 182H480" />
    </g>
  );
}

function SeedTrays() {
  return (
    <g>
      {[28, 190, 262].map((x) => (
        <g key={x} transform={`translate(${x} 238)`}>
          <path d="M0 0H44L40 12H4Z" fill="#6d4c31" />
          {[7, 16, 25, 34].map((stem) => (
            <path
              key={stem}
              d={`M${stem} 0v-7m0 2q-5 -1 -5 -5q5 0 5 4q0 -5 5 -6q0 5 -5 6`}
              stroke="#7fae78"
              strokeWidth="1.4"
              fill="none"
            />
          ))}
        </g>
      ))}
    </g>
  );
}
