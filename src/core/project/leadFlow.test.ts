import { demoProject } from "@core/demo";
import type { Shaper } from "@core/shapers";
import { expect, test } from "vitest";
import { addLeads, checkLead, checkProject, editSource, flowsOf, type Lead, removeSource, setTravel } from ".";

const demo = demoProject();
const lead = (sourceId: string, target: Lead["target"], shapers: readonly Shaper[]): Lead => ({
  id: "new",
  sourceId,
  target,
  shapers: [...shapers],
  isMuted: false,
});
const joint = (jointId: string) => ({ kind: "joint", jointId }) as const;
const thousand = { low: 0, high: 1000 };
const onto = (low: number, high: number): Shaper => ({ kind: "rangeMap", from: thousand, to: { low, high } });
const threshold: Shaper = { kind: "threshold", on: 600, off: 400, dwellMs: 0 };

test("what runs through a chain: 0…1000, then −1…1, then twice that", () => {
  const flows = flowsOf(
    lead("bench-knob", joint("vent-crank"), [onto(-1, 1), { kind: "scale", by: -2 }]),
    demo.sources,
  );
  expect(flows).toMatchObject({ ok: true, value: [thousand, { low: -1, high: 1 }, { low: -2, high: 2 }] });
});

test.each<[string, Lead, string]>([
  [
    "a raw knob on a spin",
    lead("bench-knob", joint("vent-crank"), []),
    "spins and takes −1 to 1; this gives 0 to 1000",
  ],
  [
    "an amount that should act",
    lead("bench-knob", { kind: "action", action: { kind: "stop" } }, []),
    "put a threshold before it",
  ],
  ["a toggle after an amount", lead("bench-knob", joint("beak"), [{ kind: "toggle" }]), "put a threshold before it"],
  [
    "degrees for a blend",
    lead("bench-knob", { kind: "blend", fromPoseId: "pose-watch", toPoseId: "pose-call" }, [onto(0, 90)]),
    "end with a range map onto 0 to 1",
  ],
  ["angles that the joint never has", lead("bench-knob", joint("beak"), [onto(50, 90)]), "all of it outside"],
  ["a source that is gone", lead("nowhere", joint("beak"), []), "no source “nowhere”"],
])("%s is refused when it is wired, in words", (_, wired, says) => {
  expect(addLeads([wired]).apply(demo)).toMatchObject({ ok: false, problem: expect.stringContaining(says) });
});

test("speed from a knob, direction from a switch: −1…1 for the crank", () => {
  const direction: Shaper = {
    kind: "combine",
    sourceId: "vent-way",
    to: { low: -1, high: 1 },
    how: "product",
    share: 0.5,
  };
  expect(addLeads([lead("bench-knob", joint("vent-crank"), [onto(0, 1), direction])]).apply(demo).ok).toBe(true);
});

test("a sensor says when through a threshold", () => {
  const opens = { kind: "action", action: { kind: "goToPose", poseId: "pose-watch", moveMs: 400 } } as const;
  expect(checkLead(lead("dusk", opens, [threshold]), demo).ok).toBe(true);
});

test("limits drawn in later make no project unreadable; a source that is taken away takes its leads along", () => {
  expect(setTravel("neck-turn", 75, 80).apply(demo).ok).toBe(true);
  const without = removeSource("stick-x").apply(demo);
  if (!without.ok) throw new Error(without.problem);
  expect(without.value.sources.some((source) => source.origin.kind === "stick")).toBe(false);
  expect(without.value.leads.map((one) => one.id)).not.toContain("lead-stick-nod");
});

test("a file with a lead that gives too much is read all the same: the gate holds it back", () => {
  const leads = [lead("bench-knob", joint("vent-crank"), [onto(-70, 70)])];
  expect(checkProject({ ...demo, leads }).ok).toBe(true);
});

test("a source cannot become what a lead of its cannot take", () => {
  const toKnob = editSource("call-button", "kind", (source) => ({ ...source, origin: { kind: "knob" } }));
  expect(toKnob.apply(demo)).toMatchObject({ ok: false, problem: expect.stringContaining("put a threshold") });
});
