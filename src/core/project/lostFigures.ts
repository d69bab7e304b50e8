import type { Body, Drive, Figure, Motion, Part } from "./figure";
import type { Project } from "./project";
import { tipOf } from "./tips";

/**
 * The same with figures that let go of what is not on the bench any more: a part whose joint is gone stands still, a figure goes with its rig, and what named
 * a lost part goes with that.
 */
export function withoutLostFigures(project: Project): Project {
  if (project.figures.length === 0 && project.things.length === 0) return withoutLostTipLeads(project);
  const joints = new Set(project.joints.map(({ id }) => id));
  const rigs = new Set(project.rigs.map(({ id }) => id));
  const meshes = new Set(project.meshes.map(({ id }) => id));
  const hasMesh = ({ shape }: Pick<Body, "shape">) => shape.kind !== "mesh" || meshes.has(shape.meshId);
  const figures = keep(
    project.figures.filter(({ rigId }) => rigs.has(rigId)),
    project.figures,
    (figure) => heldTogether(figure, joints, hasMesh),
  );
  const things = project.things.every(hasMesh) ? project.things : project.things.filter(hasMesh);
  if (figures === project.figures && things === project.things) return withoutLostTipLeads(project);
  return withoutLostTipLeads({ ...project, figures, things });
}

/** A lead to a tip goes with the tip. */
function withoutLostTipLeads(project: Project): Project {
  if (project.leads.every(({ target }) => target.kind !== "tip")) return project;
  const leads = project.leads.filter(({ target }) => target.kind !== "tip" || tipOf(project, target.tipId));
  return leads.length === project.leads.length ? project : { ...project, leads };
}

/** A list with each item changed; the old list itself where nothing is new. */
function keep<Item>(items: readonly Item[], old: readonly Item[], change: (item: Item) => Item): readonly Item[] {
  const changed = items.map(change);
  return changed.length === old.length && changed.every((item, at) => item === old[at]) ? old : changed;
}

function heldTogether(figure: Figure, joints: ReadonlySet<string>, hasMesh: (body: Body) => boolean): Figure {
  const ids = new Set(figure.parts.map(({ id }) => id));
  const parts = keep(figure.parts, figure.parts, (part) => heldPart(part, ids, joints, hasMesh));
  const tips = keep(
    figure.tips.filter(({ partId }) => ids.has(partId)),
    figure.tips,
    (tip) => tip,
  );
  const springs = keep(
    figure.springs.filter((one) => ids.has(one.fromPartId) && ids.has(one.toPartId)),
    figure.springs,
    (spring) => spring,
  );
  const mayTouch = keep(
    figure.mayTouch.filter((pair) => pair.every((id) => ids.has(id))),
    figure.mayTouch,
    (pair) => pair,
  );
  const isSame =
    parts === figure.parts && tips === figure.tips && springs === figure.springs && mayTouch === figure.mayTouch;
  return isSame ? figure : { ...figure, parts, tips, springs, mayTouch };
}

function heldPart(
  part: Part,
  ids: ReadonlySet<string>,
  joints: ReadonlySet<string>,
  hasMesh: (body: Body) => boolean,
): Part {
  const motion = heldMotion(part.motion, ids, joints);
  const bodies = part.bodies.every(hasMesh) ? part.bodies : part.bodies.filter(hasMesh);
  const parentId = part.parentId !== null && !ids.has(part.parentId) ? null : part.parentId;
  const isSame = motion === part.motion && bodies === part.bodies && parentId === part.parentId;
  return isSame ? part : { ...part, motion, bodies, parentId };
}

const still: Drive = { kind: "joint", jointId: null, ratio: 1, offset: 0 };

function heldMotion(motion: Motion, ids: ReadonlySet<string>, joints: ReadonlySet<string>): Motion {
  if (motion.kind === "fixed") return motion;
  const { by } = motion;
  if (by.kind === "joint")
    return by.jointId === null || joints.has(by.jointId) ? motion : { ...motion, by: { ...by, jointId: null } };
  return ids.has(by.partId) ? motion : { ...motion, by: still };
}

/** The same without surfaces that no body is made of any more. */
export function withoutUnusedMeshes(project: Project): Project {
  if (project.meshes.length === 0) return project;
  const shapes = [
    ...project.figures.flatMap(({ parts }) => parts.flatMap(({ bodies }) => bodies.map(({ shape }) => shape))),
    ...project.things.map(({ shape }) => shape),
  ];
  const used = new Set(shapes.flatMap((shape) => (shape.kind === "mesh" ? [shape.meshId] : [])));
  const meshes = project.meshes.filter(({ id }) => used.has(id));
  return meshes.length === project.meshes.length ? project : { ...project, meshes };
}
