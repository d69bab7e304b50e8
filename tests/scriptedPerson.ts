import {
  adviseFit,
  type Cause,
  type CheckRead,
  type CheckVerdict,
  type Curve,
  checkSteps,
  type FoundStop,
  fitCurve,
  type Grid,
  judgeCheck,
  lineError,
  longestPressMs,
  type MeasuredPoint,
  markStep,
  onGrid,
  retreatOf,
  type StopSearch,
  type StopsAnswer,
  type StopsAsk,
  settleMsOf,
  stopsAfter,
  toAngleDeg,
  toSetPoint,
  windowInside,
  windowMargin,
} from "../src/core/calibrate";
import type { PositionalTruth } from "../src/core/project";
import { faultlessTruth, SimServo, seededRandom, trueAngleDeg } from "../src/core/sim";

/** How one calibration by a scripted person went. */
export interface Outcome {
  /** What each search found, low and high, and the true stops. */
  readonly found: readonly [FoundStop, FoundStop];
  readonly stops: { readonly low: number; readonly high: number };
  /** The hard window that would be saved. */
  readonly window: { readonly low: number; readonly high: number };
  readonly deadband: number;
  /** How far the horn really slipped, in degrees. */
  readonly slippedDeg: number;
  /** Answers given, and what a plain search in steps of the resolution would have taken. */
  readonly steps: number;
  readonly linearSteps: number;
  readonly longestPressedMs: number;
  readonly meanErrorDeg: number;
  readonly worstErrorDeg: number;
}

/** As the page asks. The card guesses a deadband of 4 µs and 500–2500 µs over 180°, whatever the servo really does. */
const guess = { deadband: 4, perDeg: 2000 / 180, coarse: 50 };
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
    deadband: random() < 0.8 ? between(1, 5) : between(5, 16),
    speedDegPerS: random() < 0.8 ? between(250, 550) : between(60, 250),
    stictionDeg: random() < 0.7 ? 0 : between(0, 1.2),
    noiseDeg: between(0.01, 0.08),
    backlashDeg: between(0, 1),
    loadShare: random() < 0.7 ? 0 : between(0, 0.8),
  };
}

/** A servo in the hands of somebody who sends it pulses, looks at its horn, and reads a protractor to half a degree. */
function handsOn(truth: PositionalTruth, seed: number) {
  const servo = new SimServo(truth, seed);
  const random = seededRandom(seed + 77);
  const glanceOff = () => random() + random() + random() - 1.5;
  let pressedMs = 0;
  const hands = {
    longestPressedMs: 0,
    send(setPoint: number, forMs: number) {
      for (let ms = 0; ms < forMs; ms += stepMs) {
        servo.step(stepMs, setPoint);
        pressedMs = servo.isStalled ? pressedMs + stepMs : 0;
        hands.longestPressedMs = Math.max(hands.longestPressedMs, pressedMs);
      }
    },
    /** Where the horn stands, as an eye that looks for a moment sees it: the trembling evens out. */
    look() {
      let sumDeg = 0;
      for (let glance = 0; glance < 10; glance += 1) sumDeg += servo.readDeg();
      return sumDeg / 10;
    },
    /** What is read off a protractor, with an eye's error, written down to the half degree. */
    slippedDeg: () => servo.slippedDeg,
    /** What an eye is off by, about a bell curve. */
    glanceOff,
    read: () => Math.round((servo.readDeg() + 0.6 * glanceOff()) * 2) / 2,
  };
  return hands;
}

/**
 * Calibrates a servo as a person would through the same searches and fits: stops first, then five points. Null for one that was seen not to move,
 * `slipped` for one whose horn was seen beside its mark.
 */
export function calibrate(
  truth: PositionalTruth,
  seed: number,
  grid: Grid = { origin: 0, step: 1 },
): Outcome | "slipped" | null {
  const hands = handsOn(truth, seed);
  const { send, look, read, glanceOff } = hands;
  let steps = 0;
  /** Shows one step, and says whether the horn was seen to turn. */
  const showStep = (search: StopSearch): boolean => {
    const settleMs = settleMsOf(search, guess.perDeg, truth.speedDegPerS);
    send(search.stand, settleMs);
    const before = look();
    send(search.probe, longestPressMs - settleMs);
    const turnedDeg = Math.abs(look() - before);
    send(retreatOf(search), 300);
    steps += 1;
    return turnedDeg > eyeDeg;
  };
  const ask: StopsAsk = { ...guess, grid, centre: onGrid(grid, 1500), window: { low: 500, high: 2500 } };
  const pointsAt = () => {
    const { stand, probe } = markStep(ask);
    send(stand, 1000);
    send(probe, 1000);
    return look() + 0.3 * glanceOff();
  };
  let markDeg = 0;
  const answers: StopsAnswer[] = [];
  let stage = stopsAfter(ask, answers);
  while (stage.kind === "mark" || stage.kind === "search" || stage.kind === "look") {
    if (stage.kind === "mark") {
      markDeg = pointsAt();
      answers.push({ kind: "marked" });
    } else if (stage.kind === "look") answers.push({ kind: "look", isAtMark: Math.abs(pointsAt() - markDeg) < 1 });
    else {
      const seen = showStep(stage.search) ? "moved" : "stopped";
      answers.push({ kind: "step", probe: stage.search.probe, seen });
    }
    stage = stopsAfter(ask, answers);
  }
  if (stage.kind !== "found") return stage.kind === "slipped" ? "slipped" : null;
  const { low, high } = stage;
  const { slippedDeg } = hands;
  const stops = stopsOf(truth, slippedDeg());
  const window = windowInside(low, high, windowMargin(guess.deadband, grid, guess.perDeg), { low: 500, high: 2500 });

  const points = [0.06, 0.28, 0.5, 0.72, 0.94].map((share): MeasuredPoint => {
    const setPoint = onGrid(grid, window.low + share * (window.high - window.low));
    send(setPoint, 1500);
    return { setPoint, angleDeg: read() };
  });
  const fit = fitCurve(adviseFit(points)?.kind ?? "line", points);
  if (!fit.ok) throw new Error(fit.problem);
  const errors = Array.from({ length: 51 }, (_, at) => {
    const setPoint = window.low + ((window.high - window.low) * at) / 50;
    return Math.abs(toAngleDeg(fit.value, setPoint) - trueAngleDeg(truth, setPoint) - slippedDeg());
  });
  return {
    found: [low, high],
    stops,
    window,
    deadband: truth.deadband,
    slippedDeg: slippedDeg(),
    steps,
    linearSteps: Math.ceil((stops.high - 1500) / linearStep) + Math.ceil((1500 - stops.low) / linearStep),
    longestPressedMs: hands.longestPressedMs,
    meanErrorDeg: errors.reduce((sum, error) => sum + error, 0) / errors.length,
    worstErrorDeg: Math.max(...errors),
  };
}

/** What was done to a servo after it had been calibrated, in degrees: how each cause counts at its largest. */
export type Faults = Readonly<Record<Cause, number>>;

/** None, one, two or more causes at random, from what hardly shows to what nobody overlooks. */
export function randomFaults(seed: number): Faults {
  const random = seededRandom(seed);
  const fault = (chance: number, low: number, high: number, isSigned = true) =>
    random() < chance ? (low + random() * (high - low)) * (isSigned && random() < 0.5 ? -1 : 1) : 0;
  return {
    offset: fault(0.45, 0.3, 8),
    slope: fault(0.25, 0.3, 6),
    bend: fault(0.25, 0.3, 5),
    play: fault(0.45, 0.3, 5, false),
  };
}

/** A servo whose curve was true once, checked by a scripted person after these faults came. */
export function checkAfter(faults: Faults, seed: number, count = 5): CheckVerdict {
  const truth: PositionalTruth = {
    ...faultlessTruth,
    perDeg: seed % 3 === 0 ? -10 : 10,
    noiseDeg: 0.05,
    deadband: 1,
    backlashDeg: faults.play,
  };
  const { read, send } = handsOn(truth, seed);
  // The servo itself is straight; what it turns to is asked for through its faults: seen = says + offset + slope·u + bend·P₂(u).
  const spanDeg = 75;
  const faulty = (deg: number) => {
    const u = (deg - 90) / spanDeg;
    return deg + faults.offset + faults.slope * u + (faults.bend * (3 * u * u - 1)) / 2;
  };
  const trueCurve: Curve = { kind: "line", slopePerDeg: truth.perDeg, intercept: 1500 - truth.perDeg * 90 };
  const goTo = (deg: number) => send(toSetPoint(trueCurve, faulty(deg)), 1200);
  const readings = checkSteps(15 - 9, 165 + 9, count).map((step): CheckRead => {
    goTo(step.approachDeg);
    goTo(step.targetDeg);
    return { setPoint: toSetPoint(trueCurve, step.targetDeg), cameFrom: step.cameFrom, seenDeg: read() };
  });
  return judgeCheck(trueCurve, readings, [], 25);
}

/** Whether a verdict named what was there. A fault that nobody would notice, under 1.5°, may be named or not. */
export function scoreOf({ causes, mend, diagnosis }: CheckVerdict, faults: Faults): "right" | "undecided" | "wrong" {
  const all = ["offset", "slope", "bend", "play"] as const;
  const isBad = (cause: Cause) =>
    causes.includes(cause)
      ? faults[cause] === 0
      : Math.abs(faults[cause]) >= 1.5 && diagnosis?.shares[cause]?.verdict === "not";
  if (mend.kind === "again") return "wrong";
  if (all.some(isBad)) return "wrong";
  const isRight = (cause: Cause) => causes.includes(cause) || Math.abs(faults[cause]) < 1.5;
  return mend.kind !== "more" && all.every(isRight) ? "right" : "undecided";
}

/** Five points read off a straight servo of known slope and intercept: whether each lies within its stated ±. */
export function lineWithin(seed: number): { readonly slope: boolean; readonly intercept: boolean } | null {
  const random = seededRandom(seed);
  const truth: PositionalTruth = {
    ...faultlessTruth,
    perDeg: (9 + 2.5 * random()) * (random() < 0.25 ? -1 : 1),
    centre: 1450 + 100 * random(),
    noiseDeg: 0.05,
  };
  const { read, send } = handsOn(truth, seed);
  const points = Array.from({ length: 3 + Math.floor(random() * 6) }, (): MeasuredPoint => {
    const setPoint = 800 + Math.round(1400 * random());
    send(setPoint, 1500);
    return { setPoint, angleDeg: read() };
  });
  const fit = fitCurve("line", points);
  const error = lineError(points);
  if (!fit.ok || !error) return null;
  const { slopePerDeg, intercept } = fit.value;
  return {
    slope: Math.abs(slopePerDeg - truth.perDeg) <= error.slopePerDeg,
    intercept: Math.abs(intercept - (truth.centre - truth.perDeg * 90)) <= error.intercept,
  };
}

/** The set points at which the horn reaches its stops, within the outer window of 500 to 2500. */
function stopsOf(truth: PositionalTruth, slippedDeg: number): { low: number; high: number } {
  const isFree = (setPoint: number) => {
    const deg = trueAngleDeg(truth, setPoint) + slippedDeg;
    return deg > truth.stopLowDeg && deg < truth.stopHighDeg;
  };
  let low = 1500;
  let high = 1500;
  while (low > 500 && isFree(low - 0.5)) low -= 0.5;
  while (high < 2500 && isFree(high + 0.5)) high += 0.5;
  return { low, high };
}
