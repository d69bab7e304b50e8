import { isAstray, type Led } from "@core/figure";
import type { Project, Tip } from "@core/project";
import { middlesOf, over, type Score, type Stray, wholeMm } from "@core/routine";
import type { Vector } from "@core/shapes";
import type { StepOf } from "@core/steps";
import type { Finding } from "./finding";
import type { Mend } from "./mend";

/** Ways on which a tip cannot be led as it should: places that it cannot pass, and where it cannot point as it is to. */
export function wayFindings(project: Project, score: Score): Finding[] {
  const tips = project.figures.flatMap((figure) => figure.tips);
  return score.strays.flatMap((stray, at): Finding[] => {
    const { stepId, fromMs, toMs, led: way } = stray;
    const step = score.routine.steps.find(({ id }) => id === stepId);
    if (step?.kind !== "move") return [];
    const tip = tips.find(({ id }) => id === step.path?.tipId);
    const anyWay: Mend = { kind: "anyWay", stepId };
    const base = { kind: "way", jointId: null, stepId, fromMs, toMs, possible: 0 } as const;
    if (!way || !tip) {
      const sentence = "The tip that is to be led is not there any more. It goes any way.";
      return [{ ...base, asked: 0, sentence, mends: [anyWay] }];
    }
    const round = at < mostTried ? roundThatPasses(project, score, stray, tip) : [];
    const said = [strayOn(way, tip), leapOn(way, tip, project, step), leanOn(way, tip, step)];
    return said.flatMap((one) =>
      one ? [{ ...base, asked: one.asked, sentence: one.sentence, mends: [...one.mends, ...round, anyWay] }] : [],
    );
  });
}

interface Said {
  readonly asked: number;
  readonly sentence: string;
  /** What helps besides going round, or any way. */
  readonly mends: readonly Mend[];
}

function strayOn({ strays }: Led, tip: Tip): Said | null {
  const { offMm, share, atMm } = strays;
  if (offMm === 0) return null;
  const sentence = `${tip.label} cannot pass ${percent(share)} of its way: it stays ${offMm.toFixed(0)} mm beside it, at ${mm(atMm)}.`;
  return { asked: offMm, sentence, mends: [] };
}

function leapOn({ leaps, arrival }: Led, tip: Tip, project: Project, step: StepOf<"move">): Said | null {
  const leaping = project.joints[leaps.joint];
  if (leaps.byDeg === 0 || !leaping) return null;
  const by = `${leaping.label} would have to leap by ${leaps.byDeg.toFixed(0)}°`;
  const sentence =
    leaps.share === 1
      ? `${tip.label} arrives at its place in another stance than the pose has: ${by} at the end.`
      : `${by} at ${percent(leaps.share)} of the way of ${tip.label}, at ${mm(leaps.atMm)}: the way goes where the machine has to fold over.`;
  const pose = project.poses.find(({ id }) => id === step.poseId);
  if (!arrival || !pose) return { asked: leaps.byDeg, sentence, mends: [] };
  // To the last digit: rounded, a joint at its limit would be asked for more than that. 0 is added for a file, which knows no −0.
  const targets = Object.fromEntries(
    [...arrival].map(([place, target]) => [project.joints[place]?.id ?? "", target + 0]),
  );
  const mends: Mend[] = [{ kind: "arrivesAs", poseId: pose.id, poseName: pose.name, targets }];
  return { asked: leaps.byDeg, sentence, mends };
}

function leanOn({ leans }: Led, tip: Tip, { id, path }: StepOf<"move">): Said | null {
  const { offDeg, share, atMm } = leans;
  if (offDeg === 0) return null;
  const kept = path?.pointing === "tilt" ? "tilt" : "direction";
  const keepsTilt: Mend[] = path?.pointing === "direction" ? [{ kind: "keepsTilt", stepId: id }] : [];
  const sentence = `${tip.label} cannot keep its ${kept} at ${percent(share)} of its way: it points ${offDeg.toFixed(0)}° elsewhere, at ${mm(atMm)}.`;
  return { asked: offDeg, sentence, mends: [...keepsTilt, { kind: "pointsFreely", stepId: id }] };
}

const percent = (share: number): string => `${Math.round(share * 100)} %`;
const mm = (place: Vector): string => `${wholeMm(place).join(", ")} mm`;

/** So far beyond the place where it came nearest to its way, and so high over a middle, a tip is tried to be led by, in mm. */
const beyondMm = [0, 15, 40, 80];
const liftsMm = [0, 50, 100];
/** Trying takes about 40 ms a way: of a routine with more ways that do not pass, the others are offered no round one at this look. */
const mostTried = 24;

/** What has been found for a way: each edit looks at all ways anew, and few change one. */
const tried = new WeakMap<Led, Vector | null>();

/** The way led round by a place with which all of it passes; found by trying. */
function roundThatPasses(project: Project, score: Score, stray: Stray, tip: Tip): Mend[] {
  const { stepId, led, roundBy } = stray;
  if (!led || !roundBy) return [];
  if (!tried.has(led)) {
    const passes = (viaMm: Vector) => !isAstray(roundBy(viaMm));
    tried.set(led, placesToTry(project, score, led, stepId, tip.id).find(passes) ?? null);
  }
  const viaMm = tried.get(led);
  return viaMm ? [{ kind: "roundBy", stepId, tipId: tip.id, viaMm }] : [];
}

/** First where the tip came nearest to its way, and on from there; then where the joints would have it half-way, and over both middles. */
function placesToTry(project: Project, score: Score, { strays }: Led, stepId: string, tipId: string): Vector[] {
  const { offMm, atMm, wantedMm } = strays;
  const [x, y, z] = atMm;
  const [dx, dy, dz] = [x - wantedMm[0], y - wantedMm[1], z - wantedMm[2]];
  const beside = offMm > 0 ? beyondMm.map((by) => by / offMm) : [];
  const middles = middlesOf(project, score, stepId, tipId);
  return [
    ...beside.map((part) => wholeMm([x + part * dx, y + part * dy, z + part * dz])),
    ...(middles ? liftsMm.flatMap((liftMm) => [over(middles.ofJoints, liftMm), over(middles.straight, liftMm)]) : []),
  ];
}
