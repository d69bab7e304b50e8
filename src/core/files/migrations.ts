import { noAlarms, usualControl } from "@core/project";

/**
 * How a project of version n becomes one of version n + 1; the entry at place 0 takes version 1.
 * A migration gets unchecked data and must not throw: what it cannot make sense of it hands on, to be refused.
 */
export const migrations: readonly ((project: unknown) => unknown)[] = [toCardFile, toScores, toFamilies];

type Loose = Record<string, unknown>;
const isLoose = (value: unknown): value is Loose =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** Changes each object in a list; anything else stays as it is. */
const eachIn = (list: unknown, change: (item: Loose) => Loose): unknown =>
  Array.isArray(list) ? list.map((item) => (isLoose(item) ? change(item) : item)) : list;

/**
 * 1 → 2: cards tell how they stand, what they draw, how they can be read, and keep their checks; spin calibrations may hold measured
 * speeds; simulated servos have play, a sensor and currents; sources may be of many kinds, leads lead to more than joints, and joints say who
 * may have them. What nobody has measured yet is empty, not made up.
 */
function toCardFile(project: unknown): unknown {
  if (!isLoose(project)) return project;
  const smart = new Set<unknown>();
  eachIn(project.cards, (card) => {
    if (card.kind === "smart") smart.add(card.id);
    return card;
  });
  return {
    ...project,
    cards: eachIn(project.cards, (card) => ({
      ...card,
      rating: isLoose(card.rating) ? { ...card.rating, supplyVolts: null } : card.rating,
      currents: { idleMa: null, movingMa: null, highestMa: null },
      standing: "inUse",
      checkEveryDays: null,
      checks: [],
      calibrations: eachIn(card.calibrations, (made) =>
        made.kind === "spin" ? { ...made, rest: null, speeds: [], creepDegPerS: null } : made,
      ),
      ...(card.kind === "positional" && { feedback: null }),
      ...(card.kind === "smart" && { feedback: { unit: "ticks", points: [] } }),
    })),
    joints: eachIn(project.joints, (joint) => ({
      ...joint,
      control: usualControl,
      axis: isLoose(joint.axis) && joint.axis.kind === "spin" ? { ...joint.axis, atRest: "neutral" } : joint.axis,
    })),
    sources: eachIn(project.sources, ({ kind, ...source }) => ({
      ...source,
      device: { kind },
      isMuted: false,
      ifLost: { kind: "hold" },
    })),
    leads: eachIn(project.leads, ({ jointId, ...lead }) => ({
      ...lead,
      target: { kind: "joint", jointId },
      isMuted: false,
    })),
    simulated: eachIn(project.simulated, (truth) =>
      truth.kind === "positional" ? { ...truth, ...sensedTruth(truth, smart.has(truth.cardId)) } : truth,
    ),
  };
}

/** A tight servo with usual currents; a smart one's encoder agrees with its own ticks. */
function sensedTruth(truth: Loose, isSmart: boolean): Loose {
  const { centre, midDeg, perDeg } = truth;
  const isKnown = typeof centre === "number" && typeof midDeg === "number" && typeof perDeg === "number";
  return {
    backlashDeg: 0,
    feedback: isSmart && isKnown ? { atZeroDeg: centre - midDeg * perDeg, perDeg, noise: 0.4 } : null,
    idleMa: 10,
    movingMa: 200,
    stallMa: 800,
  };
}

/**
 * 2 → 3: poses stand under headings; routines are scores with lanes, clips and ends; a loop is a repeat without end; rigs know left and right.
 */
function toScores(project: unknown): unknown {
  if (!isLoose(project)) return project;
  return {
    ...project,
    takes: [],
    conditions: [],
    supplies: [],
    cards: eachIn(project.cards, (card) => ({
      ...card,
      rating: isLoose(card.rating) ? { ...card.rating, accelDegPerS2: null } : card.rating,
    })),
    rigs: eachIn(project.rigs, (rig) => ({ ...rig, mirror: [] })),
    poses: eachIn(project.poses, (pose) => ({ ...pose, group: "" })),
    routines: eachIn(project.routines, ({ loop, ...routine }) => ({
      ...routine,
      steps: eachIn(routine.steps, ({ moveMs, easing, ...step }) => ({
        ...step,
        pace: { kind: "time", moveMs },
        easing: { kind: easing === "soft" ? "leastJerk" : easing },
        staggerMs: 0,
        delaysMs: {},
      })),
      lanes: [],
      clips: [],
      repeat: loop === true ? { kind: "forever" } : { kind: "times", times: 1 },
      isThereAndBack: false,
      atEnd: "hold",
      timetable: null,
      notes: "",
    })),
  };
}

/**
 * 3 → 4: smart servos belong to a family and have alarm limits, buses have a speed. Which family it is was never said: the number of ticks
 * tells the two that every bench knows apart.
 */
function toFamilies(project: unknown): unknown {
  if (!isLoose(project)) return project;
  return {
    ...project,
    layouts: [],
    simulatedDevices: [],
    cards: eachIn(project.cards, (card) => {
      if (card.kind !== "smart") return card;
      const highest = isLoose(card.nominal) ? card.nominal.high : 0;
      return { ...card, layoutId: highest === 1024 ? "kestrel" : "heron", alarms: noAlarms };
    }),
    boards: eachIn(project.boards, (board) =>
      isLoose(board.encoding) && board.encoding.kind === "bus"
        ? { ...board, encoding: { ...board.encoding, bitsPerS: 115_200 } }
        : board,
    ),
  };
}
