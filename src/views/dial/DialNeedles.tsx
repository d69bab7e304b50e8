import type { JointBench } from "@stores/jointBench";
import { liveJoint, onLive } from "@stores/live";
import { useEffect, useRef } from "react";
import { steady, turn } from "../parts/draw";
import { Layer, type View } from "../parts/Layers";
import { dialDegOf, radius } from "./geometry";

/** Less than half a pixel at the tip of the needle. */
const seenOnDialDeg = 0.2;

/**
 * The moving part of the dial. The actual needle is a solid blade from the hub, with its tip at the scale; the target is an open lance head on the
 * rim with a dashed shaft, so that the two are told apart by form. They are turned without a React render.
 */
export function DialNeedles({ bench, view }: { readonly bench: JointBench; readonly view: View }) {
  const target = useRef<SVGSVGElement>(null);
  const actual = useRef<SVGSVGElement>(null);
  const { joint, scale } = bench;
  const isSpinning = scale.stops === null;

  useEffect(() => {
    const still = steady(seenOnDialDeg);
    const draw = () => {
      const isHeld = liveJoint(joint.id, "isHeld") === 1;
      const seen = still(liveJoint(joint.id, "actual"));
      turn(target.current, isHeld ? dialDegOf(scale, liveJoint(joint.id, "target")) : Number.NaN);
      turn(actual.current, isSpinning ? seen % 360 : dialDegOf(scale, seen));
    };
    draw();
    return onLive(draw);
  }, [joint.id, scale, isSpinning]);

  return (
    <>
      <Layer view={view} ref={target} data-needle="target">
        <line y1={-radius.hub} y2={-99} className="stroke-primary" strokeWidth={1.6} strokeDasharray="4 4" />
        <path
          d="M0 -167L8.5 -146L6 -126L0 -133L-6 -126L-8.5 -146Z"
          className="fill-primary/15 stroke-primary"
          strokeWidth={2.2}
          strokeLinejoin="round"
        />
      </Layer>
      <Layer view={view} ref={actual} data-needle="actual">
        {isSpinning ? (
          <g className="fill-base-content">
            <circle r={46} className="fill-base-200 stroke-base-content" strokeWidth={2} />
            <path d="M-5 0L0 -44L5 0Z" />
            <path d="M-3 0L0 30L3 0Z" />
          </g>
        ) : (
          <>
            {/* Parted where the numbers stand, so that none is ever covered. */}
            <path d="M-3.6 8L-1.1 -99H1.1L3.6 8Z" className="fill-base-content" />
            <path d="M-2.6 -124L0 -141L2.6 -124Z" className="fill-base-content" />
          </>
        )}
        <circle r={radius.hub} className="fill-base-200 stroke-base-content" strokeWidth={2} />
        <circle r={4} className="fill-base-content" />
      </Layer>
    </>
  );
}

/** Where the joint would be at a moment that is looked at: still until that is another. */
export function GhostNeedle({ dialDeg }: { readonly dialDeg: number }) {
  return (
    <g transform={`rotate(${dialDeg.toFixed(2)})`} data-needle="ghost" pointerEvents="none">
      <line y1={-radius.hub} y2={-108} className="stroke-secondary" strokeWidth={1.4} strokeDasharray="1.5 4" />
      <circle cy={-117} r={8} fill="none" className="stroke-secondary" strokeWidth={2} strokeDasharray="3 2.5" />
    </g>
  );
}
