import { demoProject } from "@core/demo";
import { jointOf, shapeOf, snapshotLength } from "@core/engine";
import type { Project } from "@core/project";
import { expect, test } from "vitest";
import { Bench } from "./bench";

/** The greenhouse with an adapter of so many mA for the owl, ticked as a clock would. */
function benchWith(limitMa: number) {
  const demo = demoProject();
  const project: Project = {
    ...demo,
    leads: [],
    supplies: demo.supplies.map((one) => (one.id === "supply-owl" ? { ...one, limitMa } : one)),
  };
  const bench = new Bench();
  const news: string[] = [];
  bench.onNews = (sentence) => void news.push(sentence);
  bench.configure(project, 1);
  const weaken = (to: number) =>
    bench.configure(
      {
        ...project,
        supplies: project.supplies.map((one) => (one.id === "supply-owl" ? { ...one, limitMa: to } : one)),
      },
      2,
    );
  let nowMs = 0;
  const snapshot = new Float64Array(snapshotLength(shapeOf(project)));
  return {
    bench,
    news,
    weaken,
    give: (command: Parameters<Bench["command"]>[0]) => bench.command(command, nowMs),
    run(ms: number, each: () => void = () => {}) {
      for (const endMs = nowMs + ms; nowMs < endMs; nowMs += 5) {
        bench.tick(nowMs);
        each();
      }
    },
    read(jointId: string, field: Parameters<typeof jointOf>[2]) {
      bench.write(snapshot);
      return jointOf(
        snapshot,
        project.joints.findIndex(({ id }) => id === jointId),
        field,
      );
    },
  };
}
const owl = { low: "pose-watch", other: "pose-call" };

test("an adapter that is too weak breaks down as the owl turns: its board starts anew, says so, and its joints are limp; held again, nothing jumps", () => {
  const { give, run, read, news, bench, weaken } = benchWith(2500);
  run(500);
  give({ kind: "holdAll" });
  run(1500);
  weaken(700);
  run(500);
  expect(news.filter((one) => one.includes("Fern"))).toEqual([]);
  give({ kind: "goToPose", poseId: owl.other, moveMs: 300 });
  run(600);
  give({ kind: "goToPose", poseId: owl.low, moveMs: 300 });
  run(2500);
  expect(news.find((one) => one.startsWith("Fern went out"))).toContain("hold them again");
  expect(["neck-turn", "beak", "left-lid"].map((id) => read(id, "isHeld"))).toEqual([0, 0, 0]);
  // The arm has a supply of its own.
  expect(read("elbow", "isHeld")).toBe(1);
  expect(bench.linkReports.find(({ boardId }) => boardId === "fern")?.state).toBe("live");
  const stood = read("neck-turn", "actual");
  give({ kind: "hold", jointId: "neck-turn" });
  let furthest = 0;
  run(1000, () => {
    furthest = Math.max(furthest, Math.abs(read("neck-turn", "target") - read("neck-turn", "wish")));
  });
  expect(read("neck-turn", "isHeld")).toBe(1);
  expect(furthest).toBeLessThan(0.5);
  expect(Number.isFinite(stood)).toBe(true);
});

test("with what it has, a short start together is bridged, and the owl goes on", () => {
  const { give, run, read, news } = benchWith(2500);
  run(500);
  give({ kind: "holdAll" });
  run(1000);
  for (const poseId of [owl.other, owl.low, owl.other]) {
    give({ kind: "goToPose", poseId, moveMs: 300 });
    run(900);
  }
  expect(news).toEqual([]);
  expect(read("neck-turn", "isHeld")).toBe(1);
});

test("six metres of thin wire: the vent turns slower than it should, and the owl's neck does not", () => {
  const { give, run, bench } = benchWith(2500);
  run(500);
  give({ kind: "holdAll" });
  give({ kind: "target", jointId: "vent-crank", target: 1 });
  run(2000);
  expect(bench.simulation.servoOf("card-vent-crank")?.supplyShare).toBeLessThan(0.95);
  expect(bench.simulation.servoOf("card-neck-turn")?.supplyShare).toBeGreaterThan(0.97);
});
