import { earlierFamily, layoutOfVersion4, type TickMap } from "@core/bus";
import { noAlarms, servoCable, usualCable, usualControl, usualHandOff, usualOutside } from "@core/project";
import { isRecord } from "./json";

/**
 * How a project of version n becomes one of version n + 1; the entry at place 0 takes version 1.
 * A migration gets unchecked data and must not throw: what it cannot make sense of it hands on, to be refused.
 */
export const migrations: readonly ((project: unknown) => unknown)[] = [
  toCardFile,
  toScores,
  toFamilies,
  toOwnFamilies,
  toOrigins,
  toWires,
  toHandOff,
  toNumbers,
  toPads,
  toFigures,
  toWiring,
];

/**
 * 11 → 12: supplies say what they are, and what feeds what is drawn as runs of wire. Of before it is known which boards' servos a supply fed: it gets a rail, and
 * each of those servos its cable. Its voltage is that of the first servo's rating.
 */
function toWiring(project: unknown): unknown {
  if (!isRecord(project)) return project;
  const { joints, cards } = project;
  const list = (items: unknown): readonly Loose[] => (Array.isArray(items) ? items.filter(isRecord) : []);
  const rails: Loose[] = [];
  const runs: Loose[] = [];
  const supplies = eachIn(project.supplies, ({ boardIds, ...supply }) => {
    const fed = list(joints).filter(({ boardId }) => Array.isArray(boardIds) && boardIds.includes(boardId));
    const rating = list(cards).find(({ id }) => id === fed[0]?.cardId)?.rating;
    const railId = `rail-${rails.length + 1}`;
    rails.push({ id: railId, label: `Rail of ${supply.label}`.slice(0, 80) });
    const run = (from: Loose, to: Loose, cable: Loose) =>
      runs.push({ id: `run-${runs.length + 1}`, from, to, ...cable });
    run({ kind: "supply", id: supply.id }, { kind: "rail", id: railId }, usualCable);
    for (const { id } of fed) run({ kind: "rail", id: railId }, { kind: "joint", id }, servoCable);
    return { ...supply, gives: { kind: "adapter", volts: isRecord(rating) ? rating.atVolts : 5 } };
  });
  return { ...project, supplies, rails, runs, switchOn: [] };
}

/** 10 → 11: a project has figures of its machines, and what stands around them. */
function toFigures(project: unknown): unknown {
  return isRecord(project) ? { ...project, figures: [], things: [], meshes: [] } : project;
}

/** 9 → 10: a project has pads for phones, and says what others may ask of it. */
function toPads(project: unknown): unknown {
  return isRecord(project) ? { ...project, pads: [], outside: usualOutside } : project;
}

/** 8 → 9: code is written in floating point, or in whole numbers; and smart servos are told by packets, with a line that sends them. */
function toNumbers(project: unknown): unknown {
  if (!isRecord(project) || !isRecord(project.handOff) || !isRecord(project.handOff.lines)) return project;
  const { c, python } = project.handOff.lines;
  const sending = (lines: unknown, send: string) => (isRecord(lines) ? { ...lines, send } : lines);
  const lines = { c: sending(c, usualHandOff.lines.c.send), python: sending(python, usualHandOff.lines.python.send) };
  return { ...project, handOff: { ...project.handOff, numbers: "real", lines } };
}

/** 7 → 8: a project says how its code is handed off. */
function toHandOff(project: unknown): unknown {
  return isRecord(project) ? { ...project, handOff: usualHandOff } : project;
}

/** 6 → 7: a board may be on a wire of its own. Those of before were simulated, and stay so. */
function toWires(project: unknown): unknown {
  return project;
}

type Loose = Record<string, unknown>;

/** Changes each object in a list; anything else stays as it is. */
const eachIn = (list: unknown, change: (item: Loose) => Loose): unknown =>
  Array.isArray(list) ? list.map((item) => (isRecord(item) ? change(item) : item)) : list;

/**
 * 1 → 2: cards tell how they stand, what they draw, how they can be read, and keep their checks; spin calibrations may hold measured
 * speeds; simulated servos have play, a sensor and currents; sources may be of many kinds, leads lead to more than joints, and joints say who
 * may have them. What nobody has measured yet is empty, not made up.
 */
function toCardFile(project: unknown): unknown {
  if (!isRecord(project)) return project;
  const smart = new Set<unknown>();
  eachIn(project.cards, (card) => {
    if (card.kind === "smart") smart.add(card.id);
    return card;
  });
  return {
    ...project,
    cards: eachIn(project.cards, (card) => ({
      ...card,
      rating: isRecord(card.rating) ? { ...card.rating, supplyVolts: null } : card.rating,
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
      axis: isRecord(joint.axis) && joint.axis.kind === "spin" ? { ...joint.axis, atRest: "neutral" } : joint.axis,
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
  if (!isRecord(project)) return project;
  return {
    ...project,
    takes: [],
    conditions: [],
    supplies: [],
    cards: eachIn(project.cards, (card) => ({
      ...card,
      rating: isRecord(card.rating) ? { ...card.rating, accelDegPerS2: null } : card.rating,
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
  if (!isRecord(project)) return project;
  return {
    ...project,
    layouts: [],
    simulatedDevices: [],
    cards: eachIn(project.cards, (card) => {
      if (card.kind !== "smart") return card;
      const highest = isRecord(card.nominal) ? card.nominal.high : 0;
      return { ...card, layoutId: highest === 1024 ? "kestrel" : "heron", alarms: noAlarms };
    }),
    boards: eachIn(project.boards, (board) =>
      isRecord(board.encoding) && board.encoding.kind === "bus"
        ? { ...board, encoding: { ...board.encoding, bitsPerS: 115_200 } }
        : board,
    ),
  };
}

/**
 * 4 → 5: the two families that every bench knows count otherwise, so that whatever is told in their ticks is told in the new ones: the same angles as before.
 * Families say whether errors are bits or codes, and which operations are answered only when asked; a bus has no highest tick of its own.
 */
function toOwnFamilies(project: unknown): unknown {
  if (!isRecord(project)) return project;
  const maps = new Map<unknown, TickMap>();
  eachIn(project.cards, (card) => {
    const family = card.kind === "smart" ? earlierFamily(card.layoutId) : null;
    if (family) maps.set(card.id, family.ticks);
    return card;
  });
  return {
    ...project,
    layouts: eachIn(project.layouts, layoutOfVersion4),
    cards: eachIn(project.cards, (card) => {
      const ticks = maps.get(card.id);
      return ticks ? cardInTicks(card, ticks) : card;
    }),
    simulated: eachIn(project.simulated, (truth) => {
      const ticks = maps.get(truth.cardId);
      return ticks ? truthInTicks(truth, ticks) : truth;
    }),
    boards: eachIn(project.boards, (board) => {
      if (!isRecord(board.encoding) || board.encoding.kind !== "bus") return board;
      const { highestTick: _, ...encoding } = board.encoding;
      // The one speed that neither family knows any more has a neighbour that both do.
      return {
        ...board,
        encoding: { ...encoding, bitsPerS: encoding.bitsPerS === 250_000 ? 230_400 : encoding.bitsPerS },
      };
    }),
  };
}

/**
 * 5 → 6: what a source's numbers come from is its origin; a line says on which board's link it arrives, where until now the board's name stood in the
 * source's label.
 */
function toOrigins(project: unknown): unknown {
  if (!isRecord(project)) return project;
  const named: { readonly id: unknown; readonly label: string }[] = [];
  eachIn(project.boards, (board) => {
    if (typeof board.label === "string") named.push({ id: board.id, label: board.label });
    return board;
  });
  return {
    ...project,
    sources: eachIn(project.sources, ({ device, ...source }) => {
      if (!isRecord(device) || device.kind !== "line") return { ...source, origin: device };
      const board = named.find(({ label }) => typeof source.label === "string" && source.label.includes(label));
      return { ...source, origin: { ...device, boardId: board?.id ?? null } };
    }),
  };
}

/** Changes the numbers under these names; what is no number, or is not there, stays. */
function changed(item: unknown, names: readonly string[], change: (value: number) => number): unknown {
  if (!isRecord(item)) return item;
  const numbers = names.flatMap((name) => {
    const value = item[name];
    return typeof value === "number" ? [[name, change(value)] as const] : [];
  });
  return { ...item, ...Object.fromEntries(numbers) };
}

function cardInTicks(card: Loose, { toTick, perTick }: TickMap): Loose {
  const setPoints = ["setPoint", "back", "neutral", "forward"];
  const points = (list: unknown) => eachIn(list, (point) => changed(point, setPoints, toTick) as Loose);
  const { window } = card;
  return {
    ...(changed(card, ["deadband"], (width) => width * perTick) as Loose),
    // Inwards: a window that is a fraction of a tick wider would be no promise.
    window: isRecord(window)
      ? {
          ...window,
          low: typeof window.low === "number" ? Math.ceil(toTick(window.low)) : window.low,
          high: typeof window.high === "number" ? Math.floor(toTick(window.high)) : window.high,
        }
      : window,
    endStops: changed(card.endStops, ["low", "high"], toTick),
    nominal: changed(card.nominal, ["low", "high"], toTick),
    feedback: isRecord(card.feedback)
      ? {
          ...card.feedback,
          points: eachIn(card.feedback.points, (point) => changed(point, ["reading"], toTick) as Loose),
        }
      : card.feedback,
    calibrations: eachIn(card.calibrations, (made) => ({
      ...(changed(made, setPoints, toTick) as Loose),
      ...("points" in made && { points: points(made.points) }),
      ...("speeds" in made && { speeds: points(made.speeds) }),
      ...("rest" in made && { rest: changed(made.rest, ["low", "high"], toTick) }),
    })),
    checks: eachIn(card.checks, (check) => ({ ...check, readings: points(check.readings) })),
  };
}

function truthInTicks(truth: Loose, { toTick, perTick }: TickMap): Loose {
  const widths = ["perDeg", "deadband", "noise", "span"];
  const inTicks = (item: unknown) =>
    changed(
      changed(item, widths, (width) => width * perTick),
      ["centre", "atZeroDeg", "neutral"],
      toTick,
    );
  return { ...(inTicks(truth) as Loose), ...("feedback" in truth && { feedback: inTicks(truth.feedback) }) };
}
