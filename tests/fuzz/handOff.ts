import { gateLimits, passGate } from "../../src/core/gate";
import { type Machine, machineOf, noCount, wholeBound } from "../../src/core/handOff";
import { byId, type Project, type TakeData } from "../../src/core/project";
import { jointMapOf } from "../../src/core/rig";
import { signalMakerOf } from "../../src/core/signal";
import {
  benchEvents,
  benchFrames,
  eventLines,
  glideMs,
  type Moved,
  type Numbers,
  runC,
  runPython,
  saidFrames,
} from "./handedOff";
import { eventsFor, ledRig } from "./ledRig";

/** What of a project is looked at: so many frames of each routine, and so many targets of each joint. */
export interface Looks {
  readonly frames: number;
  readonly targets: number;
}

const runners = { c: runC, python: runPython } as const;

/**
 * Holds handed-off code against the bench: every frame of every routine, and targets over each joint's travel and past its ends. The same counts, but where a joint was
 * reduced to keys: there no further off than is said of them. Gives what differs first, or how many numbers were the same.
 */
export function handOffDifference(
  project: Project,
  takes: readonly TakeData[],
  language: keyof typeof runners,
  { frames, targets }: Looks,
  numbers: Numbers = "real",
): string | number {
  const library = new Map(takes.map((take) => [take.id, take]));
  const choiceOf = (ids: readonly string[]) => ({
    jointIds: project.joints.map(({ id }) => id),
    poseIds: [],
    routineIds: ids,
  });
  // A routine that cannot be taken along is refused by name; the others are.
  const taken = project.routines.filter(({ id }) => machineOf(project, choiceOf([id]), library).ok).map(({ id }) => id);
  const made = machineOf(project, choiceOf(taken), library);
  if (!made.ok) return made.problem;
  const machine = made.value;
  // A joint whose keys are those of a later round makes the first one begin elsewhere, and so at another time.
  const playable = machine.routines.flatMap(({ tracks }, at) =>
    tracks.length > 0 && !tracks.some(({ isOfLaterRound }) => isOfLaterRound) ? [at] : [],
  );
  const spans = machine.joints.map(({ low, high }) => [low - 0.2 * (high - low), high + 0.2 * (high - low)] as const);
  const moved: readonly Moved[] = [
    ...playable.map((at) => ({ kind: "routine", at }) as const),
    ...machine.poses.flatMap(({ targets }, at) =>
      targets.some((target) => target !== null) ? [{ kind: "pose", at } as const] : [],
    ),
  ];
  // Long enough for the way to a pose, and for what is slow to come after.
  const poseFrames = Math.ceil(glideMs / machine.frameMs) + 25;
  const framesOf = ({ kind }: Moved) => (kind === "routine" ? frames : poseFrames);
  const said = runners[language](
    machine,
    [
      ...moved.map((one) => `${one.kind === "routine" ? "p" : "g"} ${one.at} ${framesOf(one)}`),
      ...spans.map(([low, high], at) => `c ${at} ${targets} ${low} ${high}`),
    ],
    numbers,
  );
  // In whole numbers the code is off by what it says of itself, which is hardly ever more than one.
  const spare = numbers === "whole" ? wholeBound(machine) : 0;
  let line = 0;
  let same = 0;
  for (const one of moved) {
    const bench = benchFrames(project, takes, machine, one, framesOf(one));
    const made = saidFrames(machine, said.slice(line, line + framesOf(one)));
    line += framesOf(one);
    for (const [frame, counts] of bench.entries())
      for (const [joint, count] of counts.entries()) {
        const reduced = one.kind === "routine" ? roomOf(machine, one.at, joint) : 0;
        const room = reduced + spare;
        // A joint that was reduced to keys was not looked at within a jump: there it may be anywhere between what lies about it.
        const near = reduced === 0 ? [count] : [frame - 1, frame, frame + 1].map((at) => bench[at]?.[joint] ?? count);
        if (reduced > 0 && Math.max(...near) - Math.min(...near) > 3 * room) continue;
        const got = made[frame]?.[joint] ?? Number.NaN;
        // Where a joint that was reduced comes to rest, its signal ends a sample earlier or later.
        if (reduced > 0 && (count === noCount || got === noCount)) continue;
        // A spin too small for whole numbers is none, and a joint that is limp at rest gets no signal then: the bench's is within a count of its rest.
        if (numbers === "whole" && isRest(machine, joint, got, count, spare)) continue;
        if (got < Math.min(...near) - room || got > Math.max(...near) + room || Number.isNaN(got))
          return `${one.kind} ${one.at}, frame ${frame}, ${machine.joints[joint]?.label}: ${got} instead of ${count}`;
        same += 1;
      }
  }
  for (const [at, [low, high]] of spans.entries())
    for (let place = 0; place < targets; place += 1) {
      const target = low + ((high - low) * place) / (targets - 1);
      const count = countOf(project, machine.joints[at]?.id ?? "", target);
      if (Math.abs(Number(said[line]) - count) > spare)
        return `${machine.joints[at]?.label} at ${target}: ${said[line]} instead of ${count}`;
      line += 1;
      same += 1;
    }
  return same;
}

/** Whether one of the two has no signal, and the other that of a joint that rests, which is limp then. */
function isRest({ joints }: Machine, at: number, got: number, count: number, spare: number): boolean {
  const joint = joints[at] as Machine["joints"][number];
  if (!joint.isLimpAtRest || (got === noCount) === (count === noCount)) return false;
  return Math.abs(Math.max(got, count) - joint.countOf(0)) <= spare;
}

/** By how many counts a joint may be off in a routine: none, but for one that was reduced to keys. */
function roomOf({ routines, joints }: Machine, routine: number, joint: number): number {
  const error = routines[routine]?.tracks.find((track) => track.joint === joint)?.error ?? 0;
  const { curve, counts } = joints[joint] as Machine["joints"][number];
  if (error === 0) return 0;
  const knots = curve.kind === "line" ? [] : curve.knots;
  const slopes = knots
    .slice(1)
    .map((knot, at) =>
      Math.abs((knot.setPoint - (knots[at]?.setPoint ?? 0)) / (knot.angleDeg - (knots[at]?.angleDeg ?? 0))),
    );
  const steepest = Math.max(curve.kind === "line" ? Math.abs(curve.slopePerDeg) : 0, ...slopes);
  return Math.ceil((error * steepest) / Math.abs(counts.gain)) + 1;
}

/** The count that the bench's gate gives a joint that stands at a target. */
function countOf(project: Project, jointId: string, target: number): number {
  const joint = byId(project.joints, jointId);
  const card = byId(project.cards, joint.cardId);
  const limits = gateLimits(
    jointMapOf(joint, card),
    signalMakerOf(byId(project.boards, joint.boardId), joint.channel),
    card.window,
  );
  const stands = Math.min(Math.max(target, limits.map.lowTarget), limits.map.highTarget);
  const passage = { target: stands, count: Number.NaN, setPoint: Number.NaN, heldBack: 0 as const };
  passGate(limits, target, 0, passage);
  return Number.isNaN(passage.count) ? noCount : passage.count;
}

/**
 * Holds code with leads against the bench while things happen in any order: knobs, presses, moves by hand, poses, routines, stops and releases. Gives what differs first, or how many numbers were the
 * same.
 */
export function eventDifference(seed: number, language: keyof typeof runners, ticks: number): string | number {
  const { project, takes } = ledRig(seed);
  const library = new Map(takes.map((take) => [take.id, take]));
  const made = machineOf(
    project,
    {
      jointIds: project.joints.map(({ id }) => id),
      poseIds: project.poses.map(({ id }) => id),
      routineIds: project.routines.map(({ id }) => id),
      leadIds: project.leads.map(({ id }) => id),
    },
    library,
  );
  if (!made.ok) return made.problem;
  const events = eventsFor(seed, project, made.value.sources, made.value.joints, ticks);
  const bench = benchEvents(project, takes, made.value, events);
  const said = saidFrames(made.value, runners[language](made.value, [`e 0 ${ticks}`, ...eventLines(events)]));
  let same = 0;
  for (const [tick, counts] of bench.entries())
    for (const [joint, count] of counts.entries()) {
      if (said[tick]?.[joint] !== count)
        return `tick ${tick}, ${made.value.joints[joint]?.label}: ${said[tick]?.[joint]} instead of ${count}`;
      same += 1;
    }
  return same;
}
