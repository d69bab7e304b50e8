import type { Joint, Project, ServoCard, Supply } from "@core/project";
import { byId } from "@core/project";
import { type Draw, drawOf } from "../draw";
import { type Net, netOf, placeIn } from "../net";
import { type Loads, noLoads, type Solved, Solver } from "../solve";

/** A servo as a review looks at it. */
export interface Fed {
  readonly joint: Joint;
  readonly card: ServoCard;
  readonly draw: Draw;
  /** Its place in the net. */
  readonly at: number;
}

export type State = "standing" | "moving" | "starting";

/** A bench with all that its rules ask of it. */
export interface Look {
  readonly project: Project;
  readonly net: Net;
  readonly servos: readonly Fed[];
  /** All servos in one state, with full batteries (1) or empty ones (0). */
  readonly all: (state: State, charge: 0 | 1, hasLimits?: boolean) => Solved;
  /** One servo held fast while the others turn, with empty batteries. */
  readonly held: (servo: Fed) => Solved;
}

/** Makes a bench ready for its review. Each case is solved once, when it is first asked for. */
export function lookAt(project: Project): Look {
  const net = netOf(project);
  const servos = project.joints.map((joint): Fed => {
    const card = byId(project.cards, joint.cardId);
    return { joint, card, draw: drawOf(card), at: placeIn(net, "joint", joint.id) };
  });
  const solver = new Solver(net);
  const known = new Map<string, Solved>();
  const solved = (name: string, charge: number, hasLimits: boolean, set: (loads: Loads) => void): Solved => {
    const before = known.get(name);
    if (before) return before;
    const loads = noLoads(net);
    set(loads);
    const made = copyOf(solver.solve(loads, charge, hasLimits));
    known.set(name, made);
    return made;
  };
  const setAll = (loads: Loads, state: State) => {
    for (const { at, draw } of servos) loads.siemens[at] = siemensOf(draw, state);
  };
  return {
    project,
    net,
    servos,
    all: (state, charge, hasLimits = true) =>
      solved(`${state} ${charge} ${hasLimits}`, charge, hasLimits, (loads) => setAll(loads, state)),
    held: (servo) =>
      solved(`held ${servo.at}`, 0, true, (loads) => {
        setAll(loads, "standing");
        loads.siemens[servo.at] = siemensOf(servo.draw, "starting");
      }),
  };
}

/** What a servo in a state lets through, per volt. */
export function siemensOf({ idleA, movingA, stallA, atVolts }: Draw, state: State): number {
  return (state === "standing" ? idleA : state === "moving" ? movingA : stallA) / atVolts;
}

const copyOf = ({ volts, amps, givenA, isLimited }: Solved): Solved => ({
  volts: volts.slice(),
  amps: amps.slice(),
  givenA: givenA.slice(),
  isLimited: isLimited.slice(),
});

/** The supplies with their places. */
export const suppliesIn = ({ net }: Look): readonly { readonly supply: Supply; readonly at: number }[] =>
  net.places.flatMap((place, at) => (place.kind === "supply" ? [{ supply: place.supply, at }] : []));
