import type { Figure, Project, Thing } from "@core/project";
import { type Hull, hullOf, type MeshOf } from "@core/shapes";
import { distanceOf, nearness } from "./distance";
import { type Frames, frameOfPlace, frameSize, joinFrames } from "./frames";
import { type Assembly, partFrame, type Standing } from "./stand";

/** What a part can meet: another part, a thing that stands around, or the table (its face is z = 0). */
export type Met =
  | { readonly kind: "part"; readonly partId: string }
  | { readonly kind: "thing"; readonly thingId: string }
  | { readonly kind: "table" };

export interface Meeting {
  readonly partId: string;
  readonly other: Met;
  /** Between the two, in mm; 0 where they touch. */
  readonly distanceMm: number;
  /** Where, in the world. */
  readonly atMm: readonly [number, number, number];
}

interface Solid {
  readonly hull: Hull;
  /** The place number of its part; −1 for a thing that stands around. */
  readonly part: number;
  readonly thingId: string | null;
  readonly rest: Frames;
}

/**
 * Finds what meets: parts with each other, the table and what stands around. Made once for a project; `look` then asks how an assembly stands now. Parts that
 * are fixed to each other, neighbours at a joint and pairs that may touch are left out, and so are things that meet nothing that moves.
 */
export class Meetings {
  readonly #assembly: Assembly;
  readonly #solids: readonly Solid[];
  readonly #frames: Frames;
  /** Pairs of places in `#solids`, one after another. */
  readonly #pairs: Int32Array;
  /** Of each pair, how far apart their middles are at most where they can touch. */
  readonly #reaches: Float64Array;
  /** Solids that can be pressed onto the table. */
  readonly #overTable: readonly number[];
  readonly #out = nearness();
  readonly #lowest = new Float64Array(3);

  constructor(project: Pick<Project, "things" | "meshes">, assembly: Assembly) {
    const meshOf: MeshOf = (id) => project.meshes.find((mesh) => mesh.id === id);
    this.#assembly = assembly;
    const ofParts = assembly.parts.flatMap((part, place): Solid[] =>
      part.bodies
        .filter(({ isSolid }) => isSolid)
        .map(({ shape, place: at }) => ({ hull: hullOf(shape, meshOf), part: place, thingId: null, rest: framed(at) })),
    );
    const around = project.things
      .filter(({ kind }) => kind !== "seen")
      .map(
        ({ id, shape, place }): Solid => ({ hull: hullOf(shape, meshOf), part: -1, thingId: id, rest: framed(place) }),
      );
    this.#solids = [...ofParts, ...around];
    this.#frames = new Float64Array(this.#solids.length * frameSize);
    const groups = rigidGroups(assembly);
    const apart = new Set(assembly.figureOf.flatMap(({ mayTouch }) => mayTouch.map(([a, b]) => pairKey(a, b))));
    const pairs: number[] = [];
    const stands = (place: number) => groups[place] === tableGroup;
    for (let first = 0; first < ofParts.length; first += 1) {
      const a = (ofParts[first] as Solid).part;
      for (let second = first + 1; second < this.#solids.length; second += 1) {
        const b = (this.#solids[second] as Solid).part;
        if (b < 0 ? stands(a) : !canMeet(assembly, groups, apart, a, b)) continue;
        pairs.push(first, second);
      }
    }
    this.#pairs = Int32Array.from(pairs);
    const reachOf = (pair: number) => this.#solids[pairs[pair] as number]?.hull.reachMm ?? 0;
    this.#reaches = Float64Array.from({ length: pairs.length / 2 }, (_, at) => reachOf(2 * at) + reachOf(2 * at + 1));
    this.#overTable = ofParts.flatMap(({ part }, index) => (isByTable(assembly, groups, part) ? [] : [index]));
    this.#solids.forEach(({ part, rest }, index) => {
      if (part < 0) this.#frames.set(rest, index * frameSize);
    });
  }

  /** Whether there is anything that could meet. */
  get isEmpty(): boolean {
    return this.#pairs.length === 0 && this.#overTable.length === 0;
  }

  /** Calls back for every pair of solids that is nearer than this, where the assembly stands now. Gives the smallest distance of all, at most `nearMm`. */
  look(now: Standing, nearMm: number, meets?: (meeting: Meeting) => void): number {
    const frames = this.#frames;
    const solids = this.#solids;
    let least = nearMm;
    for (let index = 0; index < solids.length; index += 1) {
      const { part, rest } = solids[index] as Solid;
      if (part >= 0) joinFrames(now.frames, partFrame(part), rest, 0, frames, index * frameSize);
    }
    for (let at = 0; at < this.#pairs.length; at += 2) {
      const first = this.#pairs[at] as number;
      const second = this.#pairs[at + 1] as number;
      const atA = first * frameSize;
      const atB = second * frameSize;
      const dx = (frames[atA + 9] as number) - (frames[atB + 9] as number);
      const dy = (frames[atA + 10] as number) - (frames[atB + 10] as number);
      const dz = (frames[atA + 11] as number) - (frames[atB + 11] as number);
      const far = (this.#reaches[at / 2] as number) + nearMm;
      if (dx * dx + dy * dy + dz * dz > far * far) continue;
      const a = solids[first] as Solid;
      const b = solids[second] as Solid;
      const distance = distanceOf(a.hull, frames, atA, b.hull, frames, atB, this.#out, nearMm);
      if (distance > nearMm) continue;
      least = Math.min(least, distance);
      meets?.(this.#meetingOf(a, b, distance));
    }
    for (const index of this.#overTable) {
      const solid = solids[index] as Solid;
      const height = this.#heightOf(solid, index * frameSize);
      if (height > nearMm) continue;
      least = Math.min(least, Math.max(0, height));
      meets?.({
        partId: this.#idOf(solid.part),
        other: { kind: "table" },
        distanceMm: Math.max(0, height),
        atMm: [this.#lowest[0] as number, this.#lowest[1] as number, 0],
      });
    }
    return least;
  }

  /** All meetings of where it stands now, the nearest of each pair. */
  all(now: Standing, nearMm = 0): readonly Meeting[] {
    const found = new Map<string, Meeting>();
    this.look(now, nearMm, (meeting) => {
      const key = meetingKey(meeting);
      const known = found.get(key);
      if (!known || meeting.distanceMm < known.distanceMm) found.set(key, meeting);
    });
    return [...found.values()].sort((a, b) => a.distanceMm - b.distanceMm);
  }

  #idOf(place: number): string {
    return this.#assembly.parts[place]?.id ?? "";
  }

  #meetingOf(a: Solid, b: Solid, distanceMm: number): Meeting {
    const { onFirst, onSecond } = this.#out;
    const middle = (row: number) => ((onFirst[row] as number) + (onSecond[row] as number)) / 2;
    return {
      partId: this.#idOf(a.part),
      other: b.thingId === null ? { kind: "part", partId: this.#idOf(b.part) } : { kind: "thing", thingId: b.thingId },
      distanceMm,
      atMm: [middle(0), middle(1), middle(2)],
    };
  }

  /** How high the lowest of it lies over the table. */
  #heightOf({ hull }: Solid, at: number): number {
    const f = this.#frames;
    hull.support(-(f[at + 6] as number), -(f[at + 7] as number), -(f[at + 8] as number), this.#lowest);
    const [x, y, z] = [this.#lowest[0] as number, this.#lowest[1] as number, this.#lowest[2] as number];
    for (let row = 0; row < 3; row += 1)
      this.#lowest[row] =
        (f[at + 3 * row] as number) * x +
        (f[at + 3 * row + 1] as number) * y +
        (f[at + 3 * row + 2] as number) * z +
        (f[at + 9 + row] as number);
    return (this.#lowest[2] as number) - hull.roundMm;
  }
}

/** Which pair meets, whatever the place. */
export const meetingKey = ({ partId, other }: Meeting): string =>
  other.kind === "table" ? `${partId} table` : pairKey(partId, other.kind === "part" ? other.partId : other.thingId);

const pairKey = (a: string, b: string): string => (a < b ? `${a} ${b}` : `${b} ${a}`);

function framed(place: Thing["place"]): Frames {
  const made = new Float64Array(frameSize);
  frameOfPlace(place, made);
  return made;
}

/** The group of what does not move at all. */
const tableGroup = -1;

/** By place number: parts that never move against each other have the same number, which is the place of the first of them. */
function rigidGroups(assembly: Assembly): readonly number[] {
  const groups: number[] = [];
  assembly.parts.forEach((part, place) => {
    const parent = assembly.parents[place] as number;
    const isMoved = part.motion.kind !== "fixed" && (assembly.movers[place] as number) >= 0;
    groups.push(isMoved ? place : parent < 0 ? tableGroup : (groups[parent] as number));
  });
  return groups;
}

/** The group on which a group hangs. */
function hangsOn(assembly: Assembly, groups: readonly number[], group: number): number | null {
  if (group === tableGroup) return null;
  const parent = assembly.parents[group] as number;
  return parent < 0 ? tableGroup : (groups[parent] as number);
}

function canMeet(
  assembly: Assembly,
  groups: readonly number[],
  apart: ReadonlySet<string>,
  a: number,
  b: number,
): boolean {
  const [first, second] = [groups[a] as number, groups[b] as number];
  if (first === second) return false;
  // What stands on the table is neighbour only of its own figure: an arm may well meet the foot of an owl.
  const isOneFigure = assembly.figureOf[a] === assembly.figureOf[b];
  const areNeighbours = hangsOn(assembly, groups, first) === second || hangsOn(assembly, groups, second) === first;
  if (isOneFigure && areNeighbours) return false;
  const [partA, partB] = [assembly.parts[a]?.id ?? "", assembly.parts[b]?.id ?? ""];
  return !apart.has(pairKey(partA, partB));
}

/** Whether a part stands on the table, or turns on what does: a turntable scrapes along it by design. */
function isByTable(assembly: Assembly, groups: readonly number[], place: number): boolean {
  const group = groups[place] as number;
  return group === tableGroup || hangsOn(assembly, groups, group) === tableGroup;
}

/** What meets what, as the beginning of a sentence: a zone is entered, anything else is met. */
export function meetingWords(
  project: Pick<Project, "figures" | "things">,
  { partId, other }: Pick<Meeting, "partId" | "other">,
): string {
  const part = partWords(project, partId);
  if (other.kind === "table") return `${part} meets the table`;
  if (other.kind === "part") return `${part} meets ${partWords(project, other.partId)}`;
  const thing = project.things.find(({ id }) => id === other.thingId);
  return `${part} ${thing?.kind === "zone" ? "enters" : "meets"} ${thing?.label ?? "something"}`;
}

function partWords({ figures }: Pick<Project, "figures">, partId: string): string {
  for (const figure of figures as readonly Figure[])
    for (const part of figure.parts) if (part.id === partId) return part.label;
  return "a part";
}
