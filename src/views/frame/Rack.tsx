import type { Joint } from "@core/project";
import { useProject } from "@stores/document";
import { useJointBench } from "@stores/jointBench";
import { liveJoint, onLive, pace, useLive } from "@stores/live";
import { select, useSelectedJoint } from "@stores/selection";
import { type KeyboardEvent, useCallback, useEffect, useRef, useState } from "react";
import { arcPath, dialDegOf, pointAt } from "../dial/geometry";
import { steady, turn } from "../parts/draw";
import { Fetched } from "../parts/Fetched";
import { formatIn } from "../parts/format";
import { Layer, Layers, type View } from "../parts/Layers";
import { LiveText } from "../parts/LiveText";
import { lazily } from "../parts/lazily";
import { Opened } from "../parts/Opened";
import { ownerWords } from "../parts/ownerWords";
import { useIsHeld } from "../parts/useIsHeld";

const AddJoint = lazily(() => import("../wiring/AddJoint"));
const JointWiring = lazily(() => import("../wiring/JointWiring"));

/** Every joint of the project as a small gauge. The selected one is what every station is about. */
export function Rack() {
  return (
    <Opened>
      <RackList />
      <RackFoot />
    </Opened>
  );
}

function RackList() {
  const rigs = useProject((project) => project.rigs);
  const joints = useProject((project) => project.joints);
  const selected = useSelectedJoint();
  const list = useRef<HTMLDivElement>(null);
  const ordered = rigs.flatMap((rig) => joints.filter((joint) => joint.rigId === rig.id));

  const onKeyDown = (event: KeyboardEvent) => {
    const at = ordered.findIndex((joint) => joint.id === selected?.id);
    const goal = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: ordered.length - 1 }[event.key];
    const next = goal === undefined ? undefined : ordered[goal];
    if (!next) return;
    event.preventDefault();
    select(next.id);
    list.current?.querySelector<HTMLElement>(`[data-joint="${CSS.escape(next.id)}"]`)?.focus();
  };

  if (joints.length === 0)
    return (
      <p className="caption p-3">
        No joints yet. Add one here, or open the demo or a project file from the project menu, top left.
      </p>
    );
  return (
    <div ref={list} role="listbox" aria-label="Joints" tabIndex={-1} onKeyDown={onKeyDown} className="py-1">
      {rigs.map((rig) => (
        // biome-ignore lint/a11y/useSemanticElements: a fieldset has no place inside a listbox.
        <div key={rig.id} role="group" aria-label={rig.label}>
          <div className="caption px-3 pt-1.5 pb-0.5 font-semibold" aria-hidden="true">
            {rig.label}
          </div>
          {joints
            .filter((joint) => joint.rigId === rig.id)
            .map((joint) => (
              <RackItem key={joint.id} joint={joint} isSelected={joint.id === selected?.id} />
            ))}
        </div>
      ))}
    </div>
  );
}

/** A joint more, or the selected one wired another way. */
function RackFoot() {
  const selected = useSelectedJoint();
  const [open, setOpen] = useState<"add" | "wiring" | null>(null);
  const close = useCallback(() => setOpen(null), []);
  return (
    <div className="flex gap-1 border-t border-base-300 p-2">
      <button type="button" className="btn btn-ghost btn-xs grow" onClick={() => setOpen("add")}>
        Add a joint
      </button>
      {selected && (
        <button type="button" className="btn btn-ghost btn-xs grow" onClick={() => setOpen("wiring")}>
          Wiring
        </button>
      )}
      <Fetched>
        {open === "add" && <AddJoint onClose={close} />}
        {open === "wiring" && selected && <JointWiring joint={selected} onClose={close} />}
      </Fetched>
    </div>
  );
}

function RackItem({ joint, isSelected }: { readonly joint: Joint; readonly isSelected: boolean }) {
  const isHeld = useIsHeld(joint.id);
  const code = useLive(useCallback(() => liveJoint(joint.id, "owner"), [joint.id]));
  const unit = joint.axis.kind === "angle" ? "°" : "spin";
  const readTarget = useCallback(
    () => (liveJoint(joint.id, "isHeld") === 1 ? formatIn(liveJoint(joint.id, "target"), unit) : "—"),
    [joint.id, unit],
  );
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list walks with the arrow keys.
    <div
      role="option"
      data-joint={joint.id}
      aria-selected={isSelected}
      tabIndex={isSelected ? 0 : -1}
      onClick={() => select(joint.id)}
      className={`flex cursor-pointer items-center gap-2 border-l-4 py-[3px] pr-2 pl-2 ${
        isSelected ? "border-primary bg-base-100" : "border-transparent hover:bg-base-100/60"
      }`}
    >
      <MiniGauge joint={joint} />
      <span className="min-w-0 grow leading-tight">
        <span className={`block truncate text-[0.86rem] ${isSelected ? "font-semibold" : ""}`}>{joint.label}</span>
        <span className="flex justify-between text-[0.78rem]">
          <span className={isHeld ? "text-base-content/80" : "text-warning"}>{ownerWords(code, isHeld)}</span>
          <LiveText read={readTarget} box="block h-[1.2em] w-18" className="text-right" />
        </span>
      </span>
    </div>
  );
}

const gaugeRadius = 15;
const gaugeView: View = [-20, -20, 40, 40];
/** A quarter of a pixel at the tip of the gauge’s line. */
const seenOnGaugeDeg = 0.9;

/** The joint's own arc in small: the limits as its ends, the target as an open mark, the actual as a line. */
function MiniGauge({ joint }: { readonly joint: Joint }) {
  const { scale } = useJointBench(joint);
  const target = useRef<SVGSVGElement>(null);
  const actual = useRef<SVGSVGElement>(null);
  useEffect(() => {
    const still = steady(seenOnGaugeDeg);
    const draw = () => {
      const isHeld = liveJoint(joint.id, "isHeld") === 1;
      const seen = still(liveJoint(joint.id, "actual"));
      turn(target.current, isHeld ? dialDegOf(scale, liveJoint(joint.id, "target")) : Number.NaN);
      turn(actual.current, scale.stops ? dialDegOf(scale, seen) : seen % 360);
    };
    draw();
    return onLive(draw, pace.overview);
  }, [joint.id, scale]);
  const from = dialDegOf(scale, scale.travelLow);
  const to = dialDegOf(scale, scale.travelHigh);
  const home = pointAt(dialDegOf(scale, scale.home), gaugeRadius + 3);
  return (
    <Layers
      view={gaugeView}
      className="size-8 shrink-0"
      still={
        <>
          <circle r={gaugeRadius} className="fill-none stroke-base-300" strokeWidth={2} />
          <path d={arcPath(from, to, gaugeRadius)} className="fill-none stroke-base-content/70" strokeWidth={2.6} />
          <circle cx={home.x} cy={home.y} r={1.6} className="fill-secondary" />
        </>
      }
    >
      <Layer view={gaugeView} ref={target} isOften={false}>
        <circle cy={-gaugeRadius} r={3.2} className="fill-base-100 stroke-primary" strokeWidth={1.8} />
      </Layer>
      <Layer view={gaugeView} ref={actual} isOften={false}>
        <line y1={4} y2={-12} className="stroke-base-content" strokeWidth={2} strokeLinecap="round" />
      </Layer>
    </Layers>
  );
}
