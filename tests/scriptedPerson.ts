import {
  adviseFit,
  beginStopSearch,
  type CheckRead,
  checkSteps,
  fitCurve,
  longestPressMs,
  type MeasuredPoint,
  reportCheck,
  retreatOf,
  type StopSearch,
  stopFineness,
  tellStopSearch,
  toAngleDeg,
  toSetPoint,
} from "../src/core/calibrate";
import type { PositionalTruth } from "../src/core/project";
import { faultlessTruth, SimServo, seededRandom, trueAngleDeg } from "../src/core/sim";

/** How one calibration by a scripted person went. */
export interface Outcome {
  /** How far short of the true stop each search ended, in set points. */
  readonly stopErrors: readonly [number, number];
  readonly deadband: number;
  /** Answers given, and what a plain search in steps of the resolution would have taken. */
  readonly steps: number;
  readonly linearSteps: number;
  readonly longestPressedMs: number;
  /** How far the play that the checking run told is from the true one. */
  readonly playErrorDeg: number;
  readonly meanErrorDeg: number;
  readonly worstErrorDeg: number;
}

/** As the page asks. The card guesses a deadband of 4 µs and 500–2500 µs over 180°, whatever the servo really does. */
const fineness = stopFineness(4, 1, 2000 / 180);
const linearStep = 5;
const stepMs = 10;
/** A turn of less than this is not seen. */
const eyeDeg = 0.3;

/** A servo with a truth of its own: stops, centre, bend, deadband, noise, direction. */
export function randomTruth(seed: number): PositionalTruth {
  const random = seededRandom(seed);
  const between = (low: number, high: number) => low + random() * (high - low);
  return {
    ...faultlessTruth,
    cardId: `servo-${seed}`,
    centre: between(1450, 1550),
    perDeg: between(9, 11.5) * (random() < 0.25 ? -1 : 1),
    bend: between(-0.04, 0.04),
    stopLowDeg: between(3, 25),
    stopHighDeg: between(150, 178),
    deadband: between(1, 5),
    speedDegPerS: between(250, 550),
    noiseDeg: between(0.01, 0.08),
    backlashDeg: between(0, 1),
  };
}

/** Calibrates a servo as a person would through the same search and fits: stops first, then five points. */
export function calibrate(truth: PositionalTruth, seed: number): Outcome {
  const servo = new SimServo(truth, seed);
  const random = seededRandom(seed + 77);
  let pressedMs = 0;
  let longestPressedMs = 0;
  const send = (setPoint: number, forMs: number) => {
    for (let ms = 0; ms < forMs; ms += stepMs) {
      servo.step(stepMs, setPoint);
      pressedMs = servo.isStalled ? pressedMs + stepMs : 0;
      longestPressedMs = Math.max(longestPressedMs, pressedMs);
    }
  };

  /** Where the horn stands, as an eye that looks for a moment sees it: the trembling evens out. */
  const look = () => {
    let sumDeg = 0;
    for (let glance = 0; glance < 10; glance += 1) sumDeg += servo.readDeg();
    return sumDeg / 10;
  };

  let steps = 0;
  const findStop = (way: 1 | -1): number => {
    send(1500, 1000);
    const begun = beginStopSearch({ from: 1500, way, bound: 1500 + way * 1000, coarse: 50, ...fineness });
    if (!begun.ok) throw new Error(begun.problem);
    let search: StopSearch = begun.value;
    while (search.kind !== "found") {
      send(search.stand, 250);
      const before = look();
      send(search.probe, longestPressMs - 250);
      const turnedDeg = Math.abs(look() - before);
      send(retreatOf(search), 300);
      search = tellStopSearch(search, turnedDeg > eyeDeg ? "moved" : "stopped");
      steps += 1;
    }
    return search.safe;
  };
  const high = findStop(1);
  const low = findStop(-1);

  const points = [0.06, 0.28, 0.5, 0.72, 0.94].map((share): MeasuredPoint => {
    const setPoint = low + share * (high - low);
    send(setPoint, 1500);
    const bell = random() + random() + random() - 1.5;
    // Half a degree of reading noise, written down to the half degree.
    return { setPoint, angleDeg: Math.round((servo.readDeg() + bell) * 2) / 2 };
  });
  const fit = fitCurve(adviseFit(points)?.kind ?? "line", points);
  if (!fit.ok) throw new Error(fit.problem);

  // Travel limits five degrees inside the stops, whichever way the servo turns.
  const ends = [toAngleDeg(fit.value, low), toAngleDeg(fit.value, high)];
  const readings = checkSteps(Math.min(...ends) + 5, Math.max(...ends) - 5).map((step): CheckRead => {
    send(toSetPoint(fit.value, step.approachDeg), 800);
    const setPoint = toSetPoint(fit.value, step.targetDeg);
    send(setPoint, 800);
    const bell = random() + random() + random() - 1.5;
    return { setPoint, cameFrom: step.cameFrom, seenDeg: Math.round((servo.readDeg() + bell) * 2) / 2 };
  });
  const { backlashDeg } = reportCheck(fit.value, readings);

  const errors = Array.from({ length: 51 }, (_, at) => {
    const setPoint = low + ((high - low) * at) / 50;
    return Math.abs(toAngleDeg(fit.value, setPoint) - trueAngleDeg(truth, setPoint));
  });
  const stops = stopsOf(truth);
  return {
    stopErrors: [low - stops.low, stops.high - high],
    deadband: truth.deadband,
    steps,
    linearSteps: Math.ceil((stops.high - 1500) / linearStep) + Math.ceil((1500 - stops.low) / linearStep),
    longestPressedMs,
    playErrorDeg: Math.abs((backlashDeg ?? 0) - truth.backlashDeg),
    meanErrorDeg: errors.reduce((sum, error) => sum + error, 0) / errors.length,
    worstErrorDeg: Math.max(...errors),
  };
}

/** The set points at which the horn reaches its stops, within the outer window of 500 to 2500. */
function stopsOf(truth: PositionalTruth): { low: number; high: number } {
  const isFree = (setPoint: number) => {
    const deg = trueAngleDeg(truth, setPoint);
    return deg > truth.stopLowDeg && deg < truth.stopHighDeg;
  };
  let low = 1500;
  let high = 1500;
  while (low > 500 && isFree(low - 0.5)) low -= 0.5;
  while (high < 2500 && isFree(high + 0.5)) high += 0.5;
  return { low, high };
}
