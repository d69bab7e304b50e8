import { assembleBench, Chain, type FreeJoint, freeJoints, Inverse } from "@core/figure";
import { jointsMovingTip, type Lead, type Project, type TableAxis, type Tip, tipOf } from "@core/project";

/** What has to be known of joints to lead a tip by them. */
export interface Ground {
  /** Whether the leads of a tip may move a joint now. */
  readonly mayMove: (leadId: string, joint: number, isTouched: boolean, isSteady: boolean) => boolean;
  /** Which lead has a joint; null for none. */
  readonly leadOf: (joint: number) => string | null;
  /** Where a joint is wished to be, or stands where nobody can. */
  readonly standsAt: (joint: number) => number;
}

/** What one lead says of a tip in a tick. */
export interface Saying {
  readonly isTouched: boolean;
  readonly isSteady: boolean;
  readonly isBack: boolean;
}

const axes: Readonly<Record<TableAxis, number>> = { x: 0, y: 1, z: 2 };
/** Nothing on a bench is further away, in mm. */
const farthestMm = 20_000;
/** A tip that looks is taken to look at something so far ahead, until a lead says where it is. */
const aheadMm = 400;

/**
 * Leads to tips at work. All leads of one tip act as one, under the name of the first: what they say along different directions is one place, and its joints
 * follow together. A direction of which nobody has said anything since they took the tip stays where it was.
 */
export class TipLeads {
  #tips: readonly LedTip[] = [];

  configure(project: Project): void {
    const before = this.#tips;
    const ids = new Set(project.leads.flatMap(({ target }) => (target.kind === "tip" ? [target.tipId] : [])));
    this.#tips = [...ids].flatMap((tipId) => {
      const found = tipOf(project, tipId);
      const owner = project.leads.find(({ target }) => target.kind === "tip" && target.tipId === tipId) as Lead;
      if (!found) return [];
      const old = before.find((one) => one.isSame(project, owner.id, found.tip));
      return [old ?? new LedTip(project, owner.id, found.tip)];
    });
  }

  /** Under which lead's name a lead has its joints, and which those are, by place. */
  groupOf({ id, target }: Lead): { readonly ownerId: string; readonly joints: readonly number[] } | null {
    if (target.kind !== "tip") return null;
    const tip = this.#find(target.tipId);
    return tip ? { ownerId: tip.ownerId, joints: tip.joints } : { ownerId: id, joints: [] };
  }

  hear(tipId: string, along: TableAxis, valueMm: number, how: Saying): void {
    this.#find(tipId)?.hear(axes[along], valueMm, how);
  }

  /** Works out the joints of every tip that was spoken of since the last time, and wishes them. */
  lead(ground: Ground, onWish: (leadId: string, joint: number, target: number, how: Saying) => void): void {
    for (const tip of this.#tips) tip.lead(ground, onWish);
  }

  #find(tipId: string): LedTip | undefined {
    return this.#tips.find(({ id }) => id === tipId);
  }
}

class LedTip {
  readonly id: string;
  readonly ownerId: string;
  /** The joints by which it moves, by place. */
  readonly joints: readonly number[];
  readonly #project: Pick<Project, "figures" | "rigs" | "joints">;
  readonly #tip: Tip;
  readonly #free: readonly FreeJoint[];
  /** Which of the free joints may be moved by the present chain. */
  readonly #movable: Uint8Array;
  #inverse: Inverse | null = null;
  readonly #aimMm: [number, number, number] = [0, 0, 0];
  readonly #saidMm = [Number.NaN, Number.NaN, Number.NaN];
  /** Of which directions something was said since the tip was taken. */
  readonly #isSaid = [false, false, false];
  readonly #isMoved = [false, false, false];
  readonly #how = { isSpokenOf: false, isTouched: false, isSteady: false, isBack: false };

  constructor(project: Project, ownerId: string, tip: Tip) {
    this.id = tip.id;
    this.ownerId = ownerId;
    this.#tip = tip;
    this.#project = project;
    const ids = jointsMovingTip(project, tip.id);
    this.#free = freeJoints(project.joints).filter(({ place }) => ids.includes(project.joints[place]?.id ?? ""));
    this.joints = this.#free.map(({ place }) => place);
    this.#movable = new Uint8Array(this.#free.length);
  }

  isSame({ figures, joints }: Project, ownerId: string, tip: Tip): boolean {
    return (
      this.ownerId === ownerId &&
      this.#tip === tip &&
      this.#project.figures === figures &&
      this.#project.joints === joints
    );
  }

  hear(axis: number, valueMm: number, how: Saying): void {
    this.#how.isSpokenOf = true;
    this.#how.isTouched ||= how.isTouched;
    this.#how.isSteady ||= how.isSteady;
    this.#how.isBack ||= how.isBack;
    this.#isMoved[axis] = how.isTouched || how.isSteady;
    this.#saidMm[axis] = Math.max(-farthestMm, Math.min(farthestMm, valueMm));
  }

  lead(ground: Ground, onWish: (leadId: string, joint: number, target: number, how: Saying) => void): void {
    const { isSpokenOf, isTouched, isSteady, isBack } = this.#how;
    if (!isSpokenOf) return;
    const how = { isTouched, isSteady, isBack };
    const inverse = this.#chainFor(ground, isTouched, isSteady);
    const mine = this.joints.filter((joint) => ground.leadOf(joint) === this.ownerId).length;
    const { chain } = inverse;
    if ((mine > 0 || isTouched || isSteady) && chain.joints.length > 0) {
      for (const joint of chain.now.targets.keys()) chain.now.targets[joint] = ground.standsAt(joint);
      // Whatever somebody else did to the joints meanwhile stands, but for what is said anew.
      if (mine < chain.joints.length) this.#begin(chain, mine === 0);
      const isNew = this.#takeIn();
      if (isNew || isBack || mine < chain.joints.length) this.#solve(inverse);
      if (isNew || isBack || isTouched || isSteady)
        for (const { place } of chain.joints) onWish(this.ownerId, place, chain.now.targets[place] as number, how);
    }
    this.#isMoved.fill(false);
    Object.assign(this.#how, { isSpokenOf: false, isTouched: false, isSteady: false, isBack: false });
  }

  /** The chain of those joints that may be moved now; made anew when they are others than before. */
  #chainFor(ground: Ground, isTouched: boolean, isSteady: boolean): Inverse {
    let isOther = this.#inverse === null;
    this.#free.forEach(({ place }, at) => {
      const may = ground.mayMove(this.ownerId, place, isTouched, isSteady) ? 1 : 0;
      if (this.#movable[at] !== may) isOther = true;
      this.#movable[at] = may;
    });
    if (isOther || this.#inverse === null) {
      const free = this.#free.filter((_, at) => this.#movable[at] === 1);
      this.#inverse = new Inverse(new Chain(assembleBench(this.#project), this.#tip, free));
    }
    return this.#inverse;
  }

  /** The tip is wanted where it stands, along all directions of which nothing has been said. */
  #begin(chain: Chain, isTakenAnew: boolean): void {
    chain.stand();
    const far = this.#tip.does === "look" ? aheadMm : 0;
    for (let row = 0; row < 3; row += 1) {
      if (isTakenAnew) this.#isSaid[row] = false;
      if (!this.#isSaid[row]) this.#aimMm[row] = (chain.tip[9 + row] as number) + far * (chain.tip[3 * row] as number);
    }
  }

  /** Takes in what is said. Whether anything of it is new. */
  #takeIn(): boolean {
    let isNew = false;
    for (let row = 0; row < 3; row += 1) {
      if (this.#isMoved[row]) this.#isSaid[row] = true;
      const saidMm = this.#saidMm[row] as number;
      if (!this.#isSaid[row] || this.#aimMm[row] === saidMm) continue;
      this.#aimMm[row] = saidMm;
      isNew = true;
    }
    return isNew;
  }

  #solve(inverse: Inverse): void {
    const atMm: [number, number, number] = [...this.#aimMm];
    inverse.near(this.#tip.does === "look" ? { kind: "lookAt", atMm } : { kind: "place", atMm, along: null, up: null });
  }
}
