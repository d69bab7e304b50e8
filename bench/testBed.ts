import { calibrate, randomTruth } from "../tests/scriptedPerson";

const servos = 200;

/** Servos with random truths, calibrated by a scripted person through the same search and fits as on the page. */
export function testBed(): string[] {
  const outcomes = Array.from({ length: servos }, (_, seed) => calibrate(randomTruth(1000 + seed), seed));
  const mean = (pick: (outcome: (typeof outcomes)[number]) => number) =>
    outcomes.reduce((sum, outcome) => sum + pick(outcome), 0) / servos;
  const worst = (pick: (outcome: (typeof outcomes)[number]) => number) => Math.max(...outcomes.map(pick));
  const stopError = (outcome: (typeof outcomes)[number]) => Math.max(...outcome.stopErrors.map(Math.abs));
  const withinDeadband = outcomes
    .flatMap(({ stopErrors, deadband }) => stopErrors.map((error) => Math.abs(error) <= deadband))
    .filter(Boolean).length;
  return [
    `${servos} servos: angles off by ${mean((one) => one.meanErrorDeg).toFixed(2)}° on average (aim: under 0.5°), ${worst((one) => one.worstErrorDeg).toFixed(2)}° at worst`,
    `stops found within ${mean(stopError).toFixed(1)} µs on average, ${worst(stopError).toFixed(1)} µs at worst; ${withinDeadband} of ${2 * servos} within one deadband of that servo (1 to 5 µs)`,
    `${mean((one) => one.steps).toFixed(1)} answers for both stops, where a plain search in steps of 5 µs takes ${mean((one) => one.linearSteps).toFixed(0)}`,
    `play in the gears told by the checking run within ${mean((one) => one.playErrorDeg).toFixed(2)}° on average`,
    `longest press on a stop ${worst((one) => one.longestPressedMs)} ms (limit 700 ms)`,
  ];
}
