import { demoProject } from "@core/demo";
import { checkProject, emptyProject, type Figure, figureSchema, type Project } from "@core/project";
import { meshCaps, surfaceOf, volumeOf } from "@core/shapes";
import fc from "fast-check";
import { expect, test } from "vitest";
import { beginnings, begun } from "../beginnings";
import { seeded } from "../fixtures";
import { readMesh } from "../mesh/readMesh";
import { assemble, partFrame, placeOf, setTargets, stand, standing } from "../stand";
import { figureOfUrdf, matchedByName, readUrdf } from "./read";
import { shifted, unshifted } from "./units";
import { urdfOf } from "./write";

const demo = demoProject();
let ids = 0;
const newId = () => `new-${++ids}`;

/** Out to a file and in again, each joint matched with the one of its name. */
function thereAndBack(project: Project, figure: Figure): Figure {
  const read = readUrdf(urdfOf(project, figure).text);
  if (!read.ok) throw new Error(read.problem);
  const rig = project.rigs.find(({ id }) => id === figure.rigId);
  if (!rig) throw new Error("no rig");
  const own = project.joints.filter(({ rigId }) => rigId === rig.id);
  const made = figureOfUrdf(read.value, rig, matchedByName(read.value, own), new Map(), () => figure.id);
  if (!made.ok) throw new Error(made.problem);
  return made.value;
}

test("the demo's figures come back from a file as they were", () => {
  for (const figure of demo.figures) expect(thereAndBack(demo, figure)).toEqual(figure);
});

test("so do all ready-made machines, with places and turns of any kind", () => {
  const random = seeded(8);
  for (const beginning of beginnings) {
    const trellis = demo.rigs.find(({ id }) => id === "trellis");
    if (!trellis) continue;
    const fresh = begun(beginning, trellis, demo.joints, newId);
    const places = fresh.parts.map((part) => ({
      ...part,
      massG: Math.round(random(0, 1e6)) / 1e3,
      place: {
        atMm: [random(-300, 300), 1 / 3, random(0, 1e-7)] as const,
        // To a thousand-millionth of a degree: what the file keeps.
        turnDeg: [random(-180, 180), random(-89, 89), random(-180, 180)].map(
          (deg) => Math.round(deg * 1e9) / 1e9,
        ) as unknown as readonly [number, number, number],
      },
    }));
    const figure = { ...fresh, parts: places };
    const joined = beginning.uses > demo.joints.filter(({ rigId }) => rigId === "trellis").length;
    const back = thereAndBack(demo, figure);
    // A part that waits for a joint has no name of its own in the file, so it is matched with what is left.
    if (!joined) expect(back).toEqual(figure);
    else expect(back.parts.map(({ place }) => place)).toEqual(figure.parts.map(({ place }) => place));
  }
});

test("a decimal point that is moved and moved back gives the very same number", () => {
  fc.assert(
    fc.property(
      fc.double({ noNaN: true, noDefaultInfinity: true }),
      fc.integer({ min: -9, max: 9 }),
      (value, places) => {
        expect(unshifted(shifted(value, places), -places)).toBe(value + 0);
      },
    ),
    { numRuns: 2000 },
  );
  expect(shifted(123.5, -3)).toBe("0.1235");
  expect(shifted(-0.02, -3)).toBe("-0.00002");
  expect(shifted(90, -3)).toBe("0.09");
  expect(unshifted("0.1 0", 3)).toBeNaN();
});

const { text: whole } = urdfOf(demo, demo.figures[0] as Figure);

test("1000 damaged files are refused in words, or read as a figure that stands", { timeout: 60_000 }, () => {
  const random = seeded(77);
  const whole_ = (low: number, high: number) => Math.floor(random(low, high));
  const rig = demo.rigs.find(({ id }) => id === "trellis");
  if (!rig) throw new Error("no rig");
  let refused = 0;
  for (let round = 0; round < 1000; round += 1) {
    let text = whole;
    const harm = round % 8;
    const at = whole_(0, text.length);
    if (harm === 0) text = text.slice(0, at);
    else if (harm === 1) text = text.slice(0, at) + String.fromCharCode(whole_(1, 60)) + text.slice(at + 1);
    else if (harm === 2)
      text = text.replace(/(xyz|rpy|size|radius|value|ixx)="[^"]*"/g, (match, name) =>
        random(0, 1) < 0.1 ? `${name}="nan 1e999 x"` : match,
      );
    else if (harm === 3)
      text = text.replace(
        /<parent link="[^"]*"/g,
        () => `<parent link="${["Hand", "Foot", "nobody", "Jaw"][whole_(0, 4)]}"`,
      );
    else if (harm === 4) text = text.replace("?>", `?><!DOCTYPE robot [<!ENTITY a "${"x".repeat(50)}">]>`);
    else if (harm === 5) text = text.slice(0, at) + text.slice(at + whole_(1, 400));
    else if (harm === 6) text = text.slice(0, at) + text.slice(whole_(0, at), at) + text.slice(at);
    else text = text.replace("</robot>", `${"<link>".repeat(60)}</robot>`);
    const read = readUrdf(text);
    const made = read.ok ? figureOfUrdf(read.value, rig, {}, new Map(), newId) : read;
    if (!made.ok) {
      refused += 1;
      expect(made.problem.length).toBeGreaterThan(15);
      continue;
    }
    // What was taken is sound: it opens, and can be stood.
    expect(figureSchema.safeParse(made.value).success).toBe(true);
    const now = standing(assemble([made.value], []));
    stand(now);
    expect([...now.frames].every(Number.isFinite)).toBe(true);
  }
  expect(refused).toBeGreaterThan(550);
});

test("hostile files: entities, depth, sizes, rings", () => {
  const says = (text: string) => {
    const read = readUrdf(text);
    return read.ok ? "taken" : read.problem;
  };
  expect(says('<?xml version="1.0"?><!DOCTYPE a [<!ENTITY x "y">]><robot name="a"/>')).toContain("DOCTYPE");
  expect(says(`<robot>${"<a>".repeat(100)}${"</a>".repeat(100)}</robot>`)).toContain("deep");
  expect(says(`<robot>${"<link/>".repeat(50_000)}</robot>`)).toContain("elements");
  expect(says(" ".repeat(6_000_000))).toContain("5 MB");
  expect(says("")).toContain("empty");
  expect(says("<html/>")).toContain("<html>");
  const joint = (name: string, parent: string, child: string) =>
    `<joint name="${name}" type="fixed"><parent link="${parent}"/><child link="${child}"/></joint>`;
  const links = '<link name="a"/><link name="b"/><link name="c"/>';
  expect(says(`<robot>${links}${joint("1", "a", "b")}${joint("2", "b", "a")}</robot>`)).toContain("ring");
  expect(says(`<robot>${links}${joint("1", "a", "b")}${joint("2", "c", "b")}</robot>`)).toContain("two others");
  expect(says(`<robot>${links}${joint("1", "a", "b")}</robot>`)).toContain("hang on nothing");
  expect(says(`<robot>${links}${joint("1", "a", "z")}</robot>`)).toContain("not there");
  expect(says('<robot><link name="a"/><link name="a"/></robot>')).toContain("two links");
  expect(says('<robot><link name="a"/><joint name="j" type="planar"/></robot>')).toContain("no servo can make");
});

test("a file of other make with mimic, fixed chains and a sliding joint stands as its numbers say", () => {
  const text = `<robot name="lift">
    <link name="world"/>
    <link name="rail"><visual><geometry><box size="0.1 0.1 0.02"/></geometry></visual></link>
    <link name="carriage"><inertial><mass value="0.25"/><origin xyz="0 0 0.05"/><inertia ixx="1e-4" iyy="2e-4" izz="3e-4" ixy="0" ixz="0" iyz="0"/></inertial></link>
    <link name="finger_a"/><link name="finger_b"/><link name="pad"/>
    <joint name="fix" type="fixed"><parent link="world"/><child link="rail"/><origin xyz="0 0 0.01"/></joint>
    <joint name="lift" type="prismatic"><parent link="rail"/><child link="carriage"/><axis xyz="0 0 1"/><limit lower="0" upper="0.3" effort="10" velocity="0.1"/></joint>
    <joint name="open" type="revolute"><parent link="carriage"/><child link="finger_a"/><origin xyz="0.05 0 0.1" rpy="0 0 1.5707963267948966"/><axis xyz="0 0 1"/><limit lower="0" upper="0.8" effort="1" velocity="1"/></joint>
    <joint name="follow" type="revolute"><parent link="carriage"/><child link="finger_b"/><axis xyz="0 0 1"/><mimic joint="open" multiplier="-2" offset="0.1"/></joint>
    <joint name="tip" type="fixed"><parent link="finger_a"/><child link="pad"/><origin xyz="0.04 0 0"/></joint>
  </robot>`;
  const read = readUrdf(text);
  if (!read.ok) throw new Error(read.problem);
  expect(read.value.joints.map(({ name, kind, range }) => [name, kind, range && Math.round(range.high)])).toEqual([
    ["lift", "slide", 300],
    ["open", "turn", 46],
  ]);
  const rig = { id: "r", label: "Lift", mirror: [] };
  const made = figureOfUrdf(read.value, rig, { lift: "j-lift", open: "j-open" }, new Map(), newId);
  if (!made.ok) throw new Error(made.problem);
  const now = standing(assemble([made.value], ["j-lift", "j-open"]));
  setTargets(now, { "j-lift": 120, "j-open": 30 });
  stand(now);
  const at = (label: string) => {
    const part = made.value.parts.find((one) => one.label === label);
    const place = partFrame(placeOf(now.assembly, part?.id ?? ""));
    return [9, 10, 11].map((row) => Math.round((now.frames[place + row] as number) * 1e6) / 1e6 + 0);
  };
  expect(at("carriage")).toEqual([0, 0, 130]);
  // Turned by a quarter and then by 30° more: the pad lies 40 mm along 120°.
  expect(at("pad")).toEqual(
    [50 + 40 * Math.cos((120 * Math.PI) / 180), 40 * Math.sin((120 * Math.PI) / 180), 230].map(
      (value) => Math.round(value * 1e6) / 1e6,
    ),
  );
  const follower = placeOf(now.assembly, made.value.parts.find(({ label }) => label === "finger_b")?.id ?? "");
  expect(now.ways[follower]).toBeCloseTo(-60 + (0.1 * 180) / Math.PI, 6);
  const carriage = made.value.parts.find(({ label }) => label === "carriage");
  expect([carriage?.massG, carriage?.inertiaGMm2?.[0], carriage?.centreMm[2]]).toEqual([250, 1e5, 50]);
  // The end of its only fixed chain is a tip to be taken.
  expect(made.value.tips.map(({ label }) => label)).toEqual(["pad"]);
});

test("a file of other make with surfaces: read, on the bench, met, written and read again", () => {
  // A wedge of 40 × 20 × 30 in an OBJ file in metres, hung upside down on a door that turns on and on.
  const wedge =
    "v 0 0 0\nv 0.04 0 0\nv 0 0.02 0\nv 0.04 0.02 0\nv 0 0 0.03\nv 0 0.02 0.03\nf 1 3 4 2\nf 1 2 5\nf 3 6 4\nf 1 5 6 3\nf 2 4 6 5\n";
  const text = `<robot name="gate" xmlns:other="http://example.org">
    <material name="moss"><color rgba="0.2 0.4 0.2 1"/></material>
    <link name="post"><visual><geometry><cylinder radius="0.01" length="0.2"/></geometry></visual><other:note text="ignored"/></link>
    <link name="door"><visual><origin rpy="3.141592653589793 0 0" xyz="0 0 0.1"/><geometry><mesh filename="package://gate/meshes/wedge.obj" scale="2 1 1"/></geometry><material name="moss"/></visual></link>
    <joint name="hinge" type="continuous"><parent link="post"/><child link="door"/><origin xyz="0.02 0 0"/><axis xyz="0 0 1"/></joint>
  </robot>`;
  const read = readUrdf(text);
  if (!read.ok) throw new Error(read.problem);
  expect(read.value).toMatchObject({
    meshFiles: ["wedge.obj"],
    joints: [{ name: "hinge", kind: "turn", range: null }],
  });
  const mesh = readMesh("wedge.obj", new TextEncoder().encode(wedge), 1000, "mesh-wedge");
  if (!mesh.ok) throw new Error(mesh.problem);
  const rig = { id: "r", label: "Gate", mirror: [] };
  const joint = { ...(demo.joints[0] as Project["joints"][number]), id: "j-hinge", label: "hinge", rigId: "r" };
  const made = figureOfUrdf(read.value, rig, { hinge: "j-hinge" }, new Map([["wedge.obj", mesh.value]]), newId);
  if (!made.ok) throw new Error(made.problem);
  const door = made.value.parts.find(({ label }) => label === "door");
  expect(door?.bodies[0]).toMatchObject({ color: "#336633", shape: { kind: "mesh", meshId: "mesh-wedge" } });
  // Half of a box of 80 × 20 × 30.
  const volume = volumeOf(door?.bodies[0]?.shape as never, () => mesh.value);
  expect(volume).toBeCloseTo(24_000, 3);
  const empty = emptyProject("p", "P");
  const { cards, boards } = demo;
  const project: Project = {
    ...empty,
    cards,
    boards,
    rigs: [rig],
    joints: [joint],
    figures: [made.value],
    meshes: [mesh.value],
  };
  expect(checkProject(project)).toMatchObject({ ok: true });
  const out = urdfOf(project, made.value);
  const again = readUrdf(out.text);
  if (!again.ok) throw new Error(again.problem);
  const [file] = out.meshes;
  const back = readMesh(file?.name ?? "", file?.bytes ?? new Uint8Array(), 1000, "mesh-wedge");
  if (!back.ok) throw new Error(back.problem);
  const returned = figureOfUrdf(
    again.value,
    rig,
    { hinge: "j-hinge" },
    new Map([[file?.name ?? "", back.value]]),
    () => made.value.id,
  );
  if (!returned.ok) throw new Error(returned.problem);
  expect(returned.value).toEqual(made.value);
  expect(volumeOf(door?.bodies[0]?.shape as never, () => back.value)).toBeCloseTo(24_000, 0);
});

test("surfaces: text and binary STL, OBJ; in mm and m; made coarser; broken ones refused", () => {
  const bytes = (text: string) => new TextEncoder().encode(text);
  const corner =
    "solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 0.01 0 0\nvertex 0 0.02 0\nendloop\nendfacet\nendsolid";
  const read = readMesh("part.stl", bytes(corner), 1000, "m");
  if (!read.ok) throw new Error(read.problem);
  expect([...surfaceOf(read.value).corners].map((value) => Math.round(value * 1000) / 1000)).toEqual([
    0, 0, 0, 10, 0, 0, 0, 20, 0,
  ]);
  const square = readMesh("a.obj", bytes("v 0 0 0\nv 10 0 0\nv 10 10 0\nv 0 10 0\nf 1/1 2/2 3/3 -1/4\n"), 1, "o");
  expect(square.ok && surfaceOf(square.value).faces.length).toBe(2);
  const says = (name: string, text: string) => {
    const made = readMesh(name, bytes(text), 1, "x");
    return made.ok ? "taken" : made.problem;
  };
  expect(says("a.obj", "v 0 0 0\nf 1 2 9")).toContain("line 2");
  expect(says("a.stl", "hello")).toContain("no STL file");
  expect(says("a.stl", "solid x")).toContain("no triangle");
  expect(says("a.stl", corner.replace("0.01", "abc"))).toContain("not a number");
  expect(says("a.stl", corner.replace("0.01", "99999"))).toContain("another unit");
  // A ball of 80 000 triangles is made coarser, and stays a ball.
  const rings = 200;
  const lines = ["solid"];
  const at = (i: number, j: number) => {
    const [down, round] = [(Math.PI * i) / rings, (2 * Math.PI * j) / rings];
    return `vertex ${50 * Math.sin(down) * Math.cos(round)} ${50 * Math.sin(down) * Math.sin(round)} ${50 * Math.cos(down)}`;
  };
  for (let i = 0; i < rings; i += 1)
    for (let j = 0; j < rings; j += 1)
      lines.push(at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j), at(i + 1, j + 1), at(i, j + 1));
  const ball = readMesh("ball.stl", bytes(lines.join("\n")), 1, "b");
  if (!ball.ok) throw new Error(ball.problem);
  const { corners, faces } = surfaceOf(ball.value);
  expect(faces.length).toBeLessThanOrEqual(meshCaps.faces);
  expect(faces.length).toBeGreaterThan(300);
  for (let index = 0; index < corners.length; index += 3)
    expect(
      Math.hypot(corners[index] as number, corners[index + 1] as number, corners[index + 2] as number),
    ).toBeCloseTo(50, 0);
});

test("a project with a figure from a file is one that can be opened", () => {
  const project = { ...emptyProject("p", "P"), rigs: [{ id: "trellis", label: "Trellis", mirror: [] }] };
  const read = readUrdf(whole);
  if (!read.ok) throw new Error(read.problem);
  const made = figureOfUrdf(read.value, project.rigs[0] as Project["rigs"][number], {}, new Map(), newId);
  if (!made.ok) throw new Error(made.problem);
  expect(checkProject({ ...project, figures: [made.value] }).ok).toBe(true);
});
