import {
  calibrate,
  checkAfter,
  lineWithin,
  type Outcome,
  randomFaults,
  randomTruth,
  scoreOf,
} from "../tests/scriptedPerson";

const servos = 500;
const boards = [0.3, 1, 4.88, 20, 78.125];

/** Servos with random truths and faults, measured by a scripted person through the same searches, fits and checks as on the page. */
export function testBed(): string[] {
  const outcomes = Array.from({ length: servos }, (_, seed) =>
    calibrate(randomTruth(1000 + seed), seed, { origin: 0, step: boards[seed % boards.length] as number }),
  ).filter(isCalibrated);
  const slipping = slips.flatMap((slipDegPerS) =>
    Array.from({ length: servos / slips.length }, (_, seed) =>
      calibrate({ ...randomTruth(3000 + seed), slipDegPerS }, seed, {
        origin: 0,
        step: boards[seed % boards.length] as number,
      }),
    ),
  );
  const unseen = slipping.filter(isCalibrated);
  const mean = (pick: (outcome: Outcome) => number) =>
    outcomes.reduce((sum, outcome) => sum + pick(outcome), 0) / outcomes.length;
  const worst = (pick: (outcome: Outcome) => number) => Math.max(...outcomes.map(pick));
  const stops = outcomes.flatMap(({ found, stops: { low, high } }) =>
    found.map((stop, at) => ({ ...stop, offUs: Math.abs(stop.setPoint - (at === 0 ? low : high)) })),
  );
  const met = stops.filter((stop) => !stop.isFree);
  const beyond = outcomes.filter(isBeyond);
  return [
    `${servos} servos on boards of 0.3 to 78 µs a step: ${met.length} stops met, ${met.filter((stop) => stop.offUs <= stop.plusMinus + 0.5).length} of them within the stated ±; ${beyond.length} windows beyond a true stop`,
    `angles off by ${mean((one) => one.meanErrorDeg).toFixed(2)}° on average (aim: under 0.5°), ${worst((one) => one.worstErrorDeg).toFixed(2)}° at worst`,
    `${mean((one) => one.steps).toFixed(1)} answers for both stops, where a plain search in steps of 5 µs takes ${mean((one) => one.linearSteps).toFixed(0)}`,
    `${slipping.length} servos whose horn slips at 0.5 to 10 °/s while it is pressed: ${slipping.filter((one) => one === "slipped").length} seen beside their mark, ${unseen.length} not (slipped by ${Math.max(...unseen.map((one) => Math.abs(one.slippedDeg))).toFixed(1)}° at most); ${unseen.filter(isBeyond).length} windows beyond a true stop`,
    `longest press on a stop ${worst((one) => one.longestPressedMs)} ms (limit 700 ms)`,
    ...causeTable(),
    ...lineTable(),
  ];
}

const slips = [0.5, 1, 3, 10];
const isCalibrated = (outcome: ReturnType<typeof calibrate>): outcome is Outcome =>
  typeof outcome === "object" && outcome !== null;
const isBeyond = ({ window, stops: { low, high } }: Outcome) => window.low < low - 0.5 || window.high > high + 0.5;

function causeTable(): string[] {
  const causes = ["offset", "slope", "bend", "play"] as const;
  const checks = Array.from({ length: servos }, (_, seed) => {
    const faults = randomFaults(5000 + seed);
    const verdict = checkAfter(faults, seed);
    return { faults, verdict, score: scoreOf(verdict, faults) };
  });
  const share = (count: number, of: number) => `${((100 * count) / of).toFixed(1)} %`;
  const scores = (["right", "undecided", "wrong"] as const).map(
    (score) => `${score} ${share(checks.filter((one) => one.score === score).length, servos)}`,
  );
  const rows = causes.map((cause) => {
    const there = checks.filter(({ faults }) => faults[cause] !== 0);
    const named = there.filter(({ verdict }) => verdict.causes.includes(cause)).length;
    const cleared = checks.filter(
      ({ faults, verdict }) => faults[cause] === 0 && verdict.causes.includes(cause),
    ).length;
    const told = checks.filter(({ verdict }) => verdict.diagnosis?.shares[cause]);
    const within = told.filter(({ faults, verdict }) => {
      const one = verdict.diagnosis?.shares[cause];
      return one && Math.abs(one.deg - faults[cause]) <= one.plusMinusDeg;
    }).length;
    return `${cause}: there in ${there.length}, named in ${named} of them; named in ${cleared} where it is not; within its ± in ${share(within, told.length)}`;
  });
  return [`causes of ${servos} servos with mixed faults: ${scores.join(", ")} (aim: wrong under 2 %)`, ...rows];
}

function lineTable(): string[] {
  const lines = Array.from({ length: 1000 }, (_, seed) => lineWithin(seed)).filter((one) => one !== null);
  const share = (key: "slope" | "intercept") =>
    `${((100 * lines.filter((one) => one[key]).length) / lines.length).toFixed(1)} %`;
  return [
    `a line through 3 to 8 points: slope within its ± in ${share("slope")}, intercept in ${share("intercept")} (aim: 90 to 97)`,
  ];
}
