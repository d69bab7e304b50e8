import { type Body, type Drive, here, type Motion, type Part, type Place, type Tip } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { type Mesh, type Shape, shapeSchema, type Vector, volumeOf } from "@core/shapes";
import { printedMassG } from "../weight";
import { degrees, unshifted } from "./units";
import { childOf, childrenOf, type Element } from "./xml";

/** The last of a path, without its folders. */
export const baseName = (path: string): string => path.split(/[\\/]/).at(-1) ?? path;

/** A way of a file in degrees or mm. */
export const wayOf = (text: string, slides: boolean): number => (slides ? unshifted(text, 3) : degrees(Number(text)));

/** What our own attributes hold, as a value; undefined where there is none, or it is broken. */
export function json(text: string | undefined): unknown {
  if (text === undefined) return undefined;
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** Reads the parts of a file whose links and joints were found to hang together. The first number that is none ends it with a sentence. */
export class UrdfReader {
  readonly #matched: Readonly<Record<string, string | null>>;
  readonly #meshes: ReadonlyMap<string, Mesh>;
  readonly #newId: () => string;
  /** Colours by the name of their material. */
  readonly #colors = new Map<string, string>();
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
    // A colour is given once at the top, or where it is first used, and by its name from then on.
    const shown = childrenOf(root, "link").flatMap((link) => childrenOf(link, "visual"));
    for (const material of [...childrenOf(root, "material"), ...shown.flatMap((one) => childrenOf(one, "material"))]) {
      const rgba = childOf(material, "color")?.attributes.rgba;
      if (rgba !== undefined) this.#colors.set(material.attributes.name ?? "", rgba);
    }
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

  #colorOf(shown: Element): string {
    const material = childOf(shown, "material");
    const own = childOf(material, "color")?.attributes.rgba;
    return colorOf(own ?? this.#colors.get(material?.attributes.name ?? ""));
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
      return shape ? [{ place: this.#place(shown), shape, color: this.#colorOf(shown), isSolid }] : [];
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
export function ownShape(geometry: Element | undefined): Shape | null {
  const value = json(geometry?.attributes["vantel:shape"]);
  const read = value === undefined ? null : shapeSchema.safeParse(value);
  return read?.success ? (read.data as Shape) : null;
}

function colorOf(rgba: string | undefined): string {
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
