import { drawOf, isTurning, lookAt, type Net, noLoads, placeIn, type Solved, Solver, siemensOf } from "@core/power";
import { byId, type Project } from "@core/project";
import { liveJoint, onLive, pace } from "@stores/live";
import type { PowerCase } from "@stores/powerView";
import { useEffect, useMemo, useState } from "react";

/** How the net stands in the case that is shown. */
export interface Flow {
  readonly net: Net;
  readonly solved: Solved;
  readonly shows: PowerCase;
}

/** What a servo says it draws is taken in steps of this many mA: not every flicker is worth a look. */
const saidStepMa = 20;

/**
 * Solves the net for the case that is shown; for `now` again whenever something has begun to turn or has come to rest. A servo that says itself what it draws is believed; what
 * the others draw is what their cards say of such a moment.
 */
export function useFlow(project: Project, shows: PowerCase): Flow {
  const still = useMemo(() => {
    const look = lookAt(project);
    return { net: look.net, solved: look.all(shows === "now" ? "standing" : shows, 1), shows };
  }, [project, shows]);
  const [live, setLive] = useState<Flow | null>(null);
  useEffect(() => {
    if (shows !== "now") return;
    const { net } = still;
    const solver = new Solver(net);
    const loads = noLoads(net);
    const servos = project.joints.map((joint) => ({
      joint,
      at: placeIn(net, "joint", joint.id),
      draw: drawOf(byId(project.cards, joint.cardId)),
      target: Number.NaN,
    }));
    let before = "";
    return onLive(() => {
      const states = servos.map((servo) => {
        const { joint, at, draw } = servo;
        const saidMa = liveJoint(joint.id, "currentMa");
        const target = liveJoint(joint.id, "target");
        const isHeld = liveJoint(joint.id, "isHeld") === 1;
        const turns = isTurning(servo.target, target, joint.axis.kind === "spin") && !Number.isNaN(servo.target);
        servo.target = target;
        const state = !isHeld
          ? "limp"
          : liveJoint(joint.id, "isStalled") === 1
            ? "starting"
            : turns
              ? "moving"
              : "standing";
        if (state === "limp" || Number.isNaN(saidMa)) {
          loads.siemens[at] = state === "limp" ? 0 : siemensOf(draw, state);
          return state;
        }
        const steps = Math.round(Math.max(0, saidMa) / saidStepMa);
        loads.siemens[at] = (steps * saidStepMa) / 1000 / draw.atVolts;
        return `${state} ${steps}`;
      });
      if (states.join() === before) return;
      before = states.join();
      const { volts, amps, givenA, isLimited } = solver.solve(loads, 1);
      setLive({
        net,
        shows: "now",
        solved: { volts: volts.slice(), amps: amps.slice(), givenA: givenA.slice(), isLimited: isLimited.slice() },
      });
    }, pace.words);
  }, [project, shows, still]);
  return shows === "now" && live?.net === still.net ? live : still;
}
