import { demoProject } from "@core/demo";
import { assemblyOf, Chain } from "@core/figure";
import { tipLead } from "@core/inputs";
import { addLeads, applyEdit, jointsMovingTip, type Project, removeFigure, type TableAxis } from "@core/project";
import { seededRandom } from "@core/sim";
import { expect, test } from "vitest";
import { type Command, Engine, jointOf, shapeOf, snapshotLength } from ".";

const demo = demoProject();
const handId = "trellis-grip";
const arm = jointsMovingTip(demo, handId);

/** The bench with a knob, a slider and so on that lead the hand of the arm, each along one direction. */
function led(along: readonly TableAxis[]) {
  const knob = demo.sources.find(({ id }) => id === "bench-knob");
  if (!knob) throw new Error("no knob");
  const sources = along.map((axis) => ({ ...knob, id: `to-${axis}`, label: axis }));
  const leads = along.map((axis, at) => tipLead(demo, sources[at] ?? knob, handId, axis, `lead-${axis}`));
  const project: Project = { ...demo, sources: [...demo.sources, ...sources], leads };
  const engine = new Engine();
  let nowMs = 0;
  engine.configure(project, 1);
  engine.apply({ kind: "holdAll" });
  const tip = project.figures.flatMap(({ tips }) => tips).find(({ id }) => id === handId);
  if (!tip) throw new Error("no hand");
  const chain = new Chain(assemblyOf(project), tip, []);
  const read = (field: Parameters<typeof jointOf>[2]) => {
    const snapshot = new Float64Array(snapshotLength(shapeOf(project)));
    engine.write(snapshot);
    return project.joints.map((_, at) => jointOf(snapshot, at, field));
  };
  return {
    project,
    engine,
    read,
    run(ms: number) {
      for (const endMs = nowMs + ms; nowMs < endMs; nowMs += 20) engine.tick(nowMs);
    },
    /** Where the hand is by what the gate lets through. */
    tipMm() {
      chain.now.targets.set(read("target"));
      chain.stand();
      return [9, 10, 11].map((row) => chain.tip[row] as number);
    },
    /** Moves the source to what asks for so many mm. */
    ask(axis: TableAxis, mm: number) {
      const lead = leads.find(({ target }) => target.kind === "tip" && target.along === axis);
      const shaper = lead?.shapers[0];
      if (shaper?.kind !== "rangeMap") throw new Error("no range map");
      const share = (mm - shaper.to.low) / (shaper.to.high - shaper.to.low);
      const { low, high } = shaper.from;
      engine.apply({ kind: "source", sourceId: `to-${axis}`, value: low + share * (high - low) });
    },
  };
}

test("one knob moves the hand 40 mm to the left, and nowhere else", () => {
  const { run, tipMm, ask } = led(["y"]);
  run(100);
  const [x = 0, y = 0, z = 0] = tipMm();
  ask("y", y + 40);
  run(5000);
  const after = tipMm();
  expect(after[0]).toBeCloseTo(x, 0);
  expect(after[1]).toBeCloseTo(y + 40, 1);
  expect(after[2]).toBeCloseTo(z, 0);
});

test("two knobs are one hand on the joints: neither takes them from the other", () => {
  const { run, tipMm, ask, read, project } = led(["x", "y", "z"]);
  run(100);
  const [x = 0, y = 0, z = 0] = tipMm();
  ask("x", x - 20);
  run(60);
  ask("y", y + 30);
  run(5000);
  const after = tipMm();
  [x - 20, y + 30, z].forEach((mm, row) => {
    expect(after[row]).toBeCloseTo(mm, 0);
  });
  const owners = new Set(read("owner").filter((_, at) => arm.includes(project.joints[at]?.id ?? "")));
  expect(owners.size).toBe(1);
});

test("what a hand did to a joint meanwhile stands, but for the direction that is moved next", () => {
  const { run, tipMm, ask, engine } = led(["x", "y"]);
  run(100);
  const [x = 0, y = 0] = tipMm();
  ask("y", y + 30);
  run(5000);
  engine.apply({ kind: "jog", jointId: "wrist-tilt", in: "target", by: 20 });
  run(5000);
  const [, , lowered = 0] = tipMm();
  ask("x", x - 10);
  run(5000);
  expect(tipMm()[0]).toBeCloseTo(x - 10, 0);
  expect(tipMm()[2]).toBeCloseTo(lowered, 0);
});

test("a released joint stays limp, and the others make up for it", () => {
  const { run, tipMm, ask, read, engine, project } = led(["z"]);
  run(100);
  const [, , z = 0] = tipMm();
  engine.apply({ kind: "release", jointId: "elbow" });
  run(100);
  const elbow = project.joints.findIndex(({ id }) => id === "elbow");
  const before = read("target")[elbow];
  ask("z", z + 15);
  run(5000);
  expect(tipMm()[2]).toBeCloseTo(z + 15, 0);
  expect(read("target")[elbow]).toBe(before);
  expect(read("isHeld")[elbow]).toBe(0);
});

test("pads that may move only some joints see all that a tip moves; its leads go with its figure", () => {
  expect(arm).toEqual(expect.arrayContaining(["turntable", "shoulder", "elbow", "wrist-tilt"]));
  const lead = tipLead(demo, demo.sources[0] as never, handId, "x", "lead-x");
  const wired = addLeads([lead]).apply(demo);
  if (!wired.ok) throw new Error(wired.problem);
  const figureId = demo.figures.find(({ tips }) => tips.some(({ id }) => id === handId))?.id ?? "";
  const without = applyEdit(removeFigure(figureId), wired.value);
  if (!without.ok) throw new Error(without.problem);
  expect(without.value.leads.some(({ id }) => id === "lead-x")).toBe(false);
});

test("whatever hands, knobs and releases do: wishes stay numbers, and joints within their travel and their speed", () => {
  const random = seededRandom(4711);
  const bench = led(["x", "y", "z"]);
  bench.run(100);
  let before = bench.read("target");
  for (let step = 0; step < 3000; step += 1) {
    const jointId = arm[Math.floor(random() * arm.length)] ?? "elbow";
    const dice = random();
    const commands: readonly Command[] =
      dice < 0.6
        ? [{ kind: "source", sourceId: `to-${"xyz"[Math.floor(random() * 3)]}`, value: random() * 3000 - 1000 }]
        : dice < 0.7
          ? [{ kind: "jog", jointId, in: "target", by: random() * 60 - 30 }]
          : dice < 0.76
            ? [{ kind: "release", jointId }]
            : dice < 0.86
              ? [{ kind: "hold", jointId }]
              : dice < 0.9
                ? [{ kind: "letGo", sourceId: "to-x" }]
                : dice < 0.94
                  ? [{ kind: "goToPose", poseId: demo.poses[0]?.id ?? "", moveMs: 300 }]
                  : [{ kind: "stop" }];
    for (const command of commands) bench.engine.apply(command);
    bench.run(20);
    const after = bench.read("target");
    bench.read("wish").forEach((wish) => {
      expect(Number.isFinite(wish)).toBe(true);
    });
    demo.joints.forEach(({ axis }, at) => {
      if (axis.kind !== "angle" || !arm.includes(demo.joints[at]?.id ?? "")) return;
      const [now = 0, last = 0] = [after[at], before[at]];
      expect(now).toBeGreaterThanOrEqual(axis.travel.low - 1e-6);
      expect(now).toBeLessThanOrEqual(axis.travel.high + 1e-6);
      if (axis.speedLimitDegPerS !== null)
        expect(Math.abs(now - last)).toBeLessThanOrEqual(axis.speedLimitDegPerS * 0.02 + 1e-6);
    });
    before = after;
  }
});
