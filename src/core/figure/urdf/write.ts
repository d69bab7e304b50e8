import type { Body, Figure, Joint, Part, Place, Project, ServoCard } from "@core/project";
import { facetsOf, type MeshOf, type Shape, surfaceOf } from "@core/shapes";
import { stlOf } from "../mesh/readMesh";
import { inertiaOf, stallTorqueNmm } from "../weight";
import { radians, shifted } from "./units";
import { escaped } from "./xml";

/** A figure as a URDF file, and the surfaces that it names, as STL files in m. */
export interface UrdfFiles {
  readonly text: string;
  readonly meshes: readonly { readonly name: string; readonly bytes: Uint8Array }[];
}

/** What stands in our own attributes: what URDF has no words for, so that the figure comes back as it was. */
export const ownNamespace = "urn:vantel:figure";

const meters = (values: readonly number[]): string => values.map((value) => shifted(value, -3)).join(" ");

/**
 * Writes a figure as URDF: links with mass and inertia, joints with axes and limits, mimics, boxes, cylinders and spheres; cones and plates as surfaces. A part that
 * follows through a linkage is written as a mimic with the slope at home, which is all that URDF can say of it; our own attributes say the rest.
 */
export function urdfOf(project: Pick<Project, "joints" | "cards" | "meshes">, figure: Figure): UrdfFiles {
  const meshOf: MeshOf = (id) => project.meshes.find((mesh) => mesh.id === id);
  const meshes: { name: string; bytes: Uint8Array }[] = [];
  const names = uniqueNames(figure.parts, (part) => part.label, ["table"]);
  const jointNames = jointNamesOf(figure, project.joints);
  const leads = new Map<string, Part>();
  for (const part of figure.parts)
    if (
      part.motion.kind !== "fixed" &&
      part.motion.by.kind === "joint" &&
      part.motion.by.jointId !== null &&
      !leads.has(part.motion.by.jointId)
    )
      leads.set(part.motion.by.jointId, part);
  const lines: string[] = [
    '<?xml version="1.0"?>',
    `<robot name="${escaped(figure.label)}" xmlns:vantel="${ownNamespace}" vantel:place="${escaped(JSON.stringify(figure.place))}" vantel:useShare="${figure.useShare}">`,
    '  <link name="table"/>',
  ];
  const place = ({ atMm, turnDeg }: Place) => `<origin xyz="${meters(atMm)}" rpy="${turnDeg.map(radians).join(" ")}"/>`;
  const geometry = (body: Body, name: string): string => {
    const { shape } = body;
    if (shape.kind === "box") return `<box size="${meters(shape.sizeMm)}"/>`;
    if (shape.kind === "ball") return `<sphere radius="${shifted(shape.radiusMm, -3)}"/>`;
    if (shape.kind === "rod")
      return `<cylinder radius="${shifted(shape.radiusMm, -3)}" length="${shifted(shape.lengthMm, -3)}"/>`;
    const known = shape.kind === "mesh" ? meshOf(shape.meshId) : undefined;
    const file = known ? `${known.id}.stl` : `${name}.stl`;
    if (meshes.every((mesh) => mesh.name !== file)) meshes.push({ name: file, bytes: surfaceBytes(shape, meshOf) });
    return `<mesh filename="meshes/${escaped(file)}"${shape.kind === "mesh" ? ` scale="${shape.scale.join(" ")}"` : ""}/>`;
  };
  for (const part of figure.parts) {
    const name = names.get(part.id) as string;
    const [xx, xy, xz, , yy, yz, , , zz] = inertiaOf(part, meshOf);
    const inertia = Object.entries({ ixx: xx, ixy: xy, ixz: xz, iyy: yy, iyz: yz, izz: zz }).map(
      ([key, value]) => `${key}="${shifted(value ?? 0, -9)}"`,
    );
    lines.push(
      `  <link name="${escaped(name)}" vantel:id="${escaped(part.id)}" vantel:label="${escaped(part.label)}"${part.inertiaGMm2 ? "" : ' vantel:inertia="bodies"'}>`,
      `    <inertial><origin xyz="${meters(part.centreMm)}"/><mass value="${shifted(part.massG, -3)}"/><inertia ${inertia.join(" ")}/></inertial>`,
    );
    part.bodies.forEach((body, index) => {
      const plain = ["box", "ball", "rod"].includes(body.shape.kind);
      const own = plain ? "" : ` vantel:shape="${escaped(JSON.stringify(body.shape))}"`;
      const shown = `${place(body.place)}<geometry${own}>${geometry(body, `${name}-${index}`.replace(/\W+/g, "-"))}</geometry>`;
      lines.push(
        `    <visual>${shown}<material name="${body.color.slice(1)}"><color rgba="${rgba(body.color)}"/></material></visual>`,
      );
      if (body.isSolid) lines.push(`    <collision>${shown.replace(/ vantel:shape="[^"]*"/, "")}</collision>`);
    });
    lines.push("  </link>");
  }
  for (const part of figure.parts) {
    const parent = part.parentId === null ? "table" : (names.get(part.parentId) ?? "table");
    lines.push(
      ...jointLines(part, parent, names.get(part.id) as string, place(part.place), jointNames, project, leads),
    );
  }
  for (const tip of figure.tips) lines.push(`  <vantel:tip value="${escaped(JSON.stringify(tip))}"/>`);
  for (const spring of figure.springs) lines.push(`  <vantel:spring value="${escaped(JSON.stringify(spring))}"/>`);
  for (const pair of figure.mayTouch) lines.push(`  <vantel:mayTouch value="${escaped(JSON.stringify(pair))}"/>`);
  lines.push("</robot>", "");
  return { text: lines.join("\n"), meshes };
}

function jointLines(
  part: Part,
  parent: string,
  child: string,
  origin: string,
  jointNames: ReadonlyMap<string, string>,
  project: Pick<Project, "joints" | "cards">,
  leads: ReadonlyMap<string, Part>,
): string[] {
  const { motion } = part;
  const name = jointNames.get(part.id) as string;
  const ends = `${origin}<parent link="${escaped(parent)}"/><child link="${escaped(child)}"/>`;
  if (motion.kind === "fixed") return [`  <joint name="${escaped(name)}" type="fixed">${ends}</joint>`];
  const { by } = motion;
  const slides = motion.kind === "slide";
  const joint = by.kind === "joint" ? project.joints.find(({ id }) => id === by.jointId) : undefined;
  const lead = by.kind === "joint" ? (by.jointId === null ? undefined : leads.get(by.jointId)) : undefined;
  const isLed = by.kind !== "joint" || (lead !== undefined && lead.id !== part.id);
  const isEndless = joint?.axis.kind === "spin" && !isLed;
  const type = slides ? "prismatic" : isEndless ? "continuous" : "revolute";
  const way = (value: number) => (slides ? shifted(value, -3) : radians(value));
  const [low, high] = limitsOf(joint, by);
  const card = project.cards.find(({ id }) => id === joint?.cardId);
  const limit = isEndless ? "" : `<limit lower="${way(low)}" upper="${way(high)}" ${strengthOf(card)}/>`;
  const mimic = isLed ? mimicOf(part, jointNames, leads) : "";
  const own = `vantel:by="${escaped(JSON.stringify(by))}"`;
  return [
    `  <joint name="${escaped(name)}" type="${type}" ${own}>${ends}<axis xyz="${motion.axis.join(" ")}"/>${limit}${mimic}</joint>`,
  ];
}

/** The ends of a part's way, by the limits of its joint. */
function limitsOf(
  joint: Joint | undefined,
  by: Extract<Part["motion"], { kind: "turn" }>["by"],
): readonly [number, number] {
  if (by.kind === "joint" && joint?.axis.kind === "angle") {
    const ends = [joint.axis.travel.low, joint.axis.travel.high].map((target) => by.ratio * target + by.offset);
    return [Math.min(...ends), Math.max(...ends)];
  }
  return by.kind === "part" && by.range ? [by.range.low, by.range.high] : [-180, 180];
}

/** Torque in N·m and speed in rad/s, as the card rates them. */
function strengthOf(card: ServoCard | undefined): string {
  const torque = card ? (stallTorqueNmm(card, null) ?? 0) / 1000 : 0;
  const speed = card ? ((60 / card.rating.secPer60Deg) * Math.PI) / 180 : 0;
  return `effort="${Number(torque.toFixed(4))}" velocity="${Number(speed.toFixed(4))}"`;
}

function mimicOf({ motion }: Part, jointNames: ReadonlyMap<string, string>, leads: ReadonlyMap<string, Part>): string {
  if (motion.kind === "fixed") return "";
  const { by } = motion;
  if (by.kind === "joint") {
    const lead = by.jointId === null ? undefined : leads.get(by.jointId);
    if (!lead || lead.motion.kind === "fixed" || lead.motion.by.kind !== "joint" || lead.motion.by.ratio === 0)
      return "";
    const multiplier = by.ratio / lead.motion.by.ratio;
    const offset = by.offset - multiplier * lead.motion.by.offset;
    return `<mimic joint="${escaped(jointNames.get(lead.id) ?? "")}" multiplier="${multiplier}" offset="${radians(offset)}"/>`;
  }
  const multiplier = by.kind === "part" ? by.ratio : 1;
  const offset = by.kind === "part" ? by.offset : 0;
  return `<mimic joint="${escaped(jointNames.get(by.partId) ?? "")}" multiplier="${multiplier}" offset="${radians(offset)}"/>`;
}

/** A joint that moves a part is called as on the bench; others after their part. */
function jointNamesOf(figure: Figure, joints: readonly Joint[]): ReadonlyMap<string, string> {
  const used = new Set<string>();
  return uniqueNames(
    figure.parts,
    ({ label, motion }) => {
      const joint =
        motion.kind !== "fixed" && motion.by.kind === "joint"
          ? joints.find(({ id }) => id === (motion.by as { jointId: string | null }).jointId)
          : undefined;
      if (!joint || used.has(joint.id)) return `${label} joint`;
      used.add(joint.id);
      return joint.label;
    },
    [],
  );
}

function uniqueNames(
  parts: readonly Part[],
  nameOf: (part: Part) => string,
  taken: readonly string[],
): Map<string, string> {
  const used = new Set(taken);
  return new Map(
    parts.map((part) => {
      const wished = nameOf(part);
      let name = wished;
      for (let count = 2; used.has(name); count += 1) name = `${wished} ${count}`;
      used.add(name);
      return [part.id, name];
    }),
  );
}

const rgba = (color: string): string =>
  `${[1, 3, 5].map((at) => Number((Number.parseInt(color.slice(at, at + 2), 16) / 255).toFixed(4))).join(" ")} 1`;

function surfaceBytes(shape: Shape, meshOf: MeshOf): Uint8Array {
  const mesh = shape.kind === "mesh" ? meshOf(shape.meshId) : undefined;
  if (mesh) {
    const { corners, faces } = surfaceOf(mesh);
    return stlOf(corners, faces);
  }
  const { corners, faces } = facetsOf(shape, meshOf);
  return stlOf(
    corners,
    faces.flatMap((face) => face.slice(2).map((_, at) => [face[0], face[at + 1], face[at + 2]] as number[])),
  );
}
