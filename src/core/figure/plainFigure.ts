import {
  type Figure,
  here,
  type Joint,
  type Motion,
  type Part,
  type Place,
  type Project,
  type Rig,
} from "@core/project";
import { type Assembly, assemble } from "./stand";

/** Between one servo and the next of a row. */
const gapMm = 70;

/** A figure that a rig has until somebody makes one: its servos in a row, each with a horn that turns as it does. */
function plainFigure(rig: Rig, joints: readonly Joint[], yMm: number): Figure {
  const own = joints.filter(({ rigId }) => rigId === rig.id);
  return {
    id: `plain-${rig.id}`,
    label: rig.label,
    rigId: rig.id,
    place: { ...here, atMm: [0, yMm, 0] },
    parts: own.flatMap((joint, index) => servoWithHorn(joint, (index - (own.length - 1) / 2) * gapMm)),
    tips: [],
    springs: [],
    mayTouch: [],
    useShare: 0.5,
  };
}

/** What stands on the bench: the figures that were made, and beside them a plain one for each rig that has none. */
export function figuresOnBench(project: Pick<Project, "figures" | "rigs" | "joints">): readonly Figure[] {
  const { figures, rigs, joints } = project;
  let rightMm = figures.length > 0 ? 320 : 0;
  const plain = rigs.flatMap((rig) => {
    const count = joints.filter(({ rigId }) => rigId === rig.id).length;
    if (count === 0 || figures.some(({ rigId }) => rigId === rig.id)) return [];
    const half = (count * gapMm) / 2;
    const figure = plainFigure(rig, joints, rightMm + half);
    rightMm += 2 * half + gapMm;
    return [figure];
  });
  return plain.length > 0 ? [...figures, ...plain] : figures;
}

/** All that stands on the bench, made ready. */
export const assembleBench = (project: Pick<Project, "figures" | "rigs" | "joints">): Assembly =>
  assemble(
    figuresOnBench(project),
    project.joints.map(({ id }) => id),
  );

/** A thing of a row needs ids that fit: those of joints are up to 64 signs long, so they are counted instead. */
function servoWithHorn(joint: Joint, yMm: number): readonly Part[] {
  const place = (x: number, y: number, z: number, turnDeg: Place["turnDeg"] = [0, 0, 0]): Place => ({
    atMm: [x, y, z],
    turnDeg,
  });
  // Seen from the front it turns to the right for larger targets, as the dial does.
  const motion: Motion = {
    kind: "turn",
    axis: [1, 0, 0],
    by: { kind: "joint", jointId: joint.id, ratio: -1, offset: 0 },
  };
  const bare = { parentId: null, massG: 0, centreMm: [0, 0, 0], inertiaGMm2: null } as const;
  return [
    {
      ...bare,
      id: `${joint.id} servo`,
      label: joint.label,
      place: place(0, yMm, 0),
      motion: { kind: "fixed" },
      bodies: [
        { shape: { kind: "box", sizeMm: [40, 40, 6] }, color: "#5c6b68", place: place(0, 0, 3), isSolid: true },
        { shape: { kind: "box", sizeMm: [32, 22, 42] }, color: "#46524f", place: place(0, 0, 27), isSolid: true },
        { shape: { kind: "box", sizeMm: [5, 22, 54] }, color: "#46524f", place: place(7, 0, 29), isSolid: true },
      ],
    },
    {
      ...bare,
      id: `${joint.id} horn`,
      label: `${joint.label}, horn`,
      place: place(20, yMm, 38),
      motion,
      bodies: [
        {
          shape: { kind: "rod", radiusMm: 8, lengthMm: 5 },
          color: "#e9e2c4",
          place: place(0, 0, 0, [0, 90, 0]),
          isSolid: true,
        },
        {
          shape: {
            kind: "plate",
            thickMm: 3,
            outlineMm: [
              [-6, 0],
              [6, 0],
              [3, 30],
              [-3, 30],
            ],
          },
          color: "#d9ae55",
          place: place(2, 0, 0, [90, 0, 90]),
          isSolid: true,
        },
      ],
    },
  ];
}
