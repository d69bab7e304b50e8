import { type JogSize, jogSteps } from "@core/rig";
import { useGhost } from "@stores/ghost";
import type { JointBench } from "@stores/jointBench";
import { command, liveJoint, onLive, pace } from "@stores/live";
import { type KeyboardEvent, useCallback, useEffect, useId, useRef } from "react";
import { calm, draw } from "../parts/draw";
import { formatIn } from "../parts/format";
import { Layers, type View } from "../parts/Layers";
import { DialFace } from "./DialFace";
import { DialNeedles, GhostNeedle } from "./DialNeedles";
import { dialDegOf, dialFootOf, targetAtDialDeg } from "./geometry";
import type { OuterUnit } from "./outerScale";
import { Protractor } from "./Protractor";
import { useTurning, useWheel } from "./turning";

interface DialProps {
  readonly bench: JointBench;
  readonly outerUnit?: OuterUnit;
  readonly hasProtractor?: boolean;
  /** Takes what is asked on the dial instead of the joint: for editing where it stands in a pose, from `value`. */
  readonly aim?: { readonly value: number; readonly onAim: (target: number) => void };
  readonly className?: string;
}

const jogSizeOf = (event: { shiftKey: boolean; altKey: boolean }): JogSize =>
  event.shiftKey ? "coarse" : event.altKey ? "fine" : "normal";

/**
 * The instrument of the bench: one arc with two scales on one needle. The outer scale is what is sent, the inner one
 * what should be seen. Drag it, turn the wheel over it, or jog it with the arrow keys (Shift coarse, Alt fine).
 */
export function Dial({ bench, outerUnit = "set point", hasProtractor = false, aim, className }: DialProps) {
  const { joint, map, scale } = bench;
  const ghost = useGhost(joint.id);
  const ghostTarget = aim?.value ?? ghost;
  const view: View = [-208, -206, 416, 206 + dialFootOf(scale)];
  const aimed = useRef(aim);
  aimed.current = aim;
  const ask = useCallback(
    (target: number) => {
      const within = Math.max(map.lowTarget, Math.min(map.highTarget, target));
      if (aimed.current) aimed.current.onAim(within);
      else command({ kind: "target", jointId: joint.id, target });
    },
    [joint.id, map],
  );
  const dial = useRef<HTMLDivElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const hatchId = useId();
  const jog = useCallback(
    (steps: number, size: JogSize) => {
      const by = steps * jogSteps[map.targetUnit][size];
      if (aimed.current) ask(aimed.current.value + by);
      else command({ kind: "jog", jointId: joint.id, by, in: "target" });
    },
    [joint.id, map.targetUnit, ask],
  );
  const onNotch = useCallback((way: 1 | -1, event: WheelEvent) => jog(way, jogSizeOf(event)), [jog]);
  useWheel(dial, onNotch);

  useEffect(() => {
    const calmly = calm();
    return onLive(() => {
      draw(dial.current, "aria-valuenow", liveJoint(joint.id, "target").toFixed(1));
      draw(dial.current, "aria-valuetext", valueText(bench, calmly(liveJoint(joint.id, "actual"))));
    }, pace.words);
  }, [joint.id, bench]);

  const turning = useTurning(svg, (dialDeg) => ask(targetAtDialDeg(scale, dialDeg)));

  const onKeyDown = (event: KeyboardEvent) => {
    const up = event.key === "ArrowRight" || event.key === "ArrowUp";
    const down = event.key === "ArrowLeft" || event.key === "ArrowDown";
    if (up || down) jog(up ? 1 : -1, jogSizeOf(event));
    else if (event.key === "PageUp") jog(1, "coarse");
    else if (event.key === "PageDown") jog(-1, "coarse");
    else if (event.key === "Home" && aim) ask(map.homeTarget);
    else if (event.key === "Home") command({ kind: "home", jointId: joint.id });
    else return;
    event.preventDefault();
  };

  return (
    <div
      ref={dial}
      className={`cursor-pointer touch-none select-none rounded-box ${className ?? ""}`}
      role="slider"
      tabIndex={0}
      aria-label={aim ? `Dial of ${joint.label} in the pose` : `Dial of ${joint.label}`}
      aria-valuemin={map.lowTarget}
      aria-valuemax={map.highTarget}
      aria-valuenow={0}
      {...turning}
      onKeyDown={onKeyDown}
    >
      <Layers
        view={view}
        stillRef={svg}
        className="size-full"
        still={
          <>
            <defs>
              <pattern id={hatchId} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <line y2="5" className="stroke-base-content/40" strokeWidth={1.4} />
              </pattern>
            </defs>
            <DialFace bench={bench} outerUnit={outerUnit} hatch={`url(#${hatchId})`} />
            {hasProtractor && <Protractor bench={bench} />}
            {ghostTarget !== null && <GhostNeedle dialDeg={dialDegOf(scale, ghostTarget)} />}
          </>
        }
      >
        <DialNeedles bench={bench} view={view} />
      </Layers>
    </div>
  );
}

function valueText({ joint, map }: JointBench, actual: number): string {
  if (liveJoint(joint.id, "isHeld") !== 1) return "released";
  const unit = map.targetUnit;
  return `target ${formatIn(liveJoint(joint.id, "target"), unit)}, actual ${formatIn(actual, unit)}`;
}
