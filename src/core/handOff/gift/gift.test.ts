import { demoProject } from "@core/demo";
import { applyEdit, byId, type Edit, emptyRoutine, type Project, schemaVersion } from "@core/project";
import fc from "fast-check";
import { expect, test } from "vitest";
import { type Gift, type GiftOf, giftOf, matched, readGift, takeIn } from "./gift";

const demo = demoProject();
let count = 0;
const newId = () => `new-${++count}`;
const given = (of: GiftOf, project: Project = demo): Gift => {
  const gift = giftOf(project, of);
  if (!gift.ok) throw new Error(gift.problem);
  // As it comes out of an address.
  const read = readGift(JSON.parse(JSON.stringify(gift.value)));
  if (!read.ok) throw new Error(read.problem);
  return read.value;
};
const done = (edit: Edit, project: Project): Project => {
  const after = edit.apply(project);
  if (!after.ok) throw new Error(after.problem);
  return after.value;
};
const jointsOf = (gift: Gift) => (gift.kind === "card" ? [] : gift.joints);

test("a pose finds its joints on another bench by their labels, whatever their ids are", () => {
  const gift = given({ kind: "pose", id: "pose-look-left" });
  const theirs: Project = {
    ...demo,
    poses: [],
    routines: [],
    leads: [],
    joints: demo.joints.slice(0, 3).map((joint) => ({ ...joint, id: `their-${joint.id}` })),
  };
  const own = matched(theirs, jointsOf(gift));
  expect(own).toEqual(["their-neck-turn", "their-neck-nod", "their-left-lid", null, null, null]);
  const [pose] = done(takeIn(gift, own, newId), theirs).poses;
  expect(pose).toMatchObject({ name: "Look left", targets: { "their-neck-turn": -55, "their-neck-nod": -6 } });
  expect(Object.keys(pose?.targets ?? {})).toHaveLength(3);
});

test("a routine comes with its poses, its lanes and its times, as one edit", () => {
  const lanes = [{ jointId: "beak", mode: "add" as const, keys: [{ atMs: 100, target: 4, shape: "smooth" as const }] }];
  const project = { ...demo, routines: demo.routines.map((one) => ({ ...one, lanes })) };
  const gift = given({ kind: "routine", id: "routine-owl-wakes" }, project);
  const after = done(takeIn(gift, matched(demo, jointsOf(gift)), newId), demo);
  expect(after.poses.length - demo.poses.length).toBe(5);
  const made = after.routines.at(-1);
  const old = byId(demo.routines, "routine-owl-wakes");
  expect(made?.steps.map((step) => step.kind === "move" && step.pace)).toEqual(
    old.steps.map((step) => step.kind === "move" && step.pace),
  );
  expect(made?.lanes).toEqual(lanes);
});

test("a card comes with all that was measured, as a new one beside the others", () => {
  const gift = given({ kind: "card", id: "card-neck-nod" });
  const after = done(takeIn(gift, [], newId), demo);
  const { id, ...rest } = after.cards.at(-1) ?? { id: "" };
  expect(demo.cards.some((card) => card.id === id)).toBe(false);
  expect({ ...rest, id: "card-neck-nod" }).toEqual(byId(demo.cards, "card-neck-nod"));
});

test.each([
  ["a take", { clips: [{ takeId: "t" }] as never }],
  ["a wait", { steps: [{ kind: "wait", id: "w", sourceId: "dusk" }] as never }],
  ["a routine within", { steps: [{ kind: "routine", id: "r", routineId: "x", times: 1 }] as never }],
])("%s does not stand by itself, and is refused with a way out", (_, more) => {
  const project = { ...demo, routines: [{ ...emptyRoutine("r", "R"), ...more }] };
  const gift = giftOf(project, { kind: "routine", id: "r" });
  expect(gift.ok ? "" : gift.problem).toContain("Share the project file instead.");
});

test("a pose of joints that are not here takes none in, and says so", () => {
  const gift = given({ kind: "pose", id: "pose-call" });
  expect(
    takeIn(
      gift,
      jointsOf(gift).map(() => null),
      newId,
    ).apply(demo),
  ).toMatchObject({ ok: false });
});

test.each([
  [{}, "does not hold"],
  [{ kind: "pose", version: schemaVersion, joints: [], pose: { name: "P", targets: [[0, 1]] } }, "damaged"],
  [{ kind: "pose", version: 10_000, joints: [], pose: { name: "P", targets: [] } }, "newer Vantel"],
  [{ kind: "card", version: schemaVersion, card: { __proto__: null, id: "x" } }, "cannot be read"],
  [{ kind: "card", version: "9", card: {} }, "does not hold"],
])("hostile gifts are refused in words: %j", (value, words) => {
  const read = readGift(value);
  expect(read.ok ? "" : read.problem).toContain(words);
});

test("whatever is changed in a gift: it is refused, or what it makes is a project like any other", () => {
  const gifts = [
    given({ kind: "pose", id: "pose-call" }),
    given({ kind: "routine", id: "routine-owl-wakes" }),
    given({ kind: "card", id: "card-grip" }),
  ].map((gift) => JSON.stringify(gift));
  const odd = fc.oneof(
    fc.constantFrom("null", "-1", "1e999", '"j200"', "[]", "{}", '""', "true", "99999999"),
    fc.json(),
  );
  fc.assert(
    fc.property(fc.constantFrom(...gifts), fc.nat(), odd, (text, at, piece) => {
      // One value among all of its values is another.
      const values = [...text.matchAll(/(?<=[:,[])(?:"[^"]*"|-?\d[\d.]*|true|false|null)(?=[,\]}])/g)];
      const place = values[at % values.length];
      if (!place) return;
      const changed = text.slice(0, place.index) + piece + text.slice(place.index + place[0].length);
      let value: unknown;
      try {
        value = JSON.parse(changed);
      } catch {
        return;
      }
      const gift = readGift(value);
      if (!gift.ok) return;
      const edit = takeIn(gift.value, matched(demo, jointsOf(gift.value)), newId);
      const after = applyEdit(edit, demo);
      // Poses that were there stay as they were.
      if (after.ok) expect(demo.poses.every((pose) => after.value.poses.includes(pose))).toBe(true);
    }),
    { numRuns: 400 },
  );
});
