import { demoProject } from "@core/demo";
import type { Project } from "@core/project";
import { expect, test } from "vitest";
import { notesOnPaper } from "./cardsAndPoses";
import { benchSheets, type Paper, sheetKinds } from "./pages";
import { paginate } from "./paginate";

const demo = demoProject();
const pagesOf = (project: Project, paper: Paper = "A4") => {
  const laid = benchSheets(project, new Map(), paper, sheetKinds);
  if (!laid.ok) throw new Error(laid.problem);
  return laid.value;
};

test("every joint is on one plug, in one box and under one horn; every pose and every cue stands once", () => {
  for (const paper of ["A4", "Letter"] as const) {
    const pages = pagesOf(demo, paper);
    const plugs = pages.flatMap((page) => (page.kind === "wiring" ? page.blocks.flatMap(({ rows }) => rows) : []));
    expect(plugs.map(({ joint }) => joint).sort()).toEqual(demo.joints.map(({ label }) => label).sort());
    const boxes = pages.flatMap((page) => (page.kind === "cards" ? page.cards : []));
    expect(boxes.filter(({ jointId }) => jointId)).toHaveLength(demo.joints.length);
    const horns = pages.flatMap((page) => (page.kind === "horns" ? page.horns : []));
    expect(horns).toHaveLength(demo.joints.filter(({ axis }) => axis.kind === "angle").length);
    const poses = pages.flatMap((page) => (page.kind === "poses" ? page.poseIds : []));
    expect(poses).toEqual(demo.poses.map(({ id }) => id));
    const cues = pages.flatMap((page) => (page.kind === "cues" ? page.rows : []));
    expect(cues).toHaveLength(demo.routines.reduce((sum, { steps }) => sum + steps.length, 0));
  }
});

test("a horn's limits lie about its home as the joint turns: one that is turned round has them the other way", () => {
  const horns = pagesOf(demo).flatMap((page) => (page.kind === "horns" ? page.horns : []));
  const of = (label: string) => horns.find(({ joint }) => joint === label);
  expect(of("Left lid")).toMatchObject({ lowDeg: -55, highDeg: 5, home: "55°" });
  expect(of("Right lid")).toMatchObject({ lowDeg: 55, highDeg: -5 });
});

test("a card with notes as long as they may be has room on a page, and says what is left out", () => {
  const notes = "word ".repeat(800).trim();
  const cards = demo.cards.map((card) => ({ ...card, notes }));
  const pages = pagesOf({ ...demo, cards }).filter(({ kind }) => kind === "cards");
  expect(pages).toHaveLength(demo.joints.length);
  expect(notesOnPaper(notes)).toContain("… and 7 lines more in Vantel");
});

test("pages are as full as they go, in order; what is higher than a page has one of its own", () => {
  expect(paginate([3, 4, 2, 12, 1, 9, 1], (height) => height, 10)).toEqual([[3, 4, 2], [12], [1, 9], [1]]);
  expect(paginate([], () => 1, 10)).toEqual([]);
});

test("a bench without joints has nothing to draw, and says so", () => {
  expect(benchSheets({ ...demo, joints: [] }, new Map(), "A4", sheetKinds)).toMatchObject({ ok: false });
});
