import { demoProject } from "@core/demo";
import { type Project, schemaVersion, setTravel } from "@core/project";
import fc from "fast-check";
import { expect, test } from "vitest";
import { readProject, readProjectFile, writeProjectFile } from ".";

// biome-ignore lint/suspicious/noExplicitAny: a file that is about to be damaged has no type.
type Loose = any;

const demo = demoProject();
const altered = (change: (project: Loose) => void) => {
  const file = JSON.parse(writeProjectFile(demo));
  change(file.project);
  return JSON.stringify(file);
};
const refusal = (text: string) => {
  const read = readProjectFile(text);
  return read.ok ? "it was read" : read.problem;
};

test("what is exported is imported the same", () => {
  expect(readProjectFile(writeProjectFile(demo))).toEqual({ ok: true, value: { project: demo, takes: [] } });
});

test("whatever the numbers and names, export then import is the identity", () => {
  const double = fc.double({ min: -1e6, max: 1e6, noNaN: true });
  fc.assert(
    fc.property(fc.string({ minLength: 1, maxLength: 60 }), double, double, (name, low, span) => {
      const edited = setTravel("neck-turn", low, low + Math.abs(span) + 1).apply(demo);
      if (!edited.ok || !name.trim()) return;
      const project: Project = { ...edited.value, name: name.trim() };
      expect(readProjectFile(writeProjectFile(project))).toEqual({
        ok: true,
        value: { project: JSON.parse(JSON.stringify(project)), takes: [] },
      });
    }),
  );
});

test("a file that was cut short says at which line", () => {
  const text = writeProjectFile(demo);
  expect(refusal(text.slice(0, text.length / 2))).toMatch(/breaks off at line \d{2,}, character \d+/);
  expect(refusal("")).toContain("line 1");
});

test("another program's JSON is not a project", () => {
  expect(refusal("[1, 2, 3]")).toContain("not a Vantel project");
  expect(refusal('{"format": "something-else", "version": 1}')).toContain("not a Vantel project");
});

test("a file of a newer version asks for a newer Vantel", () => {
  expect(refusal(writeProjectFile(demo).replace(`"version": ${schemaVersion}`, '"version": 99'))).toContain(
    "version 99",
  );
});

test.each<[string, (project: Loose) => void, string]>([
  ["a text where a number belongs", (p) => (p.joints[3].axis.travel.low = "far"), "joints → 3 → axis → travel → low"],
  ["limits the wrong way round", (p) => (p.joints[0].axis.travel = { low: 9, high: -9 }), "low end must be below"],
  ["a home outside the limits", (p) => (p.joints[0].axis.homeDeg = 500), "home lies outside"],
  ["a missing list", (p) => delete p.poses, "poses"],
  ["a field nobody knows", (p) => (p.boards[0].colour = "green"), "colour"],
  ["a joint without its card", (p) => p.cards.splice(0, 1), "there is no card “card-neck-turn”"],
  ["two joints on one channel", (p) => (p.joints[1].channel = 0), "already has Neck turn"],
  ["an id used twice", (p) => (p.poses[1].id = p.poses[0].id), "used twice"],
  ["a move to a pose that is gone", (p) => p.poses.splice(3, 1), "what it names is not there"],
  ["a calibration with one angle twice", (p) => (p.cards[1].calibrations[2].points[1].angleDeg = 60), "1° apart"],
  ["a hobby servo on the bus", (p) => (p.joints[0].boardId = "ivy"), "cannot be wired to Ivy"],
])("%s is refused with its place", (_name, change, says) => {
  expect(refusal(altered(change))).toContain(says);
});

test("arbitrary text never throws", () => {
  fc.assert(fc.property(fc.oneof(fc.string(), fc.json()), (text) => !readProjectFile(text).ok));
});

test("a damaged file of version 1 is refused like any other", () => {
  for (const project of [null, 7, [], { cards: 3 }, { cards: [null], joints: "x", simulated: [7] }])
    expect(refusal(JSON.stringify({ format: "vantel-project", version: 1, project }))).toContain("damaged at");
});

test("the samples of takes travel with the file, to a thousandth of a degree; a take without its samples is refused", () => {
  const take = {
    id: "t",
    name: "Take",
    madeAt: "2026-11-23T10:00:00.000Z",
    frameMs: 20,
    frames: 3,
    jointIds: ["beak"],
  };
  const project: Project = { ...demo, takes: [take] };
  const samples = { id: "t", channels: { beak: Float32Array.of(0, 1.23456, -7.5) } };
  const text = writeProjectFile(project, new Map([["t", samples]]));
  expect(text).toContain('"beak": [0,1.235,-7.5]');
  expect(readProjectFile(text)).toEqual({
    ok: true,
    value: { project, takes: [{ id: "t", channels: { beak: Float32Array.of(0, 1.235, -7.5) } }] },
  });
  expect(refusal(writeProjectFile(project))).toContain("samples → t → beak: 3 numbers should be there");
  expect(refusal(text.replace("1.235,", ""))).toContain("samples → t → beak");
});

test("names, labels and notes of any kind, with takes beside them, come back as they were", () => {
  const word = fc.oneof(
    fc.string({ minLength: 1, maxLength: 40 }),
    fc.constantFrom("@1,2@", "@@", "@", '"@"', "],[", "\\", "\n"),
  );
  fc.assert(
    fc.property(
      word,
      word,
      fc.array(fc.float({ noNaN: true, min: -180, max: 180 }), { minLength: 1, maxLength: 5 }),
      (name, note, row) => {
        if (!name.trim()) return;
        const id = `take-${name.length}`;
        const take = {
          id,
          name: name.trim(),
          madeAt: "2026-11-23T10:00:00.000Z",
          frameMs: 20,
          frames: row.length,
          jointIds: ["beak"],
        };
        const cards = demo.cards.map((card) => ({ ...card, notes: note }));
        const project: Project = { ...demo, name: name.trim(), cards, takes: [take] };
        const rounded = Float32Array.from(row, (one) => Math.round(one * 1000) / 1000 + 0);
        const text = writeProjectFile(project, new Map([[id, { id, channels: { beak: Float32Array.from(row) } }]]));
        expect(readProjectFile(text)).toEqual({
          ok: true,
          value: { project, takes: [{ id, channels: { beak: rounded } }] },
        });
      },
    ),
  );
});

test("a note like @1,2,3@ is a note, and no row of samples", () => {
  const cards = demo.cards.map((card) => ({ ...card, notes: "@1,2,3@" }));
  const project: Project = { ...demo, cards };
  expect(readProjectFile(writeProjectFile(project))).toEqual({ ok: true, value: { project, takes: [] } });
});

test("supplies of an older file become adapters with a rail, and a cable to each servo of the boards that they fed", () => {
  const { rails: _, runs: __, switchOn: ___, ...rest } = demo;
  const read = readProject(
    { ...rest, supplies: [{ id: "s", label: "Bench supply", limitMa: 3000, boardIds: ["fern", "gone"] }] },
    11,
  );
  if (!read.ok) throw new Error(read.problem);
  const { supplies, rails, runs } = read.value;
  expect(supplies).toEqual([{ id: "s", label: "Bench supply", limitMa: 3000, gives: { kind: "adapter", volts: 5 } }]);
  expect(rails).toEqual([{ id: "rail-1", label: "Rail of Bench supply" }]);
  expect(runs.map(({ to }) => to.id)).toEqual([
    "rail-1",
    ...demo.joints.filter(({ boardId }) => boardId === "fern").map(({ id }) => id),
  ]);
});
