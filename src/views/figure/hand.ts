import {
  type Aim,
  Chain,
  freeJoints,
  Inverse,
  lookAt,
  type Meeting,
  Meetings,
  type Reached,
  type Standing,
  stand,
  standing,
} from "@core/figure";
import { type Figure, homeTargetOf, type Joint, type Project, type Tip } from "@core/project";
import type { Vector } from "@core/shapes";
import { ghostNow, showGhost } from "@stores/ghost";
import { liveJoint } from "@stores/live";
import { createStore } from "zustand/vanilla";
import { actualOf } from "./liveTargets";
import type { Scene } from "./useScene";

/** A dragged hand's joints go no further in one look than this: what they lack is made up in the next. */
const mostDegPerLook = 8;
/** A look is aimed at a place so far ahead until somebody chooses one. */
const aheadMm = 150;

/** What is to be said of where the ghost stands. */
interface HandState {
  readonly reached: Reached | null;
  readonly meetings: readonly Meeting[];
  /** Counts up with every move: what reads where the tip is looks again. */
  readonly moves: number;
}

export const handStore = createStore<HandState>()(() => ({ reached: null, meetings: [], moves: 0 }));

/** A tip that is taken by the hand. It moves the ghost only; `stores` send what is sent. */
export class Hand {
  readonly tip: Tip;
  readonly inverse: Inverse;
  readonly #scene: Scene;
  readonly #figure: Figure;
  readonly #meetings: Meetings;
  readonly #now: Standing;
  readonly #free: ReturnType<typeof freeJoints>;
  /** Where a look is aimed; null for the one ahead of it. */
  #lookMm: Vector | null = null;

  constructor(project: Project, scene: Scene, figure: Figure, tip: Tip) {
    this.tip = tip;
    this.#scene = scene;
    this.#figure = figure;
    this.#free = freeJoints(project.joints);
    this.inverse = new Inverse(new Chain(scene.assembly, tip, this.#free));
    this.#meetings = new Meetings(project, scene.assembly);
    this.#now = standing(scene.assembly);
  }

  /** The joints that move it, in the order of the way to it. */
  get joints(): readonly Joint[] {
    return this.inverse.chain.joints.map(({ place }) => this.#scene.joints[place] as Joint);
  }

  /** Stands the chain where the ghost has it, and elsewhere where the joints are asked to stand. */
  begin(): void {
    const ghost = ghostNow();
    this.#scene.joints.forEach((joint, place) => {
      this.inverse.chain.now.targets[place] = ghost?.[joint.id] ?? askedOf(joint);
    });
    this.inverse.chain.stand();
  }

  /** Where its handle is: the tip itself, or the place at which it looks. */
  handleMm(): Vector {
    const t = this.inverse.chain.tip;
    const [x, y, z] = [t[9] as number, t[10] as number, t[11] as number];
    if (this.tip.does === "reach") return [x, y, z];
    return (
      this.#lookMm ?? [x + aheadMm * (t[0] as number), y + aheadMm * (t[3] as number), z + aheadMm * (t[6] as number)]
    );
  }

  /** One of the tip's own directions in the world: 0 along which it points, 1 to its left, 2 up. */
  direction(axis: 0 | 1 | 2): Vector {
    const t = this.inverse.chain.tip;
    return [t[axis] as number, t[3 + axis] as number, t[6 + axis] as number];
  }

  aimAt(atMm: Vector, keepsDirection: boolean): Aim {
    return { kind: "place", atMm, along: keepsDirection ? this.direction(0) : null, up: null };
  }

  /** Follows a hand that drags: a little at a time, without a leap. With `settles` it goes on until it is there, or can go no further. */
  pull(aim: Aim, settles: boolean): void {
    if (this.tip.does === "look") {
      this.look(aim.atMm);
      return;
    }
    let reached = this.inverse.near(aim, mostDegPerLook);
    for (let look = 0; settles && look < 40 && !reached.isReached; look += 1) {
      const before = reached;
      reached = this.inverse.near(aim, mostDegPerLook);
      if (before.offMm - reached.offMm < 1e-4 && before.offDeg - reached.offDeg < 1e-4) break;
    }
    this.#show(reached);
  }

  /** Goes to a place by whatever way there is. */
  goTo(aim: Aim): void {
    if (this.tip.does === "look") this.look(aim.atMm);
    else this.#show(this.inverse.anywhere(aim));
  }

  /** Has the whole figure look at a place. */
  look(atMm: Vector): void {
    this.#lookMm = atMm;
    const homes = Object.fromEntries(this.#scene.joints.map((joint) => [joint.id, homeTargetOf(joint)]));
    const gaze = lookAt(this.#figure, this.#scene.assembly, this.#free, homes, atMm);
    if (!gaze) return;
    this.#scene.joints.forEach(({ id }, place) => {
      const target = gaze.targets[id];
      if (target !== undefined) this.inverse.chain.now.targets[place] = target;
    });
    this.inverse.chain.stand();
    this.#tell(
      { ...ghostNow(), ...gaze.targets },
      { isReached: gaze.offDeg < 0.1, offMm: 0, offDeg: gaze.offDeg, rounds: 0 },
    );
  }

  /** The ways to where it stands now. */
  ways(keepsDirection: boolean): readonly Float64Array[] {
    const stance = this.inverse.stance();
    const found = this.inverse.ways(this.aimAt(this.handleMm(), keepsDirection));
    this.inverse.take(stance);
    return found;
  }

  /** Takes one of the ways. */
  take(stance: Float64Array): void {
    this.inverse.take(stance);
    this.#show({ isReached: true, offMm: 0, offDeg: 0, rounds: 0 });
  }

  /** Looks again at what the ghost meets; for when something else has changed it. */
  lookAgain(): void {
    this.begin();
    handStore.setState(({ moves }) => ({ meetings: this.#meet(ghostNow() ?? {}), reached: null, moves: moves + 1 }));
  }

  #show(reached: Reached): void {
    const mine = Object.fromEntries(
      this.inverse.chain.joints.map(({ place }) => [
        (this.#scene.joints[place] as Joint).id,
        this.inverse.chain.now.targets[place] as number,
      ]),
    );
    this.#tell({ ...ghostNow(), ...mine }, reached);
  }

  #tell(targets: Readonly<Record<string, number>>, reached: Reached): void {
    showGhost(targets);
    handStore.setState(({ moves }) => ({ reached, meetings: this.#meet(targets), moves: moves + 1 }));
  }

  #meet(targets: Readonly<Record<string, number>>): readonly Meeting[] {
    this.#scene.joints.forEach((joint, place) => {
      this.#now.targets[place] = targets[joint.id] ?? askedOf(joint);
    });
    stand(this.#now);
    return this.#meetings.all(this.#now);
  }
}

/** Where a joint is asked to stand, or stands. */
function askedOf(joint: Joint): number {
  const asked = liveJoint(joint.id, "isHeld") === 1 ? liveJoint(joint.id, "target") : Number.NaN;
  return Number.isFinite(asked) ? asked : actualOf(joint);
}

/** How long a move to these targets takes without any joint turning faster than it may, in ms; at least 0.6 s. The least-jerk easing peaks at 1.875 of its mean. */
export function moveMsTo(joints: readonly Joint[], targets: Readonly<Record<string, number>>): number {
  let longestMs = 600;
  for (const joint of joints) {
    const target = targets[joint.id];
    const limit = joint.axis.kind === "angle" ? (joint.axis.speedLimitDegPerS ?? 180) : null;
    if (target === undefined || limit === null) continue;
    longestMs = Math.max(longestMs, (Math.abs(target - askedOf(joint)) / limit) * 1000 * 1.9);
  }
  return Math.ceil(longestMs / 10) * 10;
}
