import { fitCurve } from "@core/calibrate";
import { ok, problem, type Result } from "@core/result";
import { othersOf } from "@core/shapers";
import { namedBy, type Step } from "@core/steps";
import { checkFigures } from "./checkFigures";
import type { LeadTarget } from "./lead";
import { flowsOf } from "./leadFlow";
import { withoutLostControls } from "./lostControls";
import { ringOfRuns, withoutLostRuns } from "./lostRuns";
import type { Project } from "./project";
import { ringIn } from "./ring";

/**
 * What the schema alone cannot say: ids are used once, references lead somewhere, and a joint fits its servo.
 * Gives the project back, or a sentence that names the first place that is wrong.
 */
export function checkProject(project: Project): Result<Project> {
  for (const [name, items] of listsWithIds(project)) {
    const seen = new Set<string>();
    for (const [index, item] of items.entries()) {
      if (seen.has(item.id)) return problem(`${name} → ${index}: the id “${item.id}” is used twice.`);
      seen.add(item.id);
    }
  }
  return (
    checkCards(project) ??
    checkJoints(project) ??
    checkPerformance(project) ??
    checkOutside(project) ??
    checkFigures(project) ??
    ok(project)
  );
}

function listsWithIds(project: Project): [string, readonly { readonly id: string }[]][] {
  return [
    ["cards", project.cards],
    ["boards", project.boards],
    ["rigs", project.rigs],
    ["joints", project.joints],
    ["sources", project.sources],
    ["leads", project.leads],
    ["poses", project.poses],
    ["routines", project.routines],
    ["takes", project.takes],
    ["conditions", project.conditions],
    ["supplies", project.supplies],
    ["rails", project.rails],
    ["runs", project.runs],
    ["layouts", project.layouts],
    ["simulatedDevices", project.simulatedDevices],
    ["pads", project.pads],
    ["figures", project.figures],
    ["figures → parts", project.figures.flatMap(({ parts }) => parts)],
    ["figures → tips", project.figures.flatMap(({ tips }) => tips)],
    ["things", project.things],
    ["meshes", project.meshes],
    ...project.pads.map(({ label, controls }): [string, typeof controls] => [`pads → ${label}`, controls]),
  ];
}

function checkCards(project: Project) {
  for (const [index, card] of project.cards.entries()) {
    const wrong = card.calibrations.find((made) => (made.kind === "spin") !== (card.kind === "continuous"));
    if (wrong)
      return problem(
        `cards → ${index} (${card.label}): a ${wrong.kind} calibration does not fit a ${card.kind} servo.`,
      );
    for (const made of card.calibrations) {
      const fit = made.kind === "spin" ? spanOf(made) : fitCurve(made.kind, made.points);
      if (!fit.ok)
        return problem(`cards → ${index} (${card.label}): the calibration of ${made.madeAt}: ${fit.problem}`);
    }
    const { low, high } = card.endStops;
    if (low !== null && high !== null && low >= high)
      return problem(`cards → ${index} (${card.label}): the lower end stop must be below the higher one.`);
    if (card.kind === "continuous") {
      const span = spanOf(card.nominal);
      if (!span.ok) return problem(`cards → ${index} (${card.label}): ${span.problem}`);
    }
  }
  const truths = new Set<string>();
  for (const [index, truth] of project.simulated.entries()) {
    const card = project.cards.find((candidate) => candidate.id === truth.cardId);
    if (!card) return problem(`simulated → ${index}: there is no card “${truth.cardId}”.`);
    if ((truth.kind === "continuous") !== (card.kind === "continuous"))
      return problem(`simulated → ${index}: a ${truth.kind} servo does not fit the card “${card.label}”.`);
    if (truths.has(truth.cardId)) return problem(`simulated → ${index}: “${card.label}” is simulated twice.`);
    truths.add(truth.cardId);
  }
  return null;
}

/** Neutral lies strictly between the two full speeds, or spin would have no meaning on one side. */
function spanOf(spin: { readonly back: number; readonly neutral: number; readonly forward: number }) {
  return (spin.neutral - spin.back) * (spin.forward - spin.neutral) > 0
    ? ok(spin)
    : problem("neutral does not lie between full speed back and full speed forward.");
}

function checkJoints(project: Project) {
  const wired = new Map<string, string>();
  const worn = new Map<string, string>();
  for (const [index, joint] of project.joints.entries()) {
    const where = `joints → ${index} (${joint.label})`;
    const card = project.cards.find((candidate) => candidate.id === joint.cardId);
    const board = project.boards.find((candidate) => candidate.id === joint.boardId);
    if (!card) return problem(`${where}: there is no servo card “${joint.cardId}”.`);
    if (!board) return problem(`${where}: there is no board “${joint.boardId}”.`);
    if (!project.rigs.some((rig) => rig.id === joint.rigId))
      return problem(`${where}: there is no rig “${joint.rigId}”.`);
    if ((joint.axis.kind === "spin") !== (card.kind === "continuous"))
      return problem(`${where}: an axis of the kind “${joint.axis.kind}” does not fit a ${card.kind} servo.`);
    if ((board.encoding.kind === "bus") !== (card.kind === "smart"))
      return problem(`${where}: a ${card.kind} servo cannot be wired to ${board.label}.`);
    if (joint.channel >= board.channels)
      return problem(`${where}: ${board.label} has channels 0 to ${board.channels - 1}, not ${joint.channel}.`);
    const socket = `${joint.boardId}:${joint.channel}`;
    const neighbour = wired.get(socket);
    if (neighbour) return problem(`${where}: channel ${joint.channel} of ${board.label} already has ${neighbour}.`);
    wired.set(socket, joint.label);
    const wearer = worn.get(joint.cardId);
    if (wearer) return problem(`${where}: the servo “${card.label}” is already built into ${wearer}.`);
    worn.set(joint.cardId, joint.label);
  }
  return null;
}

/** What a target names, by id. */
function idsOfTarget(target: LeadTarget): readonly string[] {
  if (target.kind === "joint") return [target.jointId];
  if (target.kind === "blend") return [target.fromPoseId, target.toPoseId];
  if (target.kind === "tip") return [target.tipId];
  const { action } = target;
  return action.kind === "goToPose" ? [action.poseId] : action.kind === "play" ? [action.routineId] : [];
}

function checkPerformance(project: Project) {
  const joints = new Set(project.joints.map((joint) => joint.id));
  const sources = new Set(project.sources.map((source) => source.id));
  const poses = new Set(project.poses.map((pose) => pose.id));
  const routines = new Set(project.routines.map((routine) => routine.id));
  const tips = project.figures.flatMap((figure) => figure.tips.map(({ id }) => id));
  const known = new Set([...joints, ...poses, ...routines, ...tips]);
  for (const [index, lead] of project.leads.entries()) {
    const lost = [lead.sourceId, ...othersOf(lead.shapers)].find((id) => !sources.has(id));
    if (lost !== undefined) return problem(`leads → ${index}: there is no source “${lost}”.`);
    const gone = idsOfTarget(lead.target).find((id) => !known.has(id));
    if (gone !== undefined) return problem(`leads → ${index}: there is no “${gone}” to lead to.`);
    // Whether it fits its target is asked when it is wired; the gate holds back what does not.
    const flows = flowsOf(lead, project.sources);
    if (!flows.ok) return problem(`leads → ${index}: ${flows.problem}`);
  }
  for (const [index, { origin, label }] of project.sources.entries())
    if (origin.kind === "line" && origin.boardId !== null && !project.boards.some((one) => one.id === origin.boardId))
      return problem(`sources → ${index} (${label}): there is no board “${origin.boardId}”.`);
  for (const [index, pose] of project.poses.entries()) {
    const lost = Object.keys(pose.targets).find((id) => !joints.has(id));
    if (lost) return problem(`poses → ${index} (${pose.name}): there is no joint “${lost}”.`);
  }
  return checkRoutines(project) ?? checkRigs(project, joints);
}

function checkRoutines(project: Project) {
  const idsOf = (items: readonly { readonly id: string }[]) => new Set(items.map((item) => item.id));
  const [joints, poses, routines, sources, takes] = [
    project.joints,
    project.poses,
    project.routines,
    project.sources,
    project.takes,
  ].map(idsOf) as [Set<string>, Set<string>, Set<string>, Set<string>, Set<string>];
  const isLost = (step: Step) => {
    const { poseId, routineId, sourceId, jointIds } = namedBy(step);
    const isGone = (ids: ReadonlySet<string>, id: string | undefined) => id !== undefined && !ids.has(id);
    if (isGone(poses, poseId) || isGone(routines, routineId) || isGone(sources, sourceId)) return true;
    return jointIds?.some((id) => !joints.has(id)) ?? false;
  };
  for (const [index, take] of project.takes.entries())
    if (take.jointIds.some((id) => !joints.has(id)))
      return problem(`takes → ${index} (${take.name}): one of its joints is not there.`);
  for (const [index, routine] of project.routines.entries()) {
    const where = `routines → ${index} (${routine.name})`;
    const at = routine.steps.findIndex(isLost);
    if (at >= 0) return problem(`${where} → steps → ${at}: what it names is not there.`);
    const lane = routine.lanes.findIndex(
      (one, place) =>
        !joints.has(one.jointId) || routine.lanes.findIndex((other) => other.jointId === one.jointId) !== place,
    );
    if (lane >= 0) return problem(`${where} → lanes → ${lane}: each lane is of a joint of its own.`);
    const clip = routine.clips.findIndex((one) => !takes.has(one.takeId) || one.fromMs >= one.toMs);
    if (clip >= 0) return problem(`${where} → clips → ${clip}: it needs a take, and a part of it.`);
    if (new Set(routine.steps.map((step) => step.id)).size < routine.steps.length)
      return problem(`${where}: the id of a step is used twice.`);
  }
  return findRing(project);
}

function checkOutside(project: Project) {
  return withoutLostControls(project) === project
    ? null
    : problem("pads: a control, or what others may ask for, names what is not there.");
}

/** A routine that plays itself, straight or through others, would never end. */
function findRing(project: Project) {
  const ring = ringIn(project.routines);
  return (
    ring && problem(`routines: ${ring.map((one) => one.name).join(" plays ")} plays ${ring[0]?.name}, without end.`)
  );
}

function checkRigs(project: Project, joints: ReadonlySet<string>) {
  for (const [index, rig] of project.rigs.entries()) {
    const ids = rig.mirror.flatMap((one) => (one.kind === "pair" ? [one.leftId, one.rightId] : [one.jointId]));
    if (ids.some((id) => !joints.has(id)) || new Set(ids).size < ids.length)
      return problem(`rigs → ${index} (${rig.label}): each joint stands once in what is left and right.`);
  }
  const apart = project.conditions.findIndex((one) => !joints.has(one.while.jointId) || !joints.has(one.stays.jointId));
  if (apart >= 0) return problem(`conditions → ${apart}: one of its joints is not there.`);
  if (withoutLostRuns(project) !== project)
    return problem("runs: one of them begins or ends at something that is not there.");
  return ringOfRuns(project) ? problem("Runs of wire make a ring: something would feed itself.") : null;
}
