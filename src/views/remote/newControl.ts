import { type Control, type ControlKind, usualSpan } from "@core/controls";
import { makesItself } from "@core/origins";
import { isSwitch, type Project, type Source } from "@core/project";
import { ok, problem, type Result } from "@core/result";

/** The sources that a thumb may move: whatever does not make its numbers by itself. */
export const movable = (sources: readonly Source[]): readonly Source[] =>
  sources.filter(({ origin }) => !makesItself(origin));

/** A control of a kind for the first thing that it can work, or a sentence on what is missing. */
export function beginControl(kind: ControlKind, project: Project, newId: () => string): Result<Control> {
  const common = { id: newId(), label: "", span: usualSpan(kind) };
  const amounts = movable(project.sources).filter((source) => !isSwitch(source));
  const switches = movable(project.sources).filter(isSwitch);
  const [amount, second] = amounts;
  const [onOff] = switches;
  const [joint] = project.joints;
  const [pose] = project.poses;
  const [routine] = project.routines;
  const noAmount = problem(
    "There is no source with an amount yet. Add a slider, a knob or a stick at the station Inputs.",
  );
  switch (kind) {
    case "slider":
      return amount ? ok({ kind, ...common, isHeldToMove: false, sourceId: amount.id, lowAt: "bottom" }) : noAmount;
    case "knob":
      return amount ? ok({ kind, ...common, isHeldToMove: false, sourceId: amount.id }) : noAmount;
    case "stick": {
      const [across, up] = ["x", "y"].map((axis) =>
        amounts.find(({ origin }) => origin.kind === "stick" && origin.axis === axis),
      );
      const [first, other] = across && up ? [across, up] : [amount, second];
      return first && other
        ? ok({ kind, ...common, isHeldToMove: false, acrossId: first.id, upId: other.id, springs: true })
        : problem("A stick needs two sources. Add a stick at the station Inputs.");
    }
    case "places":
      return amount
        ? ok({
            kind,
            ...common,
            isHeldToMove: false,
            sourceId: amount.id,
            places: [
              { label: "Left", share: 0 },
              { label: "Middle", share: 0.5 },
              { label: "Right", share: 1 },
            ],
          })
        : noAmount;
    case "button": {
      if (!onOff) return problem("There is no switch yet. Add a push button or a toggle at the station Inputs.");
      const how = onOff.origin.kind === "toggle" ? "toggle" : "hold";
      return ok({ kind, ...common, isHeldToMove: false, sourceId: onOff.id, how });
    }
    case "grip":
      return joint ? ok({ kind, ...common, jointId: joint.id }) : problem("There is no joint yet.");
    case "pose":
      return pose
        ? ok({ kind, ...common, poseId: pose.id, moveMs: 800 })
        : problem("There is no pose yet. Capture one at the station Poses.");
    case "routine":
      return routine
        ? ok({ kind, ...common, routineId: routine.id })
        : problem("There is no routine yet. Make one at the station Routine.");
    case "stop":
      return ok({ kind, ...common });
    default:
      return kind satisfies never;
  }
}
