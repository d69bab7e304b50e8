import type { Figure, Part } from "@core/project";
import type { Vector } from "@core/shapes";
import { Chain, type FreeJoint } from "./chain";
import { Inverse } from "./inverse";
import type { Assembly } from "./stand";

/**
 * Of a turn of the gaze the head takes about two thirds, and the eyes the rest: people turn their heads that far for what lies well to the side.
 * Source: the usual gain of head movement in gaze shifts, 0.5 to 0.8 among people.
 */
const headShare = 0.67;
/** A joint that moves less than this share of the heaviest is an eye's; a neck's carries the head. */
const eyeShare = 0.25;

export interface Gaze {
  /** Targets by joint id, of all joints that take part. */
  readonly targets: Readonly<Record<string, number>>;
  /** By how much the eye that is furthest off still looks past it, in degrees. */
  readonly offDeg: number;
}

/**
 * Has a figure look at a place. The neck turns part of the way from where it is at home, the eyes the rest, each eye for itself, so that both meet in the place.
 * Where the eyes come to their stops the neck goes on. `homes` are targets by joint id.
 */
export function lookAt(
  figure: Figure,
  assembly: Assembly,
  free: readonly FreeJoint[],
  homes: Readonly<Record<string, number>>,
  atMm: Vector,
): Gaze | null {
  const tips = figure.tips.filter(({ does }) => does === "look");
  if (tips.length === 0) return null;
  const whole = tips.map((tip) => new Chain(assembly, tip, free));
  const all = new Set(whole.flatMap(({ joints }) => joints));
  const masses = new Map([...all].map((joint) => [joint, movedMassG(assembly, joint.place)]));
  const heaviest = Math.max(...masses.values(), 0);
  const isEyes = (joint: FreeJoint) => all.size > 1 && (masses.get(joint) as number) < heaviest * eyeShare;
  const neck = [...all].filter((joint) => !isEyes(joint));
  const eyes = [...all].filter(isEyes);
  const homeOf = ({ place, low, high }: FreeJoint) =>
    Math.max(low, Math.min(high, homes[assembly.jointIds[place] ?? ""] ?? 0));
  const looks = tips.map((tip) => ({
    neck: new Inverse(new Chain(assembly, tip, neck)),
    eye: new Inverse(new Chain(assembly, tip, eyes)),
  }));
  const first = looks[0];
  if (!first) return null;
  const aim = { kind: "lookAt", atMm } as const;
  const start = () => {
    for (const { chain } of looks.flatMap((one) => [one.neck, one.eye]))
      for (const joint of all) chain.now.targets[joint.place] = homeOf(joint);
  };
  start();
  const alone = first.neck.near(aim);
  const turned = new Map(neck.map((joint) => [joint, first.neck.chain.now.targets[joint.place] as number]));
  const set = (joint: FreeJoint, value: number) => {
    for (const { chain } of looks.flatMap((one) => [one.neck, one.eye])) chain.now.targets[joint.place] = value;
  };
  let offDeg = alone.offDeg;
  // Without eyes the neck does all of it.
  for (let share = eyes.length > 0 ? headShare : 1; ; share = Math.min(1, share + 0.11)) {
    start();
    for (const joint of neck) set(joint, homeOf(joint) + share * ((turned.get(joint) as number) - homeOf(joint)));
    offDeg = 0;
    for (const { eye } of looks) {
      for (const joint of eyes)
        eye.chain.now.targets[joint.place] = (first.eye.chain.now.targets[joint.place] as number) ?? homeOf(joint);
      const reached = eye.near(aim);
      offDeg = Math.max(offDeg, reached.offDeg);
      for (const joint of eye.chain.joints) set(joint, eye.chain.now.targets[joint.place] as number);
    }
    if (offDeg < 0.05 || share >= 1) break;
  }
  const now = first.eye.chain.now.targets;
  const targets = Object.fromEntries(
    [...all].map(({ place }) => [assembly.jointIds[place] as string, now[place] as number]),
  );
  return { targets, offDeg };
}

/** The mass of all that a joint moves, in g. */
function movedMassG(assembly: Assembly, joint: number): number {
  const isMoved: boolean[] = [];
  let sum = 0;
  assembly.parts.forEach(({ massG }: Part, place) => {
    const parent = assembly.parents[place] as number;
    isMoved.push((assembly.movers[place] as number) === joint || (parent >= 0 && (isMoved[parent] as boolean)));
    if (isMoved[place]) sum += massG;
  });
  return sum;
}
