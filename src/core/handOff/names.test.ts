import fc from "fast-check";
import { expect, test } from "vitest";
import { namesFor, plainName } from "./names";

test("labels in words become names; marks fall away", () => {
  expect(["Neck turn", "Left lid (upper)", "Größe", "Œil n° 2", "  Ear—tuft  "].map(plainName)).toEqual([
    "neck_turn",
    "left_lid_upper",
    "grosse",
    "oeil_n_2",
    "ear_tuft",
  ]);
});

test("words of a language, digits, other scripts and doubles get names of their own", () => {
  expect(namesFor(["register", "2nd", "首", "Lid", "lid", "LID!", "for", "首"], "joint")).toEqual([
    "joint_register",
    "joint_2nd",
    "joint_3",
    "lid",
    "lid_2",
    "lid_3",
    "joint_for",
    "joint_8",
  ]);
});

test("names that the code has itself are given to nobody", () => {
  expect(namesFor(["Count", "Let"], "joint")).toEqual(["joint_count", "joint_let"]);
});

test("whatever the labels are, the names are names, and all different", () => {
  fc.assert(
    fc.property(fc.array(fc.string({ unit: "grapheme" }), { maxLength: 30 }), (labels) => {
      const names = namesFor(labels, "joint");
      expect(new Set(names).size).toBe(labels.length);
      for (const name of names) expect(name).toMatch(/^[a-z][a-z0-9_]*$/);
    }),
  );
});
