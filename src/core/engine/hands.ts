import type { Claimant, JointControl } from "@core/project";
import { type Press, pressOver } from "./press";

/** Who has a joint. */
export type Having =
  /** Nobody: it gets no signal and is limp. */
  | { readonly kind: "released" }
  /** Nobody: it is held where it stands. */
  | { readonly kind: "free" }
  | { readonly kind: "hand" }
  /** A hand, to find out what its angles mean: its travel limits rest. */
  | { readonly kind: "measured" }
  /** The same, in the middle of a step against a possible stop. */
  | { readonly kind: "pressed"; readonly press: Press }
  /** What plays: a routine, a move to a pose, a recording's lead-in. */
  | { readonly kind: "routine" }
  | { readonly kind: "lead"; readonly leadId: string };
export type HavingKind = Having["kind"];

/** What can happen to a joint that may change who has it. */
export type Happening =
  | "hold"
  | "release"
  /** A hand asks for a target. */
  | "move"
  /** A hand asks for a set point: what one asks who measures. */
  | "setPoint"
  | "measure"
  | "endMeasure"
  | "press"
  | "routineTakes"
  /** It is given back to what plays, which has gone on meanwhile. */
  | "routineTakesBack"
  /** What plays comes to its end; its joints finish the way to where it sent them. */
  | "routineOver"
  /** What plays is broken off. */
  | "routineHalts"
  /** A lead takes it that somebody moved. */
  | "leadTakes"
  /** A lead takes it that goes on by itself. */
  | "leadGoesOn"
  /** A lead that has it is followed again after it was not. */
  | "leadIsBack"
  /** The lead that has it is gone, leads somewhere else, or is moved only while it is held, and was let go. */
  | "leadGone"
  /** Nobody else wants it. */
  | "giveBack"
  | "stop"
  /** Its board fell silent, and may hold what it was told last. */
  | "lost"
  /** Its board answers again, and holds it. */
  | "back"
  /** Its board had not said for a while that it took what was sent; it has now. */
  | "heard"
  /** Its angles mean other signals than before. */
  | "remeasured";

/**
 * What becomes of the wish: left as it is; where the gate last put the joint; what is asked; or back from what was measured (away from a stop, and
 * what turned stands still).
 */
export type WishRule = "keep" | "stay" | "asked" | "rest";
/** Whether the joint goes over softly from where it stands, at once, or as it was going. */
type BlendRule = "keep" | "none" | "soft";
type Turn = `${HavingKind} ${WishRule} ${BlendRule}`;
/** `-` changes nothing; `no` is refused. */
type Cell = Turn | "-" | "no";

/** The columns of the table below. */
export const havingKinds = ["released", "free", "hand", "measured", "pressed", "routine", "lead"] as const;
type Row = readonly [Cell, Cell, Cell, Cell, Cell, Cell, Cell];

const free: Turn = "free stay none";
const limp: Turn = "released stay none";
const taken: Turn = "hand asked soft";
const touched: Turn = "hand asked keep";
const tried: Turn = "measured asked keep";
const pressed: Turn = "pressed asked none";
const played: Turn = "routine stay soft";
const led: Turn = "lead asked soft";

/**
 * All that can happen, to a joint in whatever hands. From a line one reads: who has it afterwards, what becomes of the wish, and how the joint
 * goes over. A hand may take everything that is held; what is measured or pressed goes to nobody by itself.
 */
export const transitions: Readonly<Record<Happening, Row>> = {
  // released, free, hand, measured, pressed, routine, lead
  hold: [free, "-", "-", "-", "-", "-", "-"],
  release: ["-", limp, limp, limp, limp, limp, limp],
  move: ["no", touched, touched, touched, touched, taken, taken],
  setPoint: ["no", touched, touched, tried, tried, taken, taken],
  measure: ["no", "measured keep keep", "measured keep keep", "-", "-", "measured stay none", "measured stay none"],
  endMeasure: ["-", "-", "-", "hand rest keep", "hand rest keep", "-", "-"],
  press: ["no", pressed, pressed, pressed, pressed, "no", "no"],
  routineTakes: ["no", played, played, "no", "no", "-", played],
  routineTakesBack: ["no", played, played, "no", "no", "-", played],
  routineOver: ["-", "-", "-", "-", "-", "free keep keep", "-"],
  routineHalts: ["-", "-", "-", "-", "-", free, "-"],
  leadTakes: ["no", led, led, led, led, led, led],
  leadGoesOn: ["no", led, led, "no", "no", led, led],
  leadIsBack: ["-", "-", "-", "-", "-", "-", led],
  leadGone: ["-", "-", "-", "-", "-", "-", free],
  giveBack: ["-", "-", "free keep keep", "free rest keep", "free rest keep", "-", "free keep keep"],
  stop: ["-", free, "hand stay none", "-", "-", free, "-"],
  lost: ["-", free, free, "measured stay none", "pressed rest none", free, free],
  back: ["-", free, free, free, "free rest soft", free, free],
  heard: [
    "-",
    "free keep soft",
    "hand keep soft",
    "measured keep soft",
    "measured rest soft",
    "routine keep soft",
    "lead keep soft",
  ],
  remeasured: ["-", "-", "-", "-", "-", "routine keep soft", "lead keep soft"],
};

/** What happened, in parts, so that nothing is taken apart while the bench runs. */
const turns = new Map<Turn, { readonly to: HavingKind; readonly wish: WishRule; readonly blend: BlendRule }>();
for (const cell of Object.values(transitions).flat()) {
  if (cell === "-" || cell === "no") continue;
  const [to, wish, blend] = cell.split(" ") as [HavingKind, WishRule, BlendRule];
  turns.set(cell, { to, wish, blend });
}

/** While a joint goes over: from which target, since when, for how long. */
interface Blend {
  readonly from: number;
  readonly sinceMs: number;
  readonly ms: number;
}

/** What a happening finds: the moment, where the joint stands, and how long its person wants it to take going over. */
export interface Scene {
  readonly nowMs: number;
  readonly standsAt: number;
  readonly blendMs: number;
}

/** Nobody's hand waits for these: over so long a joint goes to what is asked of it now, however short its person wants the way. */
const softReturnMs = 400;
const returns: ReadonlySet<Happening> = new Set([
  "routineTakesBack",
  "leadGoesOn",
  "leadIsBack",
  "back",
  "heard",
  "remeasured",
]);
const touches: ReadonlySet<Happening> = new Set(["move", "setPoint", "measure", "press", "leadTakes"]);

/** Who has one joint: the one place where that stands, and changes. */
export class Hands {
  #having: Having = { kind: "released" };
  #blend: Blend | null = null;
  /** When the one who has it last moved it. */
  #touchedMs = 0;

  get kind(): HavingKind {
    return this.#having.kind;
  }

  get isHeld(): boolean {
    return this.#having.kind !== "released";
  }

  /** Whether its travel limits rest. */
  get isMeasured(): boolean {
    return this.#having.kind === "measured" || this.#having.kind === "pressed";
  }

  get press(): Press | null {
    return this.#having.kind === "pressed" ? this.#having.press : null;
  }

  /** The lead that has it; null for anybody else. */
  get leadId(): string | null {
    return this.#having.kind === "lead" ? this.#having.leadId : null;
  }

  get isGoingOver(): boolean {
    return this.#blend !== null;
  }

  /**
   * Something happens. Gives what becomes of the wish, or null where it is refused and nothing is changed. `by` is the lead that takes the joint, or
   * the press that begins.
   */
  happen(what: Happening, scene: Scene, by: string | Press | null = null): WishRule | null {
    const cell = transitions[what][havingKinds.indexOf(this.#having.kind)] as Cell;
    if (cell === "no") return null;
    if (cell === "-") return "keep";
    const { to, wish, blend } = turns.get(cell) as NonNullable<ReturnType<typeof turns.get>>;
    if (touches.has(what)) this.#touchedMs = scene.nowMs;
    if (blend === "none") this.#blend = null;
    if (blend === "soft") this.#soften(scene, returns.has(what) ? softReturnMs : 0);
    this.#having = this.#become(to, by);
    return wish;
  }

  /** The one who has it moved it just now. */
  touch(nowMs: number): void {
    this.#touchedMs = nowMs;
  }

  /** What a joint is really asked for while it goes over from one hand to the next. */
  blended(wish: number, nowMs: number): number {
    const blend = this.#blend;
    if (!blend || !Number.isFinite(wish)) return wish;
    // A clock that was set back begins the blend anew, and never runs it backwards.
    const share = Math.max(0, nowMs - blend.sinceMs) / blend.ms;
    if (!(share < 1)) {
      this.#blend = null;
      return wish;
    }
    return blend.from + (wish - blend.from) * share * share * (3 - 2 * share);
  }

  /** Whether the one who has it has left it alone for so long that it goes back to others who want it. Who measures reads a protractor meanwhile. */
  isIdle(giveBackMs: number | null, nowMs: number): boolean {
    const { kind } = this.#having;
    return giveBackMs !== null && (kind === "hand" || kind === "lead") && nowMs - this.#touchedMs > giveBackMs;
  }

  /** Takes over the life of the same joint as it was before an edit; `measured` brings an old target into the new measure. */
  carryOver(from: Hands, measured: (target: number) => number): void {
    this.#touchedMs = from.#touchedMs;
    // Who was just given the joint goes on taking it over softly: an edit is no reason to leap.
    this.#blend = from.#blend && { ...from.#blend, from: measured(from.#blend.from) };
    const { press } = from;
    this.#having = press
      ? { kind: "pressed", press: { ...press, to: measured(press.to), backTo: measured(press.backTo) } }
      : from.#having;
  }

  #become(to: HavingKind, by: string | Press | null): Having {
    if (to === "lead") return { kind: to, leadId: typeof by === "string" ? by : (this.leadId ?? "") };
    if (to !== "pressed") return { kind: to };
    // Without a new one it is the old one that is cut short.
    return { kind: to, press: by !== null && typeof by === "object" ? by : pressOver(this.press as Press) };
  }

  #soften({ nowMs, standsAt, blendMs }: Scene, leastMs: number): void {
    const ms = Math.max(blendMs, leastMs);
    this.#blend = ms > 0 ? { from: standsAt, sinceMs: nowMs, ms } : null;
  }
}

/** Who somebody is among those who may want a joint; null for nobody. */
function claimantOf(kind: HavingKind): Claimant | null {
  if (kind === "routine" || kind === "lead") return kind;
  return kind === "released" || kind === "free" ? null : "hand";
}

/**
 * Whether what plays, or a lead, may have a joint now, by the joint's own rule. By touch, whoever moves may, but what goes on by itself (`isSteady`)
 * takes nothing from others. By order, only who stands higher, or as high and moves. What nobody has, anybody may have. A hand always may.
 */
export function mayTake(
  from: HavingKind,
  claimant: "routine" | "lead",
  { takes, order }: JointControl,
  { isTouched, isSteady }: { readonly isTouched: boolean; readonly isSteady: boolean },
): boolean {
  const current = claimantOf(from);
  if (current === null) return isTouched || isSteady;
  if (takes === "touch") return isTouched && !isSteady;
  const rank = order.indexOf(claimant) - order.indexOf(current);
  return rank < 0 ? isTouched || isSteady : rank === 0 && isTouched && !isSteady;
}
