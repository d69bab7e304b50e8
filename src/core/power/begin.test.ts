import { applyEdit, type Project, setWiring } from "@core/project";
import { expect, test } from "vitest";
import { netOf, review, wiringForAll } from ".";
import { adapter, bench, demo, joint, plainCard, rail, supply, wire } from "./fixtures";

let ids = 0;
const wired = (project: Project): Project => {
  const done = applyEdit(
    setWiring(
      "Wire",
      wiringForAll(project, () => `new-${++ids}`),
    ),
    project,
  );
  if (!done.ok) throw new Error(done.problem);
  return done.value;
};

test("the greenhouse without a wire: an adapter for each voltage, all servos and boards fed, and nothing to be said of it", () => {
  const bare: Project = { ...demo, supplies: [], rails: [], runs: [] };
  const made = wired(bare);
  expect(made.supplies.map(({ gives }) => gives)).toEqual([
    { kind: "adapter", volts: 5 },
    { kind: "adapter", volts: 12 },
  ]);
  expect([...netOf(made).isFed]).not.toContain(0);
  expect(review(made).filter(({ weight }) => weight !== "mind")).toEqual([]);
  // Done once more there is nothing to do.
  expect(wiringForAll(made, () => "no")).toEqual({ supplies: [], rails: [], runs: [] });
});

test("a rail that feeds servos of the same rating takes more of them", () => {
  const project = bench(3, {
    supplies: [adapter("s", 5, 9000)],
    rails: [{ id: "r", label: "Rail" }],
    runs: [wire("in", supply("s"), rail("r"), 0.01), wire("a", rail("r"), joint("j0"), 0.05)],
  });
  const made = wired({ ...project, cards: [...project.cards.slice(0, 2), plainCard("card-2", { atVolts: 12 })] });
  expect(made.runs.filter(({ from, to }) => from.id === "r" && to.kind === "joint")).toHaveLength(2);
  expect(made.supplies).toHaveLength(2);
});
