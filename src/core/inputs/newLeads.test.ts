import { demoProject } from "@core/demo";
import type { OriginKind } from "@core/origins";
import { addLeads, addSources, asOthers, byId, type Project } from "@core/project";
import { newShaper, type ShaperKind, shaperNames } from "@core/shapers";
import { expect, test } from "vitest";
import { fromTemplate, newSources, type Template, templateNames } from ".";

const demo = demoProject();
let count = 0;
const newId = () => `new-${++count}`;
const bare: Project = { ...demo, sources: [], leads: [], pads: [] };

test.each(Object.keys(templateNames) as Template[])(
  "%s is ready wired, with the sources it needs where there are none",
  (template) => {
    const joint = byId(demo.joints, template === "knobAndSwitch" ? "vent-crank" : "neck-turn");
    for (const project of [demo, bare]) {
      const wired = fromTemplate(template, project, joint, newId);
      if (!wired.ok) throw new Error(wired.problem);
      expect(addLeads(wired.value.leads, wired.value.sources).apply(project)).toMatchObject({ ok: true });
    }
  },
);

test("what the selected joint cannot do is refused with what would be right", () => {
  const crank = byId(demo.joints, "vent-crank");
  expect(fromTemplate("knobToAngle", demo, crank, newId)).toMatchObject({ ok: false });
  expect(fromTemplate("knobAndSwitch", demo, byId(demo.joints, "beak"), newId)).toMatchObject({
    ok: false,
    problem: expect.stringContaining("Select a joint that spins"),
  });
});

const kinds: OriginKind[] = [
  "knob",
  "slider",
  "stick",
  "encoder",
  "button",
  "toggle",
  "keypad",
  "key",
  "gamepad",
  "midi",
  "line",
  "sensor",
  "wave",
];

test.each(kinds)("a new %s can lie on the bench", (kind) => {
  const sources = newSources(kind, "One", newId);
  expect(sources).toHaveLength(kind === "stick" ? 2 : 1);
  expect(addSources(sources).apply(demo).ok).toBe(true);
});

test.each(Object.keys(shaperNames) as ShaperKind[])("a new %s begins with numbers that can be", (kind) => {
  const shaper = newShaper(kind, 0, 1000, asOthers(demo.sources));
  if (!shaper) throw new Error("It needs another source.");
  const before = kind === "toggle" || kind === "latch" || kind === "press" ? newShaper("threshold", 0, 1000, []) : null;
  const lead = {
    id: newId(),
    sourceId: "bench-knob",
    target: { kind: "joint" as const, jointId: "neck-turn" },
    shapers: before ? [before, shaper] : [shaper],
    isMuted: false,
  };
  expect(addLeads([lead]).apply(demo)).toMatchObject({ ok: true });
});
