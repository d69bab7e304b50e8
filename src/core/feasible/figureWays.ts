import type { Project } from "@core/project";
import type { Score } from "@core/routine";
import type { Finding } from "./finding";
import type { Mend } from "./mend";

/** Ways on which a tip cannot be led as it should: places that it cannot pass, and where it cannot point as it is to. */
export function wayFindings(project: Project, score: Score): Finding[] {
  return score.strays.flatMap(({ stepId, fromMs, toMs, led: way }): Finding[] => {
    const step = score.routine.steps.find(({ id }) => id === stepId);
    const path = step?.kind === "move" ? step.path : undefined;
    const tipId = path?.tipId ?? "";
    const tip = project.figures.flatMap(({ tips }) => tips).find(({ id }) => id === tipId);
    const anyWay: Mend = { kind: "anyWay", stepId };
    const base = { kind: "way", jointId: null, stepId, fromMs, toMs, possible: 0 } as const;
    if (!way || !tip)
      return [
        {
          ...base,
          asked: 0,
          sentence: "The tip that is to be led is not there any more. It goes any way.",
          mends: [anyWay],
        },
      ];
    const { strays, leans, leaps, arrival } = way;
    const found: Finding[] = [];
    if (strays.offMm > 0) {
      const [x = 0, y = 0, z = 0] = strays.atMm.map((value) => Math.round(value));
      found.push({
        ...base,
        asked: strays.offMm,
        sentence: `${tip.label} cannot pass ${percent(strays.share)} of its way: it stays ${strays.offMm.toFixed(0)} mm beside it, at ${x}, ${y}, ${z} mm.`,
        mends: [{ kind: "roundBy", stepId, tipId, viaMm: [x, y, z] }, anyWay],
      });
    }
    const leaping = project.joints[leaps.joint];
    if (leaps.byDeg > 0 && leaping) {
      const [x = 0, y = 0, z = 0] = leaps.atMm.map((value) => Math.round(value));
      const by = `${leaping.label} would have to leap by ${leaps.byDeg.toFixed(0)}°`;
      // To the last digit: rounded, a joint at its limit would be asked for more than that. 0 is added for a file, which knows no −0.
      const targets = Object.fromEntries(
        [...(arrival ?? [])].map(([place, target]) => [project.joints[place]?.id ?? "", target + 0]),
      );
      const pose = project.poses.find(({ id }) => step?.kind === "move" && id === step.poseId);
      const arrives: Mend[] =
        arrival && pose ? [{ kind: "arrivesAs", poseId: pose.id, poseName: pose.name, targets }] : [];
      found.push({
        ...base,
        asked: leaps.byDeg,
        sentence:
          leaps.share === 1
            ? `${tip.label} arrives at its place in another stance than the pose has: ${by} at the end.`
            : `${by} at ${percent(leaps.share)} of the way of ${tip.label}, at ${x}, ${y}, ${z} mm: the way goes where the machine has to fold over.`,
        mends: [...arrives, anyWay],
      });
    }
    if (leans.offDeg > 0) {
      const [x = 0, y = 0, z = 0] = leans.atMm.map((value) => Math.round(value));
      const kept = path?.pointing === "tilt" ? "tilt" : "direction";
      const keepsTilt: Mend[] = path?.pointing === "direction" ? [{ kind: "keepsTilt", stepId }] : [];
      found.push({
        ...base,
        asked: leans.offDeg,
        sentence: `${tip.label} cannot keep its ${kept} at ${percent(leans.share)} of its way: it points ${leans.offDeg.toFixed(0)}° elsewhere, at ${x}, ${y}, ${z} mm.`,
        mends: [...keepsTilt, { kind: "pointsFreely", stepId }, anyWay],
      });
    }
    return found;
  });
}

const percent = (share: number): string => `${Math.round(share * 100)} %`;
