import { assembleBench, nmmPerKgCm, stallTorqueNmm, torqueLeft, Weights } from "@core/figure";
import type { Project } from "@core/project";
import type { Score } from "@core/routine";
import type { Finding } from "./finding";
import type { Mend } from "./mend";
import type { Motor } from "./motors";
import { mostOfAKind, stepMs, stepUnder } from "./sampling";

/** Torques are looked at this often, in samples: what is heavy is so for longer than a frame. */
const every = 5;

/** What a joint needs most at some stretch of a routine. */
interface Heavy {
  readonly from: number;
  to: number;
  worst: number;
  needNmm: number;
  mayNmm: number;
}

/**
 * Where a servo is asked for more torque than its figure lets it use: to hold what hangs on it, and to move it. What a motor gives falls with its speed. Only
 * figures whose parts weigh something are asked, and only servos whose cards give a torque.
 */
export function figureWeights(
  project: Project,
  score: Score,
  motors: readonly Motor[],
  asked: ReadonlyMap<number, Float32Array>,
  length: number,
): Finding[] {
  if (project.figures.every(({ parts }) => parts.every(({ massG }) => massG === 0))) return [];
  const assembly = assembleBench(project);
  const borne = motors.flatMap((motor, joint) => {
    const part = assembly.movers.indexOf(joint);
    const canNmm = stallTorqueNmm(motor.card, null);
    const useShare = assembly.figureOf[part]?.useShare;
    return part < 0 || canNmm === null || useShare === undefined || motor.joint.axis.kind !== "angle"
      ? []
      : [{ joint, motor, canNmm, useShare, heavy: [] as Heavy[] }];
  });
  if (borne.length === 0) return [];
  const weights = new Weights(project, assembly);
  const homes = motors.map(({ map }) => map.homeTarget);
  const [before, now, after] = [homes, homes, homes].map((targets) => Float64Array.from(targets)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const { playedAt = 1 } = motors[0] ?? {};
  const stepS = stepMs / 1000 / playedAt;
  for (let at = 0; at < length; at += every) {
    let hasMoved = at === 0;
    for (const [joint, targets] of asked) {
      const next = targets[at] as number;
      if (next !== now[joint] || next !== after[joint]) hasMoved = true;
      before[joint] = targets[Math.max(0, at - 1)] as number;
      now[joint] = next;
      after[joint] = targets[Math.min(targets.length - 1, at + 1)] as number;
    }
    if (!hasMoved) continue;
    const torques = weights.moving(before, now, after, stepS);
    for (const { joint, motor, canNmm, useShare, heavy } of borne) {
      const needNmm = Math.abs(torques[joint] as number);
      const degPerS = ((after[joint] as number) - (before[joint] as number)) / (2 * stepS);
      const mayNmm = canNmm * useShare * torqueLeft(motor.card, degPerS);
      // Near its full speed a motor has nothing left, and the speed is said elsewhere.
      if (!(needNmm > mayNmm * 1.01) || needNmm < canNmm * 0.05) continue;
      const last = heavy.at(-1);
      if (last && at - last.to <= 2 * every) {
        last.to = at;
        if (needNmm / mayNmm > last.needNmm / last.mayNmm) Object.assign(last, { worst: at, needNmm, mayNmm });
      } else if (heavy.length < mostOfAKind) heavy.push({ from: at, to: at, worst: at, needNmm, mayNmm });
    }
  }
  return borne.flatMap(({ joint, motor, canNmm, useShare, heavy }) =>
    heavy.map(({ from, to, worst, needNmm, mayNmm }): Finding => {
      for (const [place, targets] of asked) now[place] = targets[worst] as number;
      const heldNmm = Math.abs(weights.holding(now)[joint] as number);
      const kgCm = (nmm: number) => (nmm / nmmPerKgCm).toFixed(1);
      const span = stepUnder(score, worst * stepMs);
      const isHeld = heldNmm > canNmm * useShare;
      const mends: Mend[] = [];
      if (span?.step.kind === "move" && span.step.pace.kind === "time" && !isHeld) {
        const longer = timesAsLong(needNmm, heldNmm, canNmm * useShare, mayNmm);
        if (longer !== null)
          mends.push({
            kind: "moveMs",
            stepId: span.step.id,
            moveMs: Math.ceil((span.step.pace.moveMs * longer) / 10) * 10,
          });
      }
      return {
        kind: "torque",
        jointId: motor.joint.id,
        stepId: span?.step.id ?? null,
        fromMs: from * stepMs,
        toMs: (to + every) * stepMs,
        asked: needNmm / nmmPerKgCm,
        possible: mayNmm / nmmPerKgCm,
        sentence: `${motor.joint.label} needs ${kgCm(needNmm)} kg·cm to ${isHeld ? "hold" : "move"} what hangs on it; ${
          needNmm > canNmm
            ? `its servo can give ${kgCm(canNmm)}`
            : `it may use ${kgCm(mayNmm)} of the ${kgCm(canNmm)} that its servo can`
        }.`,
        mends,
      };
    }),
  );
}

/**
 * How many times as long a move has to take, so that what motion adds (which goes with the square of its haste) and what speed takes from the motor (which goes
 * with it) leave enough; null where no time does.
 */
function timesAsLong(needNmm: number, heldNmm: number, restMayNmm: number, mayNmm: number): number | null {
  for (let times = 1.05; times < 8; times *= 1.05) {
    const need = Math.abs(heldNmm + (needNmm - heldNmm) / times ** 2);
    if (need < 0.97 * (restMayNmm - (restMayNmm - mayNmm) / times)) return times;
  }
  return null;
}
