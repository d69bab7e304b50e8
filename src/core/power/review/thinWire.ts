import type { Run } from "@core/project";
import { gaugeOfArea, mayCarryA, pairOhm, reelAreasMm2, warmerByC } from "../conductor";
import { connectors } from "../connectors";
import { placeLabel } from "../net";
import type { Solved } from "../solve";
import type { Fed, Look } from "./look";
import { amps, type Concern, few, nextSize, type Rule, volts } from "./rule";

/** Of a supply's voltage this much may be lost on the way while one servo is held fast. */
const mayLoseShare = 0.1;

/** Wires and connectors that get hot, and wires that lose too much. */
export const thinWire: Rule = {
  name: "Wires and connectors",
  why: "A thin wire gets hot, and a long one loses voltage: the servo at its end is weak, slow, or starts anew. A connector that is asked for too much melts.",
  find: (look) => [...heat(look), ...drop(look)],
};

const runWords = ({ project }: Look, run: Run) => `${placeLabel(project, run.from)} to ${placeLabel(project, run.to)}`;
const areaWords = (areaMm2: number) => `${areaMm2} mm² (gauge ${gaugeOfArea(areaMm2)})`;

function heat(look: Look): Concern[] {
  const { net } = look;
  const turning = look.all("moving", 1, false);
  return net.places.flatMap((_, at): Concern[] => {
    const run = net.runs[at];
    if (!run || !net.isFed[at]) return [];
    const carriedA = turning.amps[at] as number;
    const concerns: Concern[] = [];
    if (carriedA > mayCarryA(run.areaMm2)) {
      const areaMm2 = reelAreasMm2.find((area) => mayCarryA(area) >= carriedA) ?? reelAreasMm2.at(-1) ?? run.areaMm2;
      const warmer = warmerByC(carriedA, run.areaMm2);
      concerns.push({
        weight: "harm",
        about: { kind: "run", id: run.id },
        sentence: `The wire from ${runWords(look, run)} carries ${amps(carriedA)} while all turn: ${areaWords(run.areaMm2)} may carry ${amps(mayCarryA(run.areaMm2))}${Number.isFinite(warmer) ? `, and gets ${Math.round(warmer)} °C warmer` : ", and would burn"}.`,
        advice: null,
        waysOut: [{ words: `${areaWords(areaMm2)} instead`, wiring: { runs: [{ ...run, areaMm2 }] } }],
      });
    }
    const { mostA, name } = connectors[run.connector];
    if (carriedA > mostA) {
      const better = (["screw", "blade", "heavy", "soldered"] as const).find(
        (kind) => connectors[kind].mostA >= carriedA,
      );
      concerns.push({
        weight: "harm",
        about: { kind: "run", id: run.id },
        sentence: `The ${name} from ${runWords(look, run)} carries ${amps(carriedA)} while all turn, and may carry ${amps(mostA)}.`,
        advice: null,
        waysOut: better
          ? [{ words: `${connectors[better].name} instead`, wiring: { runs: [{ ...run, connector: better }] } }]
          : [],
      });
    }
    return concerns;
  });
}

interface Loss {
  readonly servo: Fed;
  readonly lostV: number;
  readonly givenV: number;
  readonly reachesV: number;
  /** The run that loses most of it, and by which current. */
  readonly run: Run;
  readonly amps: number;
  readonly shareOfIt: number;
}

/** Losses on the way to a servo that is held fast, each put down to the run that loses most. */
function drop(look: Look): Concern[] {
  const groups = new Map<string, Loss[]>();
  for (const servo of look.servos) {
    const loss = lossTo(look, servo, look.held(servo));
    if (!loss || loss.lostV <= mayLoseShare * loss.givenV) continue;
    groups.set(loss.run.id, [...(groups.get(loss.run.id) ?? []), loss]);
  }
  return [...groups.values()].map((losses): Concern => {
    const worst = losses.reduce((most, one) => (one.lostV / one.givenV > most.lostV / most.givenV ? one : most));
    const { run, servo, lostV, reachesV, givenV } = worst;
    const low = servo.card.rating.supplyVolts?.low ?? 0.8 * servo.draw.atVolts;
    // So that the wire itself loses no more than half of what may be lost.
    const needOhm = (0.5 * mayLoseShare * givenV) / servo.draw.stallA;
    const least = pairOhm(run.lengthMm, 1) / needOhm;
    const areaMm2 = nextSize(reelAreasMm2, Math.max(least, run.areaMm2 * 1.01));
    return {
      weight: reachesV < low ? "fails" : "mind",
      about: { kind: "run", id: run.id },
      sentence: `${few(losses.map(({ servo: { joint } }) => joint.label))} ${losses.length > 1 ? "get" : "gets"} only ${volts(reachesV)} of ${volts(givenV)} when held fast: ${volts(lostV)} ${losses.length > 1 ? "are" : "is"} lost, most of it in the ${(run.lengthMm / 1000).toFixed(run.lengthMm < 995 ? 2 : 1)} m of ${areaWords(run.areaMm2)} from ${runWords(look, run)}.`,
      advice: null,
      waysOut: [{ words: `${areaWords(areaMm2)} instead`, wiring: { runs: [{ ...run, areaMm2 }] } }],
    };
  });
}

function lossTo({ net }: Look, servo: Fed, solved: Solved): Loss | null {
  if (!net.isFed[servo.at]) return null;
  let [most, mostV] = [null as Run | null, 0];
  let at = servo.at;
  for (; net.places[at]?.kind !== "supply"; at = net.parents[at] as number) {
    const run = net.runs[at];
    const lostV = (solved.amps[at] as number) * (net.ohms[at] as number);
    if (run && lostV > mostV) [most, mostV] = [run, lostV];
  }
  const [givenV, reachesV] = [solved.volts[at] as number, solved.volts[servo.at] as number];
  if (!most) return null;
  return {
    servo,
    lostV: givenV - reachesV,
    givenV,
    reachesV,
    run: most,
    amps: solved.amps[servo.at] as number,
    shareOfIt: mostV / (givenV - reachesV),
  };
}
