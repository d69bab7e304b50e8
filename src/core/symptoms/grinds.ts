import { figure } from "@core/numbers";
import { setPointUnit } from "@core/project";
import { travelLeft } from "@core/rig";
import { type Clue, hasAngles, maybe, type Symptom, so } from "./symptom";

export const grinds: Symptom = {
  says: "It hums, gets hot or grinds at an end",
  alike: "grinding hot warm noise end stop strip gear hum clicks",
  onlyOf: hasAngles,
  clues: ({ bench }) => {
    const { joint, card, map } = bench;
    const { endStops, window } = card;
    const unit = setPointUnit(card);
    const clues: Clue[] = [];
    for (const [end, name, isPast] of [
      ["low", "lower", (at: number) => window.low < at],
      ["high", "upper", (at: number) => window.high > at],
    ] as const) {
      const stop = endStops[end];
      if (stop === null)
        clues.push(
          so(
            "stops",
            `Where it stops at its ${name} end nobody has looked: ${figure(window[end], 1)} ${unit} may lie past that.`,
          ),
        );
      else if (isPast(stop))
        clues.push(
          so(
            "stops",
            `Its hard window goes to ${figure(window[end], 1)} ${unit}; its ${name} stop is at ${figure(stop, 1)} ${unit}.`,
          ),
        );
    }
    const left = joint.axis.kind === "angle" ? travelLeft(joint.axis, card, map) : null;
    const pastDeg = left ? -Math.min(left.lowRoomDeg, left.highRoomDeg) : 0;
    if (left?.isMeasured && pastDeg > 0.05)
      clues.push(so("limits", `A travel limit lies ${figure(pastDeg, 1)}° past the stop that was found.`));
    return [
      ...clues,
      maybe(
        "limits",
        "The mechanism may stop it before its own gears do: draw its travel limits in to where it runs free.",
      ),
      maybe("check", "A horn that was pushed stands elsewhere now, and its limits with it: a check tells."),
    ];
  },
};
