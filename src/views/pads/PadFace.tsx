import type { Control, ControlKind, ControlOf } from "@core/controls";
import type { BookedControl, BookedPad } from "@core/pads";
import { type ComponentType, useCallback, useState } from "react";
import { Apart } from "../parts/Guard";
import { useBenchState, useDesk } from "./desk";
import { JointScale } from "./JointScale";
import { PadKnob, PadPlaces, PadSlider, PadStick } from "./movers";
import { PadButton, PadGrip, PadPose, PadRoutine, PadStop } from "./pressers";

interface FaceProps<Of extends Control> {
  readonly control: Of;
  readonly label: string;
}

/** How each kind is drawn. The compiler misses any that is left out. */
const faces: { readonly [Kind in ControlKind]: ComponentType<FaceProps<ControlOf<Kind>>> } = {
  slider: PadSlider,
  knob: PadKnob,
  stick: PadStick,
  button: PadButton,
  places: PadPlaces,
  grip: PadGrip,
  pose: PadPose,
  routine: PadRoutine,
  stop: PadStop,
};

/** More would leave no room for the control itself. */
const scalesAtMost = 2;
const movers: ReadonlySet<ControlKind> = new Set(["slider", "knob", "stick", "places"]);

interface PadFaceProps {
  readonly pad: BookedPad;
  /** How many fields lie side by side. */
  readonly columns: 4 | 8;
}

/** The controls of a pad, in their order, each as large as it is set. */
export function PadFace({ pad, columns }: PadFaceProps) {
  return (
    <ul
      className="grid min-h-full content-stretch gap-2 p-2 [grid-auto-flow:dense] [grid-auto-rows:minmax(3.4rem,1fr)]"
      style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
    >
      {pad.controls.map((booked) => (
        <Apart key={booked.control.id}>
          <Field booked={booked} />
        </Apart>
      ))}
    </ul>
  );
}

function Field({ booked }: { readonly booked: BookedControl }) {
  const { control, label, reaches } = booked;
  const desk = useDesk();
  const [other, setOther] = useState<string | null>(null);
  useBenchState(
    useCallback(() => {
      const touch = desk
        .state()
        ?.touches.find(({ controlId, deviceId }) => controlId === control.id && deviceId !== desk.deviceId);
      setOther(touch?.who ?? null);
    }, [desk, control.id]),
  );
  const Face = faces[control.kind] as ComponentType<FaceProps<Control>>;
  const mayUse = desk.mayUse(reaches);
  const isMover = movers.has(control.kind);
  const isHeldToMove = "isHeldToMove" in control && control.isHeldToMove;
  return (
    <li
      data-control={control.id}
      className={`relative flex min-w-0 flex-col items-stretch gap-1 rounded-box ${isMover ? "border border-base-300 bg-base-200 p-1.5" : ""} ${mayUse ? "" : "opacity-60"} ${other === null ? "" : "outline-2 outline-secondary"}`}
      style={{ gridColumn: `span ${control.span.wide}`, gridRow: `span ${control.span.high}` }}
      inert={!mayUse}
    >
      {isMover && (
        <p className="flex items-baseline justify-between gap-1 text-[0.8rem] leading-tight font-semibold">
          <span className="truncate">{label}</span>
          {isHeldToMove && <span className="text-[0.66rem] font-normal">hold to move</span>}
        </p>
      )}
      <Face control={control} label={label} />
      {isMover && reaches.slice(0, scalesAtMost).map((id) => <JointScale key={id} jointId={id} />)}
      {other !== null && (
        <p className="absolute top-1 right-1 max-w-full truncate rounded bg-secondary px-1 text-[0.7rem] text-secondary-content">
          {other}
        </p>
      )}
    </li>
  );
}
