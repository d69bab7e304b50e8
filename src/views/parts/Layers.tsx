import { type ComponentProps, type ReactNode, type RefObject, useEffect, useRef } from "react";

/** What a drawing shows of its plane: left, top, width and height, in its own units; its hub lies at 0, 0. */
export type View = readonly [number, number, number, number];

interface LayersProps extends ComponentProps<"div"> {
  readonly view: View;
  /** What stands still. */
  readonly still: ReactNode;
  readonly stillRef?: RefObject<SVGSVGElement | null>;
  /** What moves, each a `Layer` that lies over what is before it. */
  readonly children: ReactNode;
}

/**
 * A drawing whose moving parts lie on layers of their own: the browser's compositor turns and shifts those, so that nothing is laid out or painted while
 * they move. Where the hub lies is worked out when the drawing gets another size.
 */
export function Layers({ view, still, stillRef, children, className, ...rest }: LayersProps) {
  const box = useRef<HTMLDivElement>(null);
  const [left, top, width, height] = view;
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      const { width: px = 0, height: py = 0 } = entry?.contentRect ?? {};
      const unitPx = Math.min(px / width, py / height);
      // As an <svg> lies in its box: whole, and in the middle.
      element.style.setProperty("--unit", `${unitPx}px`);
      element.style.setProperty("--hub-x", `${px / 2 - (left + width / 2) * unitPx}px`);
      element.style.setProperty("--hub-y", `${py / 2 - (top + height / 2) * unitPx}px`);
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [left, top, width, height]);
  return (
    <div ref={box} className={`relative ${className ?? ""}`} {...rest}>
      <svg ref={stillRef} viewBox={view.join(" ")} className="absolute inset-0 size-full" aria-hidden="true">
        {still}
      </svg>
      {children}
    </div>
  );
}

interface LayerProps extends ComponentProps<"svg"> {
  readonly view: View;
  /** A small thing that moves a few times a second is cheaper painted anew than kept as a layer that every picture is put together from. */
  readonly isOften?: boolean;
}

/** What moves by itself: turned about the hub, or shifted (see `turn` and `shift`). */
export function Layer({ view, isOften = true, ...rest }: LayerProps) {
  return (
    <svg
      viewBox={view.join(" ")}
      aria-hidden="true"
      className={`pointer-events-none absolute inset-0 size-full overflow-visible ${isOften ? "will-change-transform" : ""}`}
      style={{ transformOrigin: "var(--hub-x) var(--hub-y)" }}
      {...rest}
    />
  );
}
