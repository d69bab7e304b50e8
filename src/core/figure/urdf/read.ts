import {
  type Body,
  type Drive,
  type Figure,
  figureSchema,
  here,
  type Joint,
  type Motion,
  type Part,
  type Place,
  type Rig,
  type Tip,
} from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { type Mesh, type Shape, shapeSchema, type Vector, volumeOf } from "@core/shapes";
import { printedMassG } from "../weight";
import { degrees, unshifted } from "./units";
import { childOf, childrenOf, type Element, readXml } from "./xml";

/** A joint of a file that can be moved, to be matched with one of the bench. */
export interface UrdfJoint {
  readonly name: string;
  readonly kind: "turn" | "slide";
  /** Its limits in degrees or mm; null for one that turns on and on. */
  readonly range: { readonly low: number; readonly high: number } | null;
}

/** A file, looked at; nothing of it is on the bench yet. */
export interface UrdfMachine {
  readonly label: string;
  readonly joints: readonly UrdfJoint[];
  /** Names of the surface files that it needs. */
  readonly meshFiles: readonly string[];
  readonly partCount: number;
  readonly root: Element;
}

const mostLinks = 200;

/** Reads a URDF file as far as to show what is in it. Broken, looped and hostile files are refused with a sentence. */
export function readUrdf(text: string): Result<UrdfMachine> {
  const read = readXml(text);
  if (!read.ok) return read;
  const root = read.value;
  if (root.name !== "robot") return problem(`A URDF file begins with <robot>, this one with <${root.name}>.`);
  const links = childrenOf(root, "link");
  const joints = childrenOf(root, "joint");
  if (links.length === 0) return problem("There is no link in this file.");
  if (links.length > mostLinks)
    return problem(`The file has ${links.length} links; a figure has room for ${mostLinks}.`);
  const names = new Set<string>();
  for (const link of links) {
    const name = link.attributes.name ?? "";
    if (name === "") return problem(`Line ${link.line}: a link needs a name.`);
    if (names.has(name)) return problem(`Line ${link.line}: there are two links called “${name}”.`);
    names.add(name);
  }
  const parents = new Map<string, string>();
  const jointNames = new Set<string>();
  for (const joint of joints) {
    const { name = "", type = "" } = joint.attributes;
    const where = `Line ${joint.line}: the joint “${name}”`;
    if (name === "" || jointNames.has(name)) return problem(`${where} needs a name of its own.`);
    jointNames.add(name);
    if (!["fixed", "revolute", "continuous", "prismatic"].includes(type))
      return problem(`${where} is of the type “${type}”, which no servo can make.`);
    const [parent, child] = ["parent", "child"].map((end) => childOf(joint, end)?.attributes.link ?? "");
    for (const end of [parent, child])
      if (!names.has(end ?? "")) return problem(`${where} names a link “${end}” that is not there.`);
    if (parents.has(child as string)) return problem(`${where}: the link “${child}” hangs on two others.`);
    parents.set(child as string, parent as string);
  }
  for (const name of names) {
    let at: string | undefined = name;
    for (let hops = 0; at !== undefined; hops += 1) {
      if (hops > names.size) return problem(`The link “${name}” hangs on itself: its joints run in a ring.`);
      at = parents.get(at);
    }
  }
  const roots = [...names].filter((name) => !parents.has(name));
  if (roots.length > 1)
    return problem(
      `${roots.length} links hang on nothing: ${roots.slice(0, 3).join(", ")}. A machine has one that stands.`,
    );
  for (const joint of joints) {
    const led = childOf(joint, "mimic")?.attributes.joint;
    if (led !== undefined && !jointNames.has(led))
      return problem(`Line ${joint.line}: it follows a joint “${led}” that is not there.`);
  }
  const files = new Set<string>();
  for (const link of links)
    for (const shown of [...childrenOf(link, "visual"), ...childrenOf(link, "collision")]) {
      const geometry = childOf(shown, "geometry");
      const file = childOf(geometry, "mesh")?.attributes.filename;
      // A cone or a plate of ours needs no file.
      if (file !== undefined && ownShape(geometry)?.kind !== "cone" && ownShape(geometry)?.kind !== "plate")
        files.add(baseName(file));
    }
  const moved = joints.flatMap((joint): UrdfJoint[] => {
    const { name = "", type } = joint.attributes;
    if (type === "fixed" || childOf(joint, "mimic")) return [];
    const limit = childOf(joint, "limit")?.attributes;
    const [low, high] = [limit?.lower, limit?.upper].map((one) => wayOf(one ?? "0", type === "prismatic"));
    const hasRange =
      type !== "continuous" && Number.isFinite(low) && Number.isFinite(high) && (low as number) < (high as number);
    return [
      {
        name,
        kind: type === "prismatic" ? "slide" : "turn",
        range: hasRange ? { low: low as number, high: high as number } : null,
      },
    ];
  });
  return ok({
    label: (root.attributes.name ?? "").trim().slice(0, 80) || "Figure",
    joints: moved,
    meshFiles: [...files],
    partCount: links.length,
    root,
  });
}

export const baseName = (path: string): string => path.split(/[\\/]/).at(-1) ?? path;

const wayOf = (text: string, slides: boolean): number => (slides ? unshifted(text, 3) : degrees(Number(text)));

/**
 * The figure of a file. `matched` says which joint of the bench moves which joint of the file (by the file's name; null for none yet), `meshes` are the surfaces that it needs, by
 * the name of their file: bodies without theirs are left out.
 */
export function figureOfUrdf(
  machine: UrdfMachine,
  rig: Rig,
  matched: Readonly<Record<string, string | null>>,
  meshes: ReadonlyMap<string, Mesh>,
  newId: () => string,
): Result<Figure> {
  const { root } = machine;
  const reader = new Reader(matched, meshes, newId);
  const made = reader.parts(root);
  if (!made.ok) return made;
  const own = (name: string) =>
    childrenOf(root, `vantel:${name}`)
      .map(({ attributes }) => json(attributes.value))
      .filter((value) => value !== undefined);
  const tips = own("tip") as Tip[];
  const figure = {
    id: newId(),
    label: machine.label,
    rigId: rig.id,
    place: json(root.attributes["vantel:place"]) ?? here,
    parts: made.value,
    tips: tips.length > 0 || root.attributes["vantel:place"] !== undefined ? tips : reader.tips(made.value),
    springs: own("spring"),
    mayTouch: own("mayTouch"),
    useShare: Number(root.attributes["vantel:useShare"] ?? 0.5),
  };
  const whole = figureSchema.safeParse(figure);
  if (whole.success) return ok(whole.data);
  const issue = whole.error.issues[0];
  return problem(`Something in the file is no part of a figure: ${issue?.path.join(" → ")}: ${issue?.message}.`);
}

/** What our own attributes hold, as a value; undefined where there is none, or it is broken. */
function json(text: string | undefined): unknown {
  if (text === undefined) return undefined;
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

class Reader {
  readonly #matched: Readonly<Record<string, string | null>>;
  readonly #meshes: ReadonlyMap<string, Mesh>;
  readonly #newId: () => string;
  #trouble: string | null = null;

  constructor(
    matched: Readonly<Record<string, string | null>>,
    meshes: ReadonlyMap<string, Mesh>,
    newId: () => string,
  ) {
    this.#matched = matched;
    this.#meshes = meshes;
    this.#newId = newId;
  }

  parts(root: Element): Result<readonly Part[]> {
    const links = childrenOf(root, "link");
    const jointTo = new Map(
      childrenOf(root, "joint").map((joint) => [childOf(joint, "child")?.attributes.link ?? "", joint] as const),
    );
    const childOfJoint = new Map(
      childrenOf(root, "joint").map(
        (joint) => [joint.attributes.name ?? "", childOf(joint, "child")?.attributes.link ?? ""] as const,
      ),
    );
    const ids = new Map(
      links.map((link) => [link.attributes.name ?? "", (link.attributes["vantel:id"] ?? "") || this.#newId()] as const),
    );
    const top = links.find((link) => !jointTo.has(link.attributes.name ?? ""))?.attributes.name ?? "";
    // A bare link that only stands for the world is the table itself.
    const isBareTop = links.every(
      (link) =>
        link.attributes.name !== top ||
        (childrenOf(link, "visual").length === 0 && childrenOf(link, "collision").length === 0),
    );
    const parts = links.flatMap((link): Part[] => {
      const name = link.attributes.name ?? "";
      if (name === top && isBareTop) return [];
      const joint = jointTo.get(name);
      const parent = joint ? (childOf(joint, "parent")?.attributes.link ?? "") : "";
      return [
        {
          id: ids.get(name) as string,
          label: (link.attributes["vantel:label"] ?? name).trim().slice(0, 80) || "Part",
          parentId: !joint || (parent === top && isBareTop) ? null : (ids.get(parent) as string),
          place: joint ? this.#place(joint) : here,
          motion: joint ? this.#motion(joint, ids, childOfJoint, root) : { kind: "fixed" },
          ...this.#matter(link),
        },
      ];
    });
    return this.#trouble === null ? ok(parts) : problem(this.#trouble);
  }

  /** A file of other make has no tips: the ends of its chains become some. */
  tips(parts: readonly Part[]): Tip[] {
    const ends = parts.filter(
      ({ id, motion }) => motion.kind === "fixed" && parts.every(({ parentId }) => parentId !== id),
    );
    const last = ends.length > 0 ? ends : parts.filter(({ id }) => parts.every(({ parentId }) => parentId !== id));
    return last
      .slice(0, 4)
      .map((part) => ({ id: this.#newId(), label: part.label, partId: part.id, place: here, does: "reach" }));
  }

  #numbers(
    element: Element | undefined,
    name: string,
    count: number,
    read: (text: string) => number,
    missing: number,
  ): number[] {
    const text = element?.attributes[name];
    if (element === undefined || text === undefined) return Array.from({ length: count }, () => missing);
    const values = text.trim().split(/\s+/).map(read);
    if (values.length === count && values.every(Number.isFinite)) return values;
    this.#trouble ??= `Line ${element.line}: “${text.slice(0, 40)}” should be ${count === 1 ? "a number" : `${count} numbers`}.`;
    return Array.from({ length: count }, () => missing);
  }

  #place(element: Element): Place {
    const origin = childOf(element, "origin");
    return {
      atMm: this.#numbers(origin, "xyz", 3, (text) => unshifted(text, 3), 0) as unknown as Vector,
      turnDeg: this.#numbers(origin, "rpy", 3, (text) => degrees(Number(text)), 0) as unknown as Vector,
    };
  }

  #motion(
    joint: Element,
    ids: ReadonlyMap<string, string>,
    childOfJoint: ReadonlyMap<string, string>,
    root: Element,
  ): Motion {
    const { type = "fixed", name = "" } = joint.attributes;
    if (type === "fixed") return { kind: "fixed" };
    const slides = type === "prismatic";
    const axisElement = childOf(joint, "axis");
    const axis = axisElement ? this.#numbers(axisElement, "xyz", 3, Number, 0) : [1, 0, 0];
    if (Math.hypot(...axis) < 1e-6) this.#trouble ??= `Line ${joint.line}: the axis of “${name}” has no direction.`;
    const by = this.#drive(joint, slides, ids, childOfJoint, root);
    return { kind: slides ? "slide" : "turn", axis: axis as unknown as Vector, by };
  }

  #drive(
    joint: Element,
    slides: boolean,
    ids: ReadonlyMap<string, string>,
    childOfJoint: ReadonlyMap<string, string>,
    root: Element,
  ): Drive {
    const { name = "" } = joint.attributes;
    const own = json(joint.attributes["vantel:by"]) as Drive | undefined;
    const mimic = childOf(joint, "mimic");
    if (!mimic) {
      const jointId = this.#matched[name] ?? null;
      if (own?.kind === "joint") return { ...own, jointId };
      // Of other make: the servo's degrees are the joint's, and a mm takes a degree until somebody says otherwise.
      return { kind: "joint", jointId, ratio: 1, offset: 0 };
    }
    if (own?.kind === "linkage" || own?.kind === "part") return own;
    const led = mimic.attributes.joint ?? "";
    // A second part on one servo: it is moved by whatever the first was matched with.
    if (own?.kind === "joint") return { ...own, jointId: this.#matched[led] ?? null };
    const leadSlides = childrenOf(root, "joint").some(
      ({ attributes }) => attributes.name === led && attributes.type === "prismatic",
    );
    const [multiplier = 1] = this.#numbers(mimic, "multiplier", 1, Number, 1);
    const offsetText = mimic.attributes.offset ?? "0";
    // Radians to metres and the other way: in degrees and mm the ratio is another number.
    const ratio =
      slides === leadSlides
        ? multiplier
        : slides
          ? multiplier * 1000 * (Math.PI / 180)
          : (multiplier * 180) / Math.PI / 1000;
    return {
      kind: "part",
      partId: ids.get(childOfJoint.get(led) ?? "") ?? "",
      ratio,
      offset: wayOf(offsetText, slides),
      range: null,
    };
  }

  /** Bodies, mass and inertia of a link. */
  #matter(link: Element): Pick<Part, "bodies" | "massG" | "centreMm" | "inertiaGMm2"> {
    const visuals = childrenOf(link, "visual");
    const solids = childrenOf(link, "collision");
    const solidKeys = new Set(solids.map((one) => this.#keyOf(one)));
    const bodies = (visuals.length > 0 ? visuals : solids).flatMap((shown): Body[] => {
      const shape = this.#shape(childOf(shown, "geometry"));
      const isSolid =
        visuals.length === 0 || solids.length === 0
          ? link.attributes["vantel:id"] === undefined || solids.length > 0
          : solidKeys.has(this.#keyOf(shown)) || link.attributes["vantel:id"] === undefined;
      return shape ? [{ place: this.#place(shown), shape, color: colorOf(shown), isSolid }] : [];
    });
    const inertial = childOf(link, "inertial");
    const [massG = 0] = inertial
      ? this.#numbers(childOf(inertial, "mass"), "value", 1, (text) => unshifted(text, 3), 0)
      : [
          bodies.reduce(
            (sum, { shape }) =>
              sum + printedMassG(volumeOf(shape, (id) => [...this.#meshes.values()].find((mesh) => mesh.id === id))),
            0,
          ),
        ];
    const centreMm = inertial ? this.#place(inertial).atMm : here.atMm;
    const moments = childOf(inertial, "inertia");
    const isOwn = link.attributes["vantel:inertia"] === "bodies" || !moments;
    const inertia = ["ixx", "ixy", "ixz", "iyy", "iyz", "izz"].map(
      (key) => this.#numbers(moments, key, 1, (text) => unshifted(text, 9), 0)[0] as number,
    );
    return {
      bodies,
      massG: Math.max(0, massG),
      centreMm,
      inertiaGMm2: isOwn ? null : (inertia as unknown as NonNullable<Part["inertiaGMm2"]>),
    };
  }

  #keyOf(shown: Element): string {
    const geometry = childOf(shown, "geometry")?.children[0];
    return JSON.stringify([geometry?.name, geometry?.attributes, childOf(shown, "origin")?.attributes]);
  }

  #shape(geometry: Element | undefined): Shape | null {
    const own = ownShape(geometry);
    if (own && own.kind !== "mesh") return own;
    const form = geometry?.children[0];
    const mm = (text: string) => unshifted(text, 3);
    if (form?.name === "box")
      return { kind: "box", sizeMm: this.#numbers(form, "size", 3, mm, 1) as unknown as Vector };
    if (form?.name === "sphere")
      return { kind: "ball", radiusMm: this.#numbers(form, "radius", 1, mm, 1)[0] as number };
    if (form?.name === "cylinder")
      return {
        kind: "rod",
        radiusMm: this.#numbers(form, "radius", 1, mm, 1)[0] as number,
        lengthMm: this.#numbers(form, "length", 1, mm, 1)[0] as number,
      };
    if (form?.name !== "mesh") return null;
    const mesh = this.#meshes.get(baseName(form.attributes.filename ?? ""));
    const scale = this.#numbers(form, "scale", 3, Number, 1) as unknown as Vector;
    return mesh ? { kind: "mesh", meshId: mesh.id, scale } : null;
  }
}

/** A shape of ours that URDF has no words for; null for any other. */
function ownShape(geometry: Element | undefined): Shape | null {
  const value = json(geometry?.attributes["vantel:shape"]);
  const read = value === undefined ? null : shapeSchema.safeParse(value);
  return read?.success ? (read.data as Shape) : null;
}

function colorOf(shown: Element): string {
  const rgba = childOf(childOf(shown, "material"), "color")?.attributes.rgba;
  const values = rgba?.trim().split(/\s+/).map(Number) ?? [];
  if (values.length < 3 || !values.every(Number.isFinite)) return "#8fa39c";
  return `#${values
    .slice(0, 3)
    .map((value) =>
      Math.round(Math.max(0, Math.min(1, value)) * 255)
        .toString(16)
        .padStart(2, "0"),
    )
    .join("")}`;
}

/** Joints of a rig for those of a file: by name where one is called alike, the others in their order. */
export function matchedByName(machine: UrdfMachine, joints: readonly Joint[]): Record<string, string | null> {
  const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]+/g, "");
  const left = [...joints];
  const matched: Record<string, string | null> = {};
  for (const { name } of machine.joints) {
    const at = left.findIndex(({ label }) => plain(label) === plain(name));
    if (at >= 0) matched[name] = left.splice(at, 1)[0]?.id ?? null;
  }
  for (const { name } of machine.joints) if (!(name in matched)) matched[name] = left.shift()?.id ?? null;
  return matched;
}
