import type { Curve } from "@core/calibrate";
import { encodingNames, encodingWorking, type Rounding, timerTop } from "@core/encodings";
import { gateLimits, heldBack, passGate } from "@core/gate";
import { type Board, byId, frameHzOf, type Joint, type Project, type Range, type TakeLibrary } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { jointMapOf } from "@core/rig";
import { curveOf, ratedSpeedDegPerS, spinCurveOf } from "@core/servo";
import { signalMakerOf } from "@core/signal";
import { type MachineLead, type MachineSource, machineLeads } from "./leads/machineLeads";
import { namesFor } from "./names";
import { type MachineFamily, machineFamilies } from "./packets/families";
import { type MachineRoutine, machineRoutine } from "./routines";

/** What stands for no signal where a count is given: no board has such a count. */
export const noCount = -(2 ** 31);

/** A joint as code needs it, every number worked out. Targets in degrees, or spin −1…+1; set points in µs, or ticks. */
export interface MachineJoint {
  readonly id: string;
  readonly label: string;
  readonly name: string;
  readonly unit: "°" | "spin";
  readonly setPointUnit: "µs" | "ticks";
  readonly servo: string;
  readonly board: string;
  /** Its board's place among those of the joints that are taken. */
  readonly boardAt: number;
  readonly channel: number;
  readonly direction: 1 | -1;
  /** The servo's own angle at a target of 0; 0 for one that spins. */
  readonly zeroDeg: number;
  readonly low: number;
  readonly high: number;
  readonly home: number;
  /** Targets per second; null where nothing limits it. */
  readonly fastestPerS: number | null;
  /** How fast its servo can turn by its card; null for one that spins: no bound is known. */
  readonly ratedPerS: number | null;
  /** From the servo's angle, or its spin, to the set point: straight, or through knots. */
  readonly curve: Curve;
  /** The hard window. */
  readonly window: Range;
  /** `set point = offset + gain × count`. */
  readonly counts: {
    readonly name: string;
    readonly offset: number;
    readonly gain: number;
    readonly lowest: number;
    readonly highest: number;
    readonly rounding: Rounding;
    /** What a person types for one count. */
    readonly perCount: number;
  };
  readonly periodUs: number;
  /** So long it goes over softly when somebody else takes it. */
  readonly blendMs: number;
  /** At a spin of 0 it gets no signal. */
  readonly isLimpAtRest: boolean;
  /** The count that the bench itself sends for a target, kept within travel and window; `noCount` for none. */
  readonly countOf: (target: number) => number;
}

export interface MachinePose {
  readonly id: string;
  readonly label: string;
  readonly name: string;
  /** What it asks of each joint, in the order of the joints; null where it says nothing. */
  readonly targets: readonly (number | null)[];
}

/** How a board makes the signals of its channels, worked out for a pulse of 1500 µs; of a bus, how fast it runs. */
export interface MachineBoard {
  readonly label: string;
  readonly kind: string;
  readonly isBus: boolean;
  readonly working: readonly string[];
}

/** All that is handed off, free of any language. */
export interface Machine {
  readonly label: string;
  readonly name: string;
  readonly boards: readonly MachineBoard[];
  readonly joints: readonly MachineJoint[];
  /** Of its smart servos. */
  readonly families: readonly MachineFamily[];
  readonly poses: readonly MachinePose[];
  readonly routines: readonly MachineRoutine[];
  /** What leads to joints and actions, and what feeds that. */
  readonly sources: readonly MachineSource[];
  readonly leads: readonly MachineLead[];
  /** So often a frame leaves, in whole ms: as the quickest of its boards makes one. */
  readonly frameMs: number;
}

/** What is handed off, by ids. A routine brings its poses and joints along; of a pose, what it says of the joints that are taken. */
export interface Choice {
  readonly jointIds: readonly string[];
  readonly poseIds: readonly string[];
  readonly routineIds: readonly string[];
  readonly leadIds?: readonly string[];
}

/** Works out what code needs of a choice. Fails in words, by name, where something cannot be taken along. */
export function machineOf(project: Project, choice: Choice, takes: TakeLibrary): Result<Machine> {
  const chosenRoutines = project.routines.filter(({ id }) => choice.routineIds.includes(id));
  const drafts: { draft: MachineRoutine; joints: readonly string[]; poses: readonly string[] }[] = [];
  for (const routine of chosenRoutines) {
    const made = machineRoutine(project, routine, takes);
    if (!made.ok) return made;
    drafts.push(made.value);
  }
  const poseIds = new Set([...choice.poseIds, ...drafts.flatMap(({ poses }) => poses)]);
  const chosenPoses = project.poses.filter(({ id }) => poseIds.has(id));
  const jointIds = new Set([...choice.jointIds, ...drafts.flatMap(({ joints }) => joints)]);
  const chosen = project.joints.filter(({ id }) => jointIds.has(id));
  if (chosen.length === 0) return problem("Choose at least one joint: code without one does nothing.");
  const families = machineFamilies(project, chosen);
  if (!families.ok) return families;
  const names = namesFor(
    chosen.map(({ label }) => label),
    "joint",
  );
  const boardIds = [...new Set(chosen.map(({ boardId }) => boardId))];
  const joints = chosen.map((joint, at) =>
    machineJoint(project, joint, names[at] as string, boardIds.indexOf(joint.boardId)),
  );
  const poseNames = namesFor(
    chosenPoses.map(({ name }) => name),
    "pose",
  );
  const poses = chosenPoses.map(({ id, name, targets }, at) => ({
    id,
    label: name,
    name: poseNames[at] as string,
    targets: chosen.map((joint) => targets[joint.id] ?? null),
  }));
  const routineNames = namesFor(
    chosenRoutines.map(({ name }) => name),
    "routine",
  );
  const places = new Map(chosen.map(({ id }, at) => [id, at]));
  const posePlaces = new Map(poses.map(({ id }, at) => [id, at]));
  const routines = drafts.map(({ draft }, at) =>
    placed({ ...draft, name: routineNames[at] as string }, places, posePlaces),
  );
  const boards = boardIds.map((id) =>
    machineBoard(
      byId(project.boards, id),
      chosen.find(({ boardId }) => boardId === id),
    ),
  );
  const frameMs = Math.max(1, Math.min(...joints.map(({ periodUs }) => Math.round(periodUs / 1000))));
  const leadIds = new Set(choice.leadIds ?? []);
  const led = machineLeads(
    project,
    project.leads.filter(({ id }) => leadIds.has(id)),
    { joints: chosen, poses: chosenPoses, routines: chosenRoutines },
  );
  if (!led.ok) return led;
  return ok({
    ...led.value,
    label: project.name,
    name: namesFor([project.name], "rig")[0] ?? "rig",
    boards,
    joints,
    families: families.value,
    poses,
    routines,
    frameMs,
  });
}

/** A routine with its joints and poses named by their places. */
function placed(
  routine: MachineRoutine,
  joints: ReadonlyMap<string, number>,
  poses: ReadonlyMap<string, number>,
): MachineRoutine {
  return {
    ...routine,
    tracks: routine.tracks.map((track) => ({ ...track, joint: joints.get(track.jointId) ?? -1 })),
    steps: routine.steps.map((step) => (step.kind === "move" ? { ...step, pose: poses.get(step.poseId) ?? -1 } : step)),
  };
}

function machineBoard(board: Board, joint: Joint | undefined): MachineBoard {
  const channel = joint?.channel ?? 0;
  const { periodUs } = signalMakerOf(board, channel);
  if (board.encoding.kind === "bus")
    return {
      label: board.label,
      kind: encodingNames.bus,
      isBus: true,
      working: [`${board.encoding.bitsPerS} bit/s; its channels are the ids of the servos`],
    };
  const asked = { askedHz: frameHzOf(board, channel), periodUs, setPoint: 1500 };
  return {
    label: board.label,
    kind: encodingNames[board.encoding.kind],
    isBus: false,
    working: [...registersOf(board.encoding, asked.askedHz), ...encodingWorking(board.encoding, asked)],
  };
}

/** What a timer is set up with. */
function registersOf(encoding: Board["encoding"], askedHz: number): readonly string[] {
  if (encoding.kind !== "timer") return [];
  const { prescale, alignment, output } = encoding;
  const counting = alignment === "edge" ? "counting up" : "counting up and down";
  const high =
    output === "normal" ? "the pin is high below the compare value" : "the pin is high above the compare value";
  return [`prescale = ${prescale}, TOP = ${timerTop(encoding, askedHz)}, ${counting}; ${output} output: ${high}`];
}

function machineJoint(project: Project, joint: Joint, name: string, boardAt: number): MachineJoint {
  const card = byId(project.cards, joint.cardId);
  const board = byId(project.boards, joint.boardId);
  const maker = signalMakerOf(board, joint.channel);
  const map = jointMapOf(joint, card);
  const limits = gateLimits(map, maker, card.window);
  return {
    id: joint.id,
    label: joint.label,
    name,
    unit: map.targetUnit,
    setPointUnit: card.kind === "smart" ? "ticks" : "µs",
    servo: card.label,
    board: board.label,
    boardAt,
    channel: joint.channel,
    direction: joint.axis.direction,
    zeroDeg: joint.axis.kind === "angle" ? joint.axis.zeroDeg : 0,
    low: map.lowTarget,
    high: map.highTarget,
    home: map.homeTarget,
    fastestPerS: Number.isFinite(map.fastestPerS) ? map.fastestPerS : null,
    ratedPerS: joint.axis.kind === "spin" ? null : ratedSpeedDegPerS(card),
    curve: card.kind === "continuous" ? knotsOfSpin(spinCurveOf(card).knots) : curveOf(card),
    window: card.window,
    counts: {
      name: maker.countName,
      offset: maker.offset,
      gain: maker.gain,
      lowest: maker.lowestCount,
      highest: maker.highestCount,
      rounding: maker.rounding,
      perCount: maker.perCount,
    },
    periodUs: maker.periodUs,
    blendMs: joint.control.blendMs,
    isLimpAtRest: joint.axis.kind === "spin" && joint.axis.atRest === "release",
    countOf: (target) => {
      const stands = Math.min(Math.max(target, map.lowTarget), map.highTarget);
      const passage = { target: stands, count: Number.NaN, setPoint: Number.NaN, heldBack: heldBack.nothing };
      passGate(limits, stands, 0, passage);
      return Number.isNaN(passage.count) ? noCount : passage.count;
    },
  };
}

/** A spin's curve in the shape of an angle's: code goes through both alike. */
function knotsOfSpin(knots: readonly { readonly spin: number; readonly pulseUs: number }[]): Curve {
  return {
    kind: "piecewise",
    slopePerDeg: 0,
    intercept: 0,
    knots: knots.map(({ spin, pulseUs }) => ({ angleDeg: spin, setPoint: pulseUs })),
  };
}
