import { byId, type Project, usualBoardPower } from "@core/project";
import type { Step } from "@core/steps";
import { describe, expect, test } from "vitest";
import { type Examination, examine, type Finding, mendEdit, mendWords } from ".";
import { bare, demo, look, move, pose, scoreIn, withRoutine } from "./fixtures";

const only = (examination: Examination, kind: Finding["kind"]): Finding => {
  const found = examination.findings.filter((one) => one.kind === kind);
  expect(found).toHaveLength(1);
  return found[0] as Finding;
};

test("120° in half a second with soft ends asks for 450 °/s; at 240 it needs 0.94 s", () => {
  const finding = only(look({ steps: [move("1", "left", 600), move("2", "right", 500)] }), "speed");
  // 120 × 1.875 / 0.5
  expect(finding.asked).toBeCloseTo(450, 0);
  expect(finding.sentence).toBe("Neck turn is asked for 450 °/s; its speed limit is 240.");
  expect(finding.stepId).toBe("2");
  expect(finding.mends[0]).toEqual({ kind: "moveMs", stepId: "2", moveMs: 940 });
  expect(finding.mends.map(mendWords)).toEqual(["Give it 0.94 s", "Let it go at 127 °/s"]);
});

test("a second is enough for all of it, and then nothing is found", () => {
  expect(look({ steps: [move("1", "left", 1000), move("2", "right", 1000)] }).findings).toEqual([]);
});

test("a card that says how fast its servo gathers speed is held to that: 120° in 1 s ask for 693 °/s²", () => {
  const slow: Project = {
    ...bare,
    cards: bare.cards.map((card) =>
      card.id === "card-neck-turn" ? { ...card, rating: { ...card.rating, accelDegPerS2: 400 } } : card,
    ),
  };
  const finding = look({ steps: [move("1", "left", 1500), move("2", "right", 1000)] }, slow).findings.find(
    (one) => one.kind === "acceleration" && one.stepId === "2",
  );
  // 120 × 10/√3
  expect(finding?.asked).toBeGreaterThan(675);
  expect(finding?.asked).toBeLessThan(694);
  const jerky = look(
    { steps: [move("1", "left", 1500), move("2", "right", 1000, { easing: { kind: "even" } })] },
    slow,
  );
  expect(jerky.findings.find((one) => one.stepId === "2")?.mends[0]).toMatchObject({ kind: "soft", moveMs: 1320 });
});

test("a pose beyond the travel limits is held back, and said so", () => {
  const finding = only(look({ steps: [move("1", "wide", 1500)] }), "travel");
  expect(finding.possible).toBe(80);
  expect(finding.mends).toEqual([{ kind: "poseTarget", poseId: "wide", jointId: "neck-turn", target: 80 }]);
});

test("a hold that ends before the servo has arrived: 120° in 0.1 s, cut off 0.2 s later", () => {
  const finding = only(
    look({
      steps: [
        move("1", "left", 2000, { holdMs: 500 }),
        move("2", "right", 100, { holdMs: 200 }),
        move("3", "left", 2000),
      ],
    }),
    "arrival",
  );
  // In 300 ms at 240 °/s it comes 72° far at most.
  expect(finding.sentence).toMatch(/^Neck turn is still (4[89]|5\d)° away when the next step begins/);
  expect(finding.mends[0]).toMatchObject({ kind: "holdMs", stepId: "2" });
});

test("a lane that begins elsewhere than the moves are makes a jump, named with its size and a key that mends it", () => {
  const keys = [
    { atMs: 1000, target: 30, shape: "line" as const },
    { atMs: 1500, target: -60, shape: "line" as const },
  ];
  const change = {
    steps: [move("1", "left", 1000, { holdMs: 1000 })],
    lanes: [{ jointId: "neck-turn", mode: "replace" as const, keys }],
  };
  const finding = only(look(change), "jump");
  expect(finding.sentence).toBe("Neck turn jumps by 90° where its lane meets the moves.");
  const { project, routine } = withRoutine(change);
  const mended = mendEdit(routine, finding.mends[0] as NonNullable<(typeof finding.mends)[0]>).apply(project);
  expect(
    mended.ok && examine(mended.value, scoreIn(mended.value)).findings.filter((one) => one.kind === "jump"),
  ).toEqual([]);
});

describe("what must not meet", () => {
  const apart: Project = {
    ...bare,
    poses: [pose("bowed", { "neck-nod": -25, beak: 0 }), pose("calls", { "neck-nod": 0, beak: 30 })],
    conditions: [
      {
        id: "x",
        while: { jointId: "neck-nod", side: "below", target: -5 },
        stays: { jointId: "beak", side: "below", target: 12 },
      },
    ],
  };
  test("is found on the way as well, and one waits for the other", () => {
    const finding = only(
      look({ steps: [move("1", "calls", 1000, { holdMs: 300 }), move("2", "bowed", 1000)] }, apart),
      "meeting",
    );
    expect(finding.sentence).toBe("Neck nod is below -5° while Beak is not below 12°: they would meet.");
    expect(finding.mends[0]).toEqual({ kind: "delay", stepId: "2", jointId: "neck-nod", delayMs: 1000 });
    const change = { steps: [move("1", "calls", 1000, { holdMs: 300 }), move("2", "bowed", 1000)] };
    const { project, routine } = withRoutine(change, apart);
    const mended = mendEdit(routine, finding.mends[0] as NonNullable<(typeof finding.mends)[0]>).apply(project);
    expect(mended.ok && examine(mended.value, scoreIn(mended.value)).findings).toEqual([]);
  });
  test("is put right in the pose where that itself is wrong", () => {
    const wrong = { ...apart, poses: [pose("bowed", { "neck-nod": -25, beak: 30 })] };
    expect(only(look({ steps: [move("1", "bowed", 1500, { holdMs: 200 })] }, wrong), "meeting").mends[0]).toEqual({
      kind: "poseTarget",
      poseId: "bowed",
      jointId: "beak",
      target: 12,
    });
  });
});

test("six servos that start at once ask for six stall currents; one after another for one, and what the others draw", () => {
  const all = demo.poses.filter((one) => one.group === "Tawny");
  const fed: Project = {
    ...bare,
    poses: all,
    supplies: [{ id: "supply-owl", label: "Supply", limitMa: 2500, gives: { kind: "adapter", volts: 5 } }],
    rails: demo.rails,
    // Wires that lose nothing, and boards that take nothing: what is left is the servos.
    runs: demo.runs.map((run) => ({
      ...run,
      lengthMm: 1,
      areaMm2: 4,
      connector: "soldered",
      fuse: null,
      hasSwitch: false,
    })),
    boards: demo.boards.map((board) => ({ ...board, power: { ...usualBoardPower, drawMa: 0 } })),
  };
  const steps = [move("1", "pose-watch", 900, { holdMs: 500 }), move("2", "pose-call", 900)];
  const finding = look({ steps }, fed).findings.find((one) => one.kind === "current" && one.stepId === "2");
  const owl = fed.joints.filter((joint) => joint.rigId === "tawny").map((joint) => byId(fed.cards, joint.cardId));
  const stalls = owl.reduce((sum, card) => sum + card.rating.stallMa, 0);
  expect((finding?.asked ?? 0) / stalls).toBeCloseTo(1, 2);
  // Through their own wires less: the station Power says the very same.
  const wired = look({ steps }, { ...fed, runs: demo.runs }).findings.find((one) => one.kind === "current");
  expect((wired?.asked ?? 0) / stalls).toBeLessThan(0.98);
  expect(finding?.mends).toEqual([{ kind: "stagger", stepId: "2", staggerMs: 80 }]);
  const apart = look({ steps: steps.map((step) => ({ ...step, staggerMs: 80 }) as Step) }, fed);
  expect(apart.currents[0]?.highestMa).toBeLessThan(2500);
  expect(apart.findings).toEqual([]);
});

test("the ghost follows what is asked, later and no faster than its servo", () => {
  const { ghosts, stepMs } = look({ steps: [move("1", "left", 1000), move("2", "right", 300, { holdMs: 2000 })] });
  const ghost = ghosts["neck-turn"] as Float32Array;
  const truth = demo.simulated.find((one) => one.cardId === "card-neck-turn");
  const most = truth?.kind === "positional" ? (truth.speedDegPerS * stepMs) / 1000 : 0;
  for (let at = 1; at < ghost.length; at += 1)
    expect(Math.abs((ghost[at] as number) - (ghost[at - 1] as number))).toBeLessThanOrEqual(most + 1e-4);
  // Its centre and its span are off, as its hidden truth has it; it turns and arrives all the same.
  expect((ghost.at(-1) as number) - (ghost[50] as number)).toBeGreaterThan(50);
  expect(ghost.at(-1)).toBe(ghost.at(-40));
});
