import { homeTargetOf } from "@core/project";
import { onGhost } from "@stores/ghost";
import { onLive } from "@stores/live";
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { Fetched } from "../parts/Fetched";
import { lazily } from "../parts/lazily";
import { useDrag } from "../parts/useDrag";
import { Camera, fitted } from "./camera";
import { Drawing } from "./drawing";
import { drawsHow } from "./drawsHow";
import { LineView } from "./LineView";
import { outlooks } from "./lookout";
import type { FigureViewProps } from "./viewProps";

const ThreeView = lazily(() => import("./ThreeView"));

/** A place in the picture that can be taken: dragged, or moved with the arrow keys. */
export interface Handle {
  readonly id: string;
  readonly label: string;
  /** Where it is now, in the world. */
  readonly atMm: () => readonly [number, number, number];
  /** Moved by so much from where it was taken; `isOver` when it is let go. */
  readonly onMove: (byMm: readonly [number, number, number], isOver: boolean) => void;
  readonly onBegin: () => void;
  readonly look: "tip" | "look" | "part" | "thing";
}

interface FigureStageProps extends FigureViewProps {
  readonly handles: readonly Handle[];
  readonly className?: string;
}

/** The large picture of the bench: turned, moved and zoomed; with handles on what can be taken. */
export function FigureStage({ handles, className, ...view }: FigureStageProps) {
  const { scene, lookout } = view;
  const box = useRef<HTMLElement>(null);
  const [drawsBy] = useState(drawsHow);
  const fitTo = (direction: { readonly aroundDeg: number; readonly upDeg: number } = lookout.outlook) => {
    const element = box.current;
    if (!element) return;
    const drawing = new Drawing(scene.assembly, scene.things, scene.meshOf);
    drawing.now.targets.set(scene.joints.map(homeTargetOf));
    lookout.set(fitted(drawing.balls(), direction, element.clientWidth, element.clientHeight));
  };
  const fitNow = useRef(fitTo);
  fitNow.current = fitTo;
  // Once when it is first seen, and when other figures stand there: not at each edit of one.
  const standing = scene.figures.map(({ id }) => id).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: which figures stand there is what it waits for.
  useEffect(() => fitNow.current(), [standing]);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    // A wheel that zooms must not scroll: React's own listener could not say so.
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      lookout.set({ farMm: lookout.outlook.farMm * Math.exp(event.deltaY * 0.0012) });
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [lookout]);
  const orbit = useDrag<{ aroundDeg: number; upDeg: number; middleMm: readonly [number, number, number] }>({
    begin: () => ({ ...lookout.outlook }),
    move: (held, event, way) => {
      if (!event.shiftKey) {
        lookout.set({ aroundDeg: held.aroundDeg - way.x * 0.4, upDeg: held.upDeg + way.y * 0.3 });
        return;
      }
      const camera = cameraNow();
      const by = camera.wayOf(-way.x, -way.y, lookout.outlook.farMm);
      lookout.set({ middleMm: [held.middleMm[0] + by[0], held.middleMm[1] + by[1], held.middleMm[2] + by[2]] });
    },
  });
  const cameraNow = () => new Camera(lookout.outlook, box.current?.clientWidth ?? 1, box.current?.clientHeight ?? 1);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
    const { aroundDeg, upDeg, farMm } = lookout.outlook;
    const change = {
      ArrowLeft: { aroundDeg: aroundDeg - 6 },
      ArrowRight: { aroundDeg: aroundDeg + 6 },
      ArrowUp: { upDeg: upDeg + 5 },
      ArrowDown: { upDeg: upDeg - 5 },
      "+": { farMm: farMm * 0.9 },
      "-": { farMm: farMm * 1.1 },
    }[event.key];
    if (!change) return;
    event.preventDefault();
    event.stopPropagation();
    lookout.set(change);
  };
  const drags = orbit as unknown as Record<string, (event: PointerEvent<HTMLElement>) => void>;
  return (
    <div className={`relative ${className ?? ""}`}>
      <section
        ref={box}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: the picture is turned with the arrow keys.
        tabIndex={0}
        aria-label="The figure. Arrow keys turn it, + and − bring it nearer and further."
        className="absolute inset-0 cursor-grab touch-none overflow-hidden rounded-box bg-scene-sky active:cursor-grabbing"
        onKeyDown={onKeyDown}
        {...drags}
      >
        {drawsBy ? (
          <Fetched>
            <ThreeView {...view} isSlow={drawsBy === "slow"} />
          </Fetched>
        ) : (
          <LineView {...view} />
        )}
        {handles.map((handle) => (
          <HandleButton key={handle.id} handle={handle} cameraNow={cameraNow} lookout={lookout} />
        ))}
      </section>
      <div className="absolute top-2 right-2 flex gap-1">
        {outlooks.map(({ id, name, aroundDeg, upDeg }) => (
          <button
            key={id}
            type="button"
            className="btn btn-xs bg-base-100/80"
            onClick={() => fitTo({ aroundDeg, upDeg })}
          >
            {name}
          </button>
        ))}
        <button type="button" className="btn btn-xs bg-base-100/80" onClick={() => fitTo()}>
          All
        </button>
      </div>
      {!drawsBy && (
        <p className="caption absolute bottom-2 left-2 rounded-sm bg-base-100/80 px-2 py-0.5">
          Drawn in lines: this browser has no WebGL.
        </p>
      )}
    </div>
  );
}

interface HandleButtonProps {
  readonly handle: Handle;
  readonly lookout: FigureViewProps["lookout"];
  readonly cameraNow: () => Camera;
}

const looks: Readonly<Record<Handle["look"], string>> = {
  tip: "rounded-full border-primary bg-primary/40",
  look: "rotate-45 border-secondary bg-secondary/40",
  part: "rounded-sm border-warning bg-warning/40",
  thing: "rounded-sm border-info bg-info/40",
};

/** A handle: dragged in the plane of the picture; with the arrow keys a step along it, with Page up and Page down away and near. */
function HandleButton({ handle, lookout, cameraNow }: HandleButtonProps) {
  const button = useRef<HTMLButtonElement>(null);
  const latest = useRef(handle);
  latest.current = handle;
  const camera = useRef(cameraNow);
  camera.current = cameraNow;
  useEffect(() => {
    const seen = new Float64Array(2);
    let drawn = "";
    const show = () => {
      const [x, y, z] = latest.current.atMm();
      camera.current().see(x, y, z, seen);
      const place = `translate(${(seen[0] as number).toFixed(1)}px, ${(seen[1] as number).toFixed(1)}px)`;
      if (place === drawn || !button.current) return;
      drawn = place;
      button.current.style.transform = place;
    };
    show();
    const stops = [onLive(show), onGhost(show), lookout.listen(show)];
    return () => {
      for (const stop of stops) stop();
    };
  }, [lookout]);
  const drag = useDrag<{ depthMm: number }, HTMLButtonElement>({
    begin: () => {
      latest.current.onBegin();
      const [x, y, z] = latest.current.atMm();
      return { depthMm: camera.current().depth(x, y, z) };
    },
    move: ({ depthMm }, _event, way) => latest.current.onMove(camera.current().wayOf(way.x, way.y, depthMm), false),
    end: ({ depthMm }, _event, way, hasMoved) => {
      if (hasMoved) latest.current.onMove(camera.current().wayOf(way.x, way.y, depthMm), true);
    },
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const far = event.shiftKey ? 20 : event.altKey ? 1 : 5;
    const from = camera.current();
    const [x, y, z] = handle.atMm();
    const depth = from.depth(x, y, z);
    const px = far * from.scaleAt(depth);
    const away = [0, 1, 2].map(
      (row) => ((lookout.outlook.middleMm[row] as number) - (from.eye[row] as number)) / lookout.outlook.farMm,
    );
    const by = {
      ArrowLeft: from.wayOf(-px, 0, depth),
      ArrowRight: from.wayOf(px, 0, depth),
      ArrowUp: from.wayOf(0, -px, depth),
      ArrowDown: from.wayOf(0, px, depth),
      PageUp: away.map((value) => value * far) as [number, number, number],
      PageDown: away.map((value) => -value * far) as [number, number, number],
    }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    handle.onBegin();
    handle.onMove(by, true);
  };
  return (
    <button
      ref={button}
      type="button"
      data-handle={handle.id}
      aria-label={`${handle.label}. Drag it, or move it with the arrow keys; Page up moves it away, Page down nearer.`}
      title={handle.label}
      className="absolute top-0 left-0 -mt-3 -ml-3 flex size-6 cursor-move touch-none items-center justify-center"
      onKeyDown={onKeyDown}
      {...drag}
    >
      <span className={`block size-4 border-2 ${looks[handle.look]}`} />
    </button>
  );
}
