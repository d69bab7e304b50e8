import type { ControlOf } from "@core/controls";
import { useCallback, useState } from "react";
import { useBenchState, useDesk } from "./desk";
import { isPress } from "./movers";
import { useThumb } from "./thumb";

/** What is pressed: buttons, and whatever acts. */
interface PresserProps<Kind extends "button" | "grip" | "pose" | "routine" | "stop"> {
  readonly control: ControlOf<Kind>;
  readonly label: string;
}

/** What stands on the bench, as state that changes seldom. */
function useStanding<Value extends boolean>(read: () => Value): Value {
  const [value, setValue] = useState(read);
  useBenchState(useCallback(() => setValue(read()), [read]));
  return value;
}

interface PressProps {
  readonly controlId: string;
  readonly words: string;
  readonly says?: string;
  readonly isOn: boolean;
  /** What a press asks for, where it has two sides. */
  readonly wants: 0 | 1 | null;
  readonly className?: string;
}

function Press({ controlId, words, says, isOn, wants, className = "border-base-content/70 bg-base-200" }: PressProps) {
  const spot = { x: wants, y: null };
  const thumb = useThumb({ controlId, spotOf: () => spot, keySpot: (key) => (isPress(key) ? spot : null) });
  return (
    <button
      type="button"
      aria-pressed={wants === null ? undefined : isOn}
      className={`btn h-full min-h-12 w-full grow touch-none flex-col gap-0 px-1 text-base leading-tight active:btn-primary ${isOn ? "btn-primary" : className}`}
      {...thumb}
      // A pressed button asks for one thing from down to up, whatever the bench says meanwhile.
      onPointerMove={undefined}
    >
      <span className="line-clamp-2">{words}</span>
      {says && <span className="text-[0.72rem] font-normal opacity-80">{says}</span>}
    </button>
  );
}

export function PadButton({ control, label }: PresserProps<"button">) {
  const { book, state } = useDesk();
  const isOn = useStanding(
    useCallback(
      () => (state()?.sources[book.sources.findIndex(({ id }) => id === control.sourceId)] ?? 0) >= 0.5,
      [book, state, control.sourceId],
    ),
  );
  const says = { press: "", hold: "while it is held", toggle: isOn ? "on" : "off" }[control.how];
  return (
    <Press
      controlId={control.id}
      words={label}
      says={says}
      isOn={isOn}
      wants={control.how === "toggle" ? (isOn ? 0 : 1) : null}
    />
  );
}

export function PadGrip({ control, label }: PresserProps<"grip">) {
  const { book, state } = useDesk();
  const isHeld = useStanding(
    useCallback(
      () => state()?.joints[book.joints.findIndex(({ id }) => id === control.jointId)]?.isHeld ?? false,
      [book, state, control.jointId],
    ),
  );
  return (
    <Press
      controlId={control.id}
      words={isHeld ? `Release ${label}` : `Hold ${label}`}
      says={isHeld ? "it is held" : "it is limp"}
      isOn={isHeld}
      wants={isHeld ? 0 : 1}
    />
  );
}

export function PadPose({ control, label }: PresserProps<"pose">) {
  return <Press controlId={control.id} words={label} isOn={false} wants={null} />;
}

export function PadRoutine({ control, label }: PresserProps<"routine">) {
  const { state } = useDesk();
  const isPlaying = useStanding(useCallback(() => state()?.playing === control.routineId, [state, control.routineId]));
  return (
    <Press
      controlId={control.id}
      words={label}
      says={isPlaying ? "plays: touch to end it" : "routine"}
      isOn={isPlaying}
      wants={isPlaying ? 0 : 1}
    />
  );
}

export function PadStop({ control, label }: PresserProps<"stop">) {
  return (
    <Press
      controlId={control.id}
      words={label}
      says="ends what plays"
      isOn={false}
      wants={null}
      className="btn-neutral"
    />
  );
}
