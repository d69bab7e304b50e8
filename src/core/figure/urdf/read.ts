import { type Figure, figureSchema, here, type Joint, type Rig, type Tip } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import type { Mesh } from "@core/shapes";
import { baseName, json, ownShape, UrdfReader, wayOf } from "./reader";
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
  const reader = new UrdfReader(matched, meshes, newId);
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
