import { demoProject } from "@core/demo";
import fc from "fast-check";
import { expect, test } from "vitest";
import { checkProject } from "../checkProject";
import type { Run } from "../power";
import { type Project, projectSchema } from "../project";
import { removeBoard, setFrameHz } from ".";
import { applyEdit } from "./applyEdit";
import type { Edit } from "./edit";

const demo = demoProject();
const becomes = (change: (project: Project) => Project): Edit => ({
  name: "Change",
  apply: (project) => ({ ok: true, value: change(project) }),
});
const refusal = (edit: Edit, project = demo) => {
  const done = applyEdit(edit, project);
  return done.ok ? "it was taken" : done.problem;
};
const [pose] = demo.poses;
const [routine] = demo.routines;
if (!pose || !routine) throw new Error("The demo has no pose.");

test.each<[string, Edit, string]>([
  [
    "a number that is none in a pose",
    becomes((p) => ({ ...p, poses: [{ ...pose, targets: { beak: Number.NaN } }, ...p.poses.slice(1)] })),
    "must be a number",
  ],
  [
    "an endless number",
    becomes((p) => ({ ...p, poses: [{ ...pose, targets: { beak: Infinity } }, ...p.poses.slice(1)] })),
    "must be a number",
  ],
  [
    "more sources than there is room for",
    becomes((p) => ({
      ...p,
      sources: Array.from({ length: 201 }, (_, at) => ({
        ...(p.sources[0] as Project["sources"][number]),
        id: `s${at}`,
      })),
    })),
    "room for 200 sources",
  ],
  [
    "more poses than there is room for",
    becomes((p) => ({
      ...p,
      poses: [...p.poses, ...Array.from({ length: 2000 }, (_, at) => ({ ...pose, id: `x${at}` }))],
    })),
    "room for 2000 poses",
  ],
  ["a step to a pose that is gone", becomes((p) => ({ ...p, poses: p.poses.slice(1) })), "what it names is not there"],
  [
    "more steps than a routine takes",
    becomes((p) => ({
      ...p,
      routines: [
        {
          ...routine,
          steps: [
            ...routine.steps,
            ...Array.from({ length: 20_000 }, (_, at) => ({ kind: "hold" as const, id: `h${at}`, holdMs: 10 })),
          ],
        },
      ],
    })),
    "A routine has room for 20000 steps",
  ],
  [
    "a device of a family that is gone",
    becomes((p) => ({
      ...p,
      simulatedDevices: [{ id: "d", label: "Red one", boardId: "ivy", layoutId: "nobody", cardId: null }],
    })),
    "Red one is of a family",
  ],
  ["frames so slow that the board takes them for silence", setFrameHz("fern", 0, 2), "two of its frames take 1000 ms"],
])("%s is refused at the door", (_, edit, says) => {
  expect(refusal(edit)).toContain(says);
});

test("a line that the link cannot carry is refused when it is wired, and says how long it would be", () => {
  const board = { ...(demo.boards.find(({ id }) => id === "pebble") as Project["boards"][number]), channels: 150 };
  const [card] = demo.cards;
  const [joint] = demo.joints;
  if (!card || !joint) throw new Error("The demo is empty.");
  const many = becomes((p) => ({
    ...p,
    boards: p.boards.map((one) => (one.id === "pebble" ? board : one)),
    cards: [...p.cards, ...Array.from({ length: 126 }, (_, at) => ({ ...card, id: `c${at}`, calibrations: [] }))],
    joints: [
      ...p.joints,
      ...Array.from({ length: 126 }, (_, at) => ({
        ...joint,
        id: `j${at}`,
        cardId: `c${at}`,
        boardId: "pebble",
        channel: 10 + at,
      })),
    ],
  }));
  // 11 bytes around, and for 129 channels a blank, the channel, a colon and five digits.
  expect(refusal(many)).toMatch(/129 joints on Pebble would be a line of 1\d{3} bytes, and the link carries 1024/);
});

test("an older project that has a slow board, or a device of a lost family, can still be edited", () => {
  const older: Project = {
    ...demo,
    boards: demo.boards.map((board) => (board.id === "fern" ? { ...board, frameHz: [2] } : board)),
    simulatedDevices: [{ id: "d", label: "Red one", boardId: "ivy", layoutId: "nobody", cardId: null }],
  };
  expect(applyEdit(setFrameHz("pebble", 0, 60), older).ok).toBe(true);
  expect(
    applyEdit(
      becomes((p) => ({ ...p, name: "Another" })),
      older,
    ).ok,
  ).toBe(true);
});

test("what is wired to a board that is removed goes with it, and the project opens again", () => {
  const fed: Project = {
    ...demo,
    boards: [...demo.boards, { ...(demo.boards[0] as Project["boards"][number]), id: "spare", label: "Spare" }],
    supplies: [
      ...demo.supplies,
      { id: "pin", label: "Pin", limitMa: 500, gives: { kind: "pin", boardId: "spare", volts: 5 } },
    ],
    runs: [
      ...demo.runs,
      {
        ...(demo.runs[0] as Run),
        id: "to-spare",
        from: { kind: "rail", id: "rail-owl" },
        to: { kind: "board", id: "spare" },
      },
    ],
  };
  const done = applyEdit(removeBoard("spare"), fed);
  if (!done.ok) throw new Error(done.problem);
  expect(done.value.supplies).toEqual(demo.supplies);
  expect(done.value.runs).toEqual(demo.runs);
  expect(checkProject(done.value).ok).toBe(true);
});

test("whatever number an edit brings, what is let in could be opened again", () => {
  const odd = fc.oneof(fc.double(), fc.constantFrom(Number.NaN, Number.POSITIVE_INFINITY, -0, 1e308, -1));
  fc.assert(
    fc.property(odd, odd, fc.string(), fc.nat(5), (one, other, text, which) => {
      const edits = [
        becomes((p) => ({ ...p, name: text })),
        becomes((p) => ({ ...p, poses: [{ ...pose, name: text, targets: { beak: one } }, ...p.poses.slice(1)] })),
        becomes((p) => ({ ...p, boards: p.boards.map((board) => ({ ...board, frameHz: [one] })) })),
        becomes((p) => ({ ...p, cards: p.cards.map((card) => ({ ...card, window: { low: one, high: other } })) })),
        becomes((p) => ({
          ...p,
          supplies: [{ id: "s", label: text, limitMa: one, gives: { kind: "bench", volts: other } }],
        })),
        becomes((p) => ({ ...p, runs: p.runs.map((run) => ({ ...run, lengthMm: one, areaMm2: other })) })),
        becomes((p) => ({
          ...p,
          routines: [
            {
              ...routine,
              lanes: [{ jointId: "beak", mode: "replace", keys: [{ atMs: one, target: other, shape: "line" }] }],
            },
          ],
        })),
      ];
      const done = applyEdit(edits[which] as Edit, demo);
      if (!done.ok) return;
      expect(projectSchema.safeParse(done.value).success).toBe(true);
      expect(checkProject(done.value).ok).toBe(true);
    }),
    { numRuns: 500 },
  );
});
