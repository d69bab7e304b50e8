import { assembleBench, beginnings, begun, stand, standing, withFreshIds } from "@core/figure";
import fc from "fast-check";
import { expect, test } from "vitest";
import { checkProject } from "../checkProject";
import { here } from "../figure";
import type { Project } from "../project";
import { applyEdit } from "./applyEdit";
import {
  addParts,
  changePart,
  hangPart,
  removeFigure,
  removePart,
  setFigure,
  setMayTouch,
  setOnFigure,
  setThing,
} from "./figureEdits";
import { demo, done, refusal } from "./onDemo";
import { removeJoint } from "./wiringEdits";

const trellis = demo.figures[0] as Project["figures"][number];

test("a part takes along what hangs on it, with tips and pairs; undo is another matter", () => {
  const after = done(removePart(trellis.id, "trellis-fore"));
  const figure = after.figures.find(({ id }) => id === trellis.id);
  expect(figure?.parts.map(({ id }) => id)).toEqual(["trellis-foot", "trellis-turntable", "trellis-upper"]);
  expect(figure?.tips).toEqual([]);
  expect(figure?.mayTouch).toEqual([["trellis-foot", "trellis-upper"]]);
});

test("nothing hangs on itself, follows itself, or names what is not there", () => {
  expect(refusal(hangPart(trellis.id, "trellis-upper", "trellis-hand"))).toContain("cannot hang on itself");
  const follows = (partId: string) =>
    changePart(trellis.id, "trellis-jaw", "motion of part", (part) => ({
      ...part,
      motion: { kind: "turn", axis: [0, 1, 0], by: { kind: "part", partId, ratio: 1, offset: 0, range: null } },
    }));
  // The other jaw follows this one already.
  expect(refusal(follows("trellis-jaw-other"))).toContain("follows itself");
  expect(
    refusal(
      changePart(trellis.id, "trellis-jaw", "axis", (part) => ({
        ...part,
        motion: { kind: "turn", axis: [0, 0, 0], by: { kind: "joint", jointId: null, ratio: 1, offset: 0 } },
      })),
    ),
  ).toContain("axis");
  expect(refusal(changePart(trellis.id, "gone", "x", (part) => part))).toContain("no longer");
  // What names a part that is not there lets go of it, as when it is removed.
  expect(
    done(follows("nobody"))
      .figures.find(({ id }) => id === trellis.id)
      ?.parts.find(({ id }) => id === "trellis-jaw")?.motion,
  ).toMatchObject({ by: { kind: "joint", jointId: null } });
});

test("a joint that is taken off the bench leaves its part standing still", () => {
  const after = done(removeJoint("elbow"));
  const fore = after.figures.find(({ id }) => id === trellis.id)?.parts.find(({ id }) => id === "trellis-fore");
  expect(fore?.motion).toMatchObject({ kind: "turn", by: { jointId: null } });
});

test("whatever is done to figures, in whatever order, the project can be opened and the figures stand", () => {
  let count = 0;
  const newId = () => `n${++count}`;
  const place = fc.record({
    what: fc.integer({ min: 0, max: 8 }),
    a: fc.nat(30),
    b: fc.nat(30),
    x: fc.double({ min: -300, max: 300, noNaN: true }),
  });
  fc.assert(
    fc.property(fc.array(place, { maxLength: 40 }), (asks) => {
      let project: Project = demo;
      for (const { what, a, b, x } of asks) {
        const figure = project.figures[a % Math.max(1, project.figures.length)];
        const partOf = (at: number) => figure?.parts[at % Math.max(1, figure.parts.length)];
        const [one, other] = [partOf(a), partOf(b)];
        const joint = project.joints[b % Math.max(1, project.joints.length)];
        const beginning = beginnings[a % beginnings.length];
        const rig = project.rigs[b % project.rigs.length];
        const edits = [
          figure && one && removePart(figure.id, one.id),
          figure && one && other && hangPart(figure.id, one.id, other.id),
          figure &&
            one &&
            changePart(figure.id, one.id, "place", (part) => ({
              ...part,
              place: { ...part.place, atMm: [x, -x, x / 2] },
            })),
          figure && one && addParts(figure.id, [{ ...one, id: newId(), parentId: one.id }]),
          figure &&
            one &&
            other &&
            changePart(figure.id, one.id, "motion", (part) => ({
              ...part,
              motion: {
                kind: "slide",
                axis: [x, 1, 0],
                by: { kind: "part", partId: other.id, ratio: x / 100, offset: 0, range: null },
              },
            })),
          joint && removeJoint(joint.id),
          beginning && rig && setFigure(begun(beginning, rig, project.joints, newId)),
          figure && one && other && setMayTouch(figure.id, one.id, other.id, a % 2 === 0),
          figure &&
            one &&
            (a % 3 === 0
              ? removeFigure(figure.id)
              : setOnFigure(figure.id, "tips", {
                  id: newId(),
                  label: "T",
                  partId: one.id,
                  place: here,
                  does: "reach",
                })),
        ] as const;
        const edit =
          edits[what] ||
          setThing({
            id: newId(),
            label: "T",
            kind: "solid",
            place: here,
            shape: { kind: "ball", radiusMm: 5 },
            color: "#123456",
          });
        const changed = applyEdit(edit, project);
        if (changed.ok) project = changed.value;
      }
      expect(checkProject(project).ok).toBe(true);
      const now = standing(assembleBench(project));
      now.targets.fill(17);
      stand(now);
      expect(now.frames.every(Number.isFinite)).toBe(true);
      // All that is in the project stands, and nothing twice.
      const plain = now.assembly.parts.filter(({ id }) => / (servo|horn)$/.test(id)).length;
      expect(now.assembly.parts.length - plain).toBe(project.figures.reduce((sum, { parts }) => sum + parts.length, 0));
    }),
    { numRuns: 150 },
  );
});

test("a figure of a file that is on the bench already, for another rig, gets ids of its own, and all in it holds together", () => {
  const second = withFreshIds(
    { ...trellis, id: "second", rigId: "vent" },
    new Set(trellis.parts.map(({ id }) => id)),
    (() => {
      let made = 0;
      return () => `fresh-${++made}`;
    })(),
  );
  // Tips were not taken here, so they keep theirs but hang on the new parts.
  expect(second.tips[0]?.partId).toMatch(/^fresh-/);
  expect(refusal(setFigure({ ...trellis, id: "second", rigId: "vent" }))).toContain("used twice");
  const after = done(setFigure({ ...second, tips: second.tips.map((tip) => ({ ...tip, id: "other-tip" })) }));
  const taken = after.figures.find(({ id }) => id === "second");
  expect(taken?.parts.length).toBe(trellis.parts.length);
  expect(taken?.mayTouch.length).toBe(trellis.mayTouch.length);
  const jaw = taken?.parts.find(({ label }) => label === "Other jaw")?.motion;
  expect(
    jaw?.kind === "turn" &&
      jaw.by.kind === "part" &&
      taken?.parts.some(({ id }) => jaw.by.kind === "part" && id === jaw.by.partId),
  ).toBe(true);
});

test("a surface goes with the last body that is made of it: sixty machines from files do not fill the bench", () => {
  const mesh = { id: "m", label: "M", lowMm: [0, 0, 0], highMm: [1, 1, 1], corners: "", faces: "" } as const;
  const foot = trellis.parts[0] as (typeof trellis.parts)[number];
  const part = {
    ...foot,
    id: "with-mesh",
    bodies: [{ place: here, shape: { kind: "mesh", meshId: "m", scale: [1, 1, 1] }, color: "#123456", isSolid: true }],
  } as const;
  const having = done(addParts(trellis.id, [part], [], [mesh]));
  expect(having.meshes.length).toBe(1);
  expect(done(removePart(trellis.id, "with-mesh"), having).meshes).toEqual([]);
});

test("more bodies than can be looked at are refused, and a gear that nobody builds", () => {
  const foot = trellis.parts[0] as (typeof trellis.parts)[number];
  const crowd = Array.from({ length: 190 }, (_, at) => ({
    ...foot,
    id: `c${at}`,
    bodies: Array.from({ length: 10 }, () => foot.bodies[0] as (typeof foot.bodies)[number]),
  }));
  expect(refusal(addParts(trellis.id, crowd))).toMatch(/bodies; a bench has room for 1200/);
  const geared = changePart(trellis.id, "trellis-jaw", "gear", (part) => ({
    ...part,
    motion: { kind: "turn", axis: [0, 1, 0], by: { kind: "joint", jointId: "grip", ratio: 1e300, offset: 0 } },
  }));
  expect(refusal(geared)).not.toBe("it was made");
});
