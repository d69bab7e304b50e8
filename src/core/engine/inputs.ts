import { Chain } from "@core/inputs";
import { afarKeyOf, everyChangeCounts, type Moment, makesItself, silentAfterMs, valueAt } from "@core/origins";
import { isSteady, type Lead, type Project, type Source, tipOf } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { othersOf, type Surroundings } from "@core/shapers";
import { dequal } from "dequal";
import type { LeadAction } from "./commands";
import { type Ground, TipLeads } from "./tipLeads";

/** A source as the engine lives with it. */
interface LiveSource extends Moment {
  readonly source: Source;
  readonly makesItself: boolean;
  readonly silentAfterMs: number;
  /** What it is called where it comes from afar. */
  readonly afarKey: string | null;
  nowMs: number;
  value: number;
  /** It gave a value since the last step. */
  isTouched: boolean;
  /** What a switch gave besides, since the last step: a tap shorter than a step is a press and a release all the same. */
  readonly further: number[];
  isLost: boolean;
  lostMs: number;
  /** What it was lost for has been done. */
  hasFallenBack: boolean;
  heardMs: number;
  /** The world behind a simulated sensor, 0…1. */
  world: number;
}

/** A lead as the engine lives with it: joints by their place, its chain at work. */
export interface LiveLead {
  readonly lead: Lead;
  /** Under which lead's name it has its joints: its own, or, where several lead one tip, that of the first. */
  readonly ownerId: string;
  readonly source: number;
  /** The places of the other sources that its chain listens to. */
  readonly others: readonly number[];
  readonly chain: Chain;
  readonly isSteady: boolean;
  /** What its joints get at 0 and at 1 of what comes out; for a lead to one joint that is what comes out itself. Those of a tip are worked out together. */
  readonly aims: readonly { readonly joint: number; readonly atZero: number; readonly atOne: number }[];
  /** All that its value and its aims come from, to see whether an edit gave them another meaning. */
  readonly meaning: readonly unknown[];
  wasOn: boolean;
  /** It was not followed: it takes up nothing by itself when it is followed again, only when somebody moves it. */
  wasQuiet: boolean;
}

/** How a lead wants a joint. */
export interface Wanting {
  /** Somebody moved its source just now. */
  readonly isTouched: boolean;
  /** It goes on by itself. */
  readonly isSteady: boolean;
  /** It is followed again after it was not: the joint goes over to it softly. */
  readonly isBack: boolean;
}

/** What the engine does with what the leads say. */
export interface Followers {
  /** A lead wants a joint at this target. */
  readonly onWish: (leadId: string, joint: number, target: number, how: Wanting) => void;
  readonly onAction: (action: LeadAction) => void;
  /** The source of a lead has vanished, and a joint that it has is to be released. */
  readonly onRelease: (leadId: string, joint: number) => void;
  /** What leads to tips have to know of joints. */
  readonly ground: Ground;
}

// Made once: this is asked for every lead in every tick.
const wanting = (isTouched: boolean, isSteady: boolean, isBack: boolean): Wanting => ({ isTouched, isSteady, isBack });
const [touched, touchedBack] = [wanting(true, false, false), wanting(true, false, true)];
const [steady, steadyBack] = [wanting(false, true, false), wanting(false, true, true)];
const resting = wanting(false, false, false);

/** More changes of a switch within one step than a finger can make are left out. */
const mostTaps = 16;

/**
 * Sources and leads at work. Values come in from hands, links and the clock; once a tick every lead's chain is stepped, and what comes out is
 * wished of joints or done. It decides nothing about who has a joint.
 */
export class Inputs {
  /** Leads are worked out and shown, but move nothing and do nothing. */
  isTesting = false;
  leads: readonly LiveLead[] = [];
  #sources: LiveSource[] = [];
  #placeOf = new Map<string, number>();
  #placesOfLeads = new Map<string, number>();
  readonly #tips = new TipLeads();
  /** Sources by their id, wherever they stand now: a chain that lives on through a changed document still finds them. */
  readonly #around: Surroundings = {
    valueOf: (id) => this.#sources[this.#placeOf.get(id) ?? -1]?.value ?? Number.NaN,
    rangeOf: (id) => this.#sources[this.#placeOf.get(id) ?? -1]?.source.range ?? { low: 0, high: 1 },
  };
  #solo: { readonly leadId: string | null; readonly sourceId: string | null } = { leadId: null, sourceId: null };

  /** Takes the document; what did not change lives on, with what its chain remembers. */
  configure(project: Project): void {
    const before = new Map(this.#sources.map((live) => [live.source.id, live]));
    this.#sources = project.sources.map((source, at) => {
      const old = before.get(source.id);
      const { origin } = source;
      const kind = {
        source,
        makesItself: makesItself(origin),
        silentAfterMs: silentAfterMs(origin),
        afarKey: afarKeyOf(origin),
      };
      return old
        ? { ...old, ...kind }
        : {
            ...kind,
            nowMs: 0,
            seed: at * 7919 + 17,
            value: Number.NaN,
            isTouched: false,
            further: [],
            isLost: false,
            lostMs: 0,
            hasFallenBack: false,
            heardMs: Number.NaN,
            world: 0.5,
          };
    });
    this.#placeOf = new Map(project.sources.map((source, at) => [source.id, at]));
    this.#placesOfLeads = new Map(project.leads.map((lead, at) => [lead.id, at]));
    this.#tips.configure(project);
    const leadsBefore = new Map(this.leads.map((live) => [live.lead.id, live]));
    this.leads = project.leads.map((lead): LiveLead => {
      const old = leadsBefore.get(lead.id);
      const keepsChain = old && dequal(old.lead.shapers, lead.shapers);
      // What it says means something else now: it moves nothing until its source is moved, and acts only when it goes on anew.
      const meaning = meaningOf(project, lead);
      const isChanged = old && !dequal(old.meaning, meaning);
      const source = this.#placeOf.get(lead.sourceId) ?? -1;
      const led = this.#tips.groupOf(lead);
      return {
        lead,
        ownerId: led?.ownerId ?? lead.id,
        source,
        others: othersOf(lead.shapers).map((id) => this.#placeOf.get(id) ?? -1),
        chain: keepsChain ? old.chain : new Chain(lead.shapers, this.#around),
        isSteady: isSteady(project.sources[source] as Source),
        aims: led ? led.joints.map((joint) => ({ joint, atZero: 0, atOne: 0 })) : aimsOf(project, lead),
        meaning,
        wasOn: isChanged ? true : (old?.wasOn ?? true),
        wasQuiet: isChanged ? true : (old?.wasQuiet ?? false),
      };
    });
  }

  /** A hand, a key, a stick gave a value. What is not a number is refused. */
  give(sourceId: string, value: number): Result<null> {
    const live = this.#sources.find((one) => one.source.id === sourceId);
    if (!live) return problem("That source is no longer on the bench.");
    if (!Number.isFinite(value)) return problem("A source can only give numbers.");
    if (live.isLost) this.#setLost(live, false, live.lostMs);
    // A knob is where it is now; of a switch every change counts, one a step.
    if (live.isTouched && everyChangeCounts(live.source.origin) && live.further.length < mostTaps) {
      live.further.push(value);
      return ok(null);
    }
    live.value = value;
    live.isTouched = true;
    return ok(null);
  }

  /** Nobody moves it any more, nor did so since the last step. */
  letGo(sourceId: string): void {
    const live = this.#sources.find((one) => one.source.id === sourceId);
    if (!live) return;
    live.isTouched = false;
    live.further.length = 0;
  }

  /** A source has vanished, or is back. */
  lose(sourceId: string, isLost: boolean, nowMs: number): void {
    const live = this.#sources.find((one) => one.source.id === sourceId);
    if (live && live.isLost !== isLost) this.#setLost(live, isLost, nowMs);
  }

  /** Moves the world behind a simulated sensor, 0…1. */
  moveWorld(sourceId: string, world: number): void {
    const live = this.#sources.find((one) => one.source.id === sourceId);
    if (live && Number.isFinite(world)) live.world = Math.min(Math.max(world, 0), 1);
  }

  /** A line `name=value` has arrived on the link of a board. */
  hear(boardId: string, name: string, value: number, nowMs: number): void {
    if (!Number.isFinite(value)) return;
    for (const live of this.#sources) {
      const { origin } = live.source;
      if (origin.kind !== "line" || origin.name !== name || (origin.boardId ?? boardId) !== boardId) continue;
      if (live.isLost) this.#setLost(live, false, nowMs);
      live.heardMs = nowMs;
      live.isTouched = value !== live.value;
      live.value = value;
    }
  }

  /**
   * Another machine said a number under a key. Whatever it says, the source stays within its range; only what is new moves anything. Says whether a
   * source waits for it.
   */
  hearFrom(key: string, value: number, nowMs: number): boolean {
    if (!Number.isFinite(value)) return false;
    let isHeard = false;
    for (const live of this.#sources) {
      if (live.afarKey !== key) continue;
      isHeard = true;
      const { range, origin } = live.source;
      const within = Math.min(Math.max(value, range.low), range.high);
      if (live.isLost) this.#setLost(live, false, nowMs);
      live.heardMs = nowMs;
      const last = live.further.at(-1) ?? live.value;
      if (within === last) continue;
      // Of a switch every change counts, one a step.
      if (live.isTouched && everyChangeCounts(origin) && live.further.length < mostTaps) live.further.push(within);
      else {
        live.value = within;
        live.isTouched = true;
      }
    }
    return isHeard;
  }

  /** Only this lead, or only the leads of this source, are followed; null for all. */
  solo(leadId: string | null, sourceId: string | null): void {
    this.#solo = { leadId, sourceId };
  }

  /** Lets time pass: generators and sensors move on, every lead is worked out, and what comes out is followed. */
  step(nowMs: number, dtMs: number, followers: Followers): void {
    for (const live of this.#sources) this.#moveOn(live, nowMs, followers);
    for (let at = 0; at < this.leads.length; at += 1) {
      const live = this.leads[at] as LiveLead;
      const source = this.#sources[live.source];
      if (!source) continue;
      const value = live.chain.step(source.value, dtMs);
      const isOn = value >= 0.5;
      const wasOn = live.wasOn;
      live.wasOn = isOn;
      if (this.isTesting || this.#isQuiet(live, source)) {
        live.wasQuiet = true;
        continue;
      }
      if (Number.isNaN(value)) continue;
      if (live.lead.target.kind === "action") {
        if (isOn && !wasOn) followers.onAction(live.lead.target.action);
        continue;
      }
      const isTouched = source.isTouched || live.others.some((other) => this.#isMoved(other));
      const isBack = live.wasQuiet;
      if (isBack && !isTouched && !live.isSteady) continue;
      live.wasQuiet = false;
      const how = live.isSteady
        ? isBack
          ? steadyBack
          : steady
        : !isTouched
          ? resting
          : isBack
            ? touchedBack
            : touched;
      const { target } = live.lead;
      if (target.kind === "tip") this.#tips.hear(target.tipId, target.along, value, how);
      else
        for (const { joint, atZero, atOne } of live.aims)
          followers.onWish(live.lead.id, joint, atZero + value * (atOne - atZero), how);
    }
    this.#tips.lead(followers.ground, followers.onWish);
    for (const live of this.#sources) {
      const next = live.further.shift();
      live.isTouched = next !== undefined;
      if (next !== undefined) live.value = next;
    }
  }

  /** A lead's place in the project; −1 where it is gone. */
  placeOfLead(id: string): number {
    return this.#placesOfLeads.get(id) ?? -1;
  }

  /** Whether a lead moves what it leads to. */
  isFollowed(live: LiveLead): boolean {
    const source = this.#sources[live.source];
    return source !== undefined && !this.isTesting && !this.#isQuiet(live, source);
  }

  valueOf(source: number): number {
    return this.#sources[source]?.value ?? Number.NaN;
  }

  isLost(source: number): boolean {
    return this.#sources[source]?.isLost ?? false;
  }

  #moveOn(live: LiveSource, nowMs: number, { onRelease }: Followers): void {
    const { origin, range, ifLost } = live.source;
    if (live.makesItself) {
      live.nowMs = nowMs;
      live.value = valueAt(origin, range, live);
    } else if (!live.isLost && nowMs - live.heardMs > live.silentAfterMs) this.#setLost(live, true, nowMs);
    if (!live.isLost || live.hasFallenBack || ifLost.kind === "hold" || nowMs - live.lostMs < ifLost.afterMs) return;
    live.hasFallenBack = true;
    if (ifLost.kind === "release") {
      for (const { lead, ownerId, aims } of this.leads)
        if (lead.sourceId === live.source.id) for (const { joint } of aims) onRelease(ownerId, joint);
      return;
    }
    // Nobody moved it: where its lead has a joint, that goes there; it takes none.
    live.value = ifLost.value;
  }

  /** Whether somebody moved a source just now; what goes on by itself is moved by nobody. */
  #isMoved(at: number): boolean {
    const live = this.#sources[at];
    return live?.isTouched === true && !isSteady(live.source);
  }

  #setLost(live: LiveSource, isLost: boolean, nowMs: number): void {
    live.isLost = isLost;
    live.lostMs = nowMs;
    live.hasFallenBack = false;
    // What it leads to goes over softly once it is moved again, however far it is from where that stands now.
    if (!isLost) for (const lead of this.leads) if (lead.lead.sourceId === live.source.id) lead.wasQuiet = true;
  }

  #isQuiet({ lead }: LiveLead, { source }: LiveSource): boolean {
    const { leadId, sourceId } = this.#solo;
    if (lead.isMuted || source.isMuted) return true;
    if (leadId !== null && lead.id !== leadId) return true;
    return sourceId !== null && source.id !== sourceId;
  }
}

/** Which joints a lead moves, and to where at 0 and at 1 of what comes out. */
function aimsOf(project: Project, { target }: Lead): LiveLead["aims"] {
  if (target.kind === "joint")
    return [{ joint: project.joints.findIndex((one) => one.id === target.jointId), atZero: 0, atOne: 1 }];
  if (target.kind === "action" || target.kind === "tip") return [];
  const from = project.poses.find((pose) => pose.id === target.fromPoseId);
  const to = project.poses.find((pose) => pose.id === target.toPoseId);
  return project.joints.flatMap(({ id }, joint) => {
    const atZero = from?.targets[id];
    const atOne = to?.targets[id];
    return atZero === undefined || atOne === undefined ? [] : [{ joint, atZero, atOne }];
  });
}

function meaningOf(project: Project, { sourceId, shapers, target }: Lead): readonly unknown[] {
  const heard = project.sources
    .filter(({ id }) => id === sourceId || othersOf(shapers).includes(id))
    .map(({ id, range, origin }) => [id, range, origin]);
  const poses =
    target.kind === "blend"
      ? project.poses.filter(({ id }) => id === target.fromPoseId || id === target.toPoseId).map((pose) => pose.targets)
      : [];
  const figure = target.kind === "tip" ? tipOf(project, target.tipId)?.figure : null;
  return [sourceId, shapers, target, heard, poses, figure];
}
